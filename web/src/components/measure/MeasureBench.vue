<script setup lang="ts">
/** One reading at a time, large enough to read from two metres; keyboard alone, or a thumb. */
import { ElButton, ElProgress } from 'element-plus'
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue'
import FindingLine from './FindingLine.vue'
import FoundationLine from './FoundationLine.vue'
import MethodForm from './MethodForm.vue'
import ReadingSoFar from './ReadingSoFar.vue'
import ReviewList from './ReviewList.vue'
import SetList from './SetList.vue'
import TapeLine from './TapeLine.vue'
import ThumbPad from './ThumbPad.vue'
import { post, send } from '@/api/client'
import type { CheckView, EntryView, Finding, SessionRowView, Side, Taken } from '@/api/types'
import FigurePicture from '@/components/FigurePicture.vue'
import FootBar from '@/components/FootBar.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHouse } from '@/composables/useHouse'
import { useMedia } from '@/composables/useMedia'
import { useMeasuring } from '@/composables/useMeasuring'
import type { ReadingDraft } from '@/composables/useMeasuring'
import { fieldsRead } from '@/composables/usePendingFields'
import { asDay } from '@/days'

const props = defineProps<{ sessionId: number }>()
const emit = defineEmits<{ changed: []; closed: [] }>()

const at = ref(0)
const text = ref('')
const side = ref<Side>('both')
const again = ref(false)
const note = ref('')
const noting = ref(false)
const method = shallowRef<Taken>()
const skipping = ref(false)
const reason = ref('')
const initials = ref('')
const reviewing = ref(false)
const live = shallowRef<CheckView>()
/** What `live` was said of: a slow answer to "15 3/" must not stop "15 3/4". */
let checked = ''
const field = useTemplateRef<HTMLInputElement>('reading')
const initialsField = useTemplateRef<HTMLInputElement>('initialsField')
const noteField = useTemplateRef<HTMLInputElement>('noteField')

const { craft } = useHouse()
const measuring = useMeasuring(() => props.sessionId, {
  refused: (draft) => void giveBack(draft),
  held: (tape) => {
    const unit = tape.unit === 'inch' ? 'in' : tape.unit
    text.value = tape.unit === session.value?.unit ? tape.text : `${tape.text} ${unit}`
    field.value?.focus()
  },
})
const { session, rows, problem, unread, waiting, tape, live: connected, saved } = measuring

const row = computed(() => rows.value[at.value])
const code = computed(() => row.value?.measurement.code ?? '')
const entry = computed(() => measuring.entryOf(row.value, side.value))
const previous = computed(
  () => row.value?.previous.find((p) => p.side === side.value) ?? row.value?.previous[0],
)
const taken = computed(() => rows.value.filter(measuring.isTaken).length)
const done = computed(
  () => rows.value.length > 0 && rows.value.every((each) => measuring.isTaken(each) || each.skipped != null),
)
const closed = computed(() => session.value?.closed_at)
const findings = computed<Finding[]>(() =>
  text.value.trim() && live.value ? live.value.findings : (entry.value?.findings ?? []),
)
const figure = computed(() => {
  const view = row.value?.measurement.tape.view
  return view === 'back' ? session.value?.back : view === 'side' ? session.value?.side : session.value?.front
})
/** A thumb has its own digits; the device's keyboard would cover half of the screen. */
const thumb = useMedia('(max-width: 700px), (pointer: coarse)')
const FROM = { front: 'From the front', back: 'From behind', side: 'From the side' } as const
const isOpen = (index: number) => {
  const each = rows.value[index]
  return each && each.skipped == null && !measuring.isTaken(each)
}

let first = true
watch(session, () => {
  if (!first || !session.value) return
  first = false
  const open = rows.value.findIndex((_, index) => isOpen(index))
  void go(open === -1 ? 0 : open)
})

async function go(index: number, onSide: Side = 'both'): Promise<void> {
  reviewing.value = false
  at.value = Math.min(rows.value.length - 1, Math.max(0, index))
  const only = row.value?.entries[0]?.side
  side.value = onSide === 'both' && only && row.value?.entries.every((e) => e.side !== 'both') ? only : onSide
  text.value = ''
  live.value = undefined
  skipping.value = false
  noting.value = false
  again.value = false
  method.value = undefined
  reason.value = ''
  note.value = ''
  await nextTick()
  field.value?.focus()
}

/** What the server turned down is put back into its field: nothing typed is lost. */
async function giveBack(draft: ReadingDraft): Promise<void> {
  const index = rows.value.findIndex((each) => each.measurement.code === draft.code)
  await measuring.reload()
  await go(index === -1 ? at.value : index, draft.side)
  text.value = draft.text
  again.value = draft.again
  note.value = draft.note
  method.value = draft.taken ?? undefined
}

let checking: AbortController | undefined
/** Every keystroke is read and doubted by the core; only the newest answer is shown. */
async function check(): Promise<void> {
  checking?.abort()
  if (text.value.trim() === '' || !row.value) {
    live.value = undefined
    return
  }
  const { signal } = (checking = new AbortController())
  const body = {
    code: code.value,
    side: side.value,
    text: text.value,
    taken: method.value ?? null,
    again: again.value,
  }
  const result = await send(
    post('/api/sessions/{id}/check', { params: { path: { id: props.sessionId } }, body }),
    { signal },
  )
  if (signal.aborted || !result.ok) return
  checked = body.text
  live.value = result.value
}
watch([text, side, again, method], () => void check())

function nextOpen(from: number): number {
  const order = [...rows.value.keys()].map((index) => (from + 1 + index) % rows.value.length)
  return order.find((index) => isOpen(index)) ?? Math.min(from + 1, rows.value.length - 1)
}

const draftOf = (typed: string, stands: string | null): ReadingDraft => ({
  code: code.value,
  side: side.value,
  text: typed,
  taken: method.value ?? null,
  note: note.value,
  stands,
  again: again.value,
  saw: entry.value?.takes.at(-1)?.id ?? 0,
})

/** What stands in the field cannot be a body: it is kept only with initials behind it. */
const impossible = computed(
  () =>
    text.value.trim() !== '' &&
    live.value?.findings.some((finding) => finding.grade === 'stop') === true &&
    checked === text.value,
)

async function record(stands: string | null = null): Promise<void> {
  // Ease that was typed a moment ago belongs to this reading.
  if (!row.value || closed.value || !(await fieldsRead())) return
  if (text.value.trim() === '') {
    // Where nothing is left to take, the next step is to look it over.
    if (done.value) reviewing.value = true
    else await go(at.value + 1)
    return
  }
  if (live.value?.fault && checked === text.value) {
    field.value?.focus()
    return
  }
  if (impossible.value && !stands) {
    initialsField.value?.focus()
    return
  }
  const here = at.value
  const from = side.value
  const wantsThird = live.value?.findings.some((finding) => finding.kind === 'repeat')
  const sent = measuring.record(draftOf(text.value.trim(), stands))
  initials.value = ''
  // Left is followed by right, a repeat too far off by a third take, anything else by what is still open.
  if (wantsThird) {
    await go(here, from)
    again.value = true
  } else if (from === 'left') await go(here, 'right')
  else await go(nextOpen(here))
  await sent
  emit('changed')
}

async function letStand(which: SessionRowView, what: EntryView, by: string): Promise<void> {
  const last = what.takes.at(-1)
  if (!last) return
  await measuring.record({
    code: which.measurement.code,
    side: what.side,
    text: last.typed,
    taken: last.taken,
    note: last.note,
    stands: by,
    again: false,
    saw: last.id,
  })
  initials.value = ''
}

/** Takes a repaired figure, or exchanges two rows that stand in each other's place. */
async function repair(finding: Finding): Promise<void> {
  if (!finding.repair) return
  const neighbour = rows.value.find((each) => each.measurement.code === finding.repair?.exchange_with)
  if (!neighbour) {
    text.value = finding.repair.text
    const { school } = finding.repair
    // The figure stays: it was taken otherwise than the house does.
    const way = method.value ?? row.value?.house_way
    if (school && way) method.value = { ...way, schools: { ...way.schools, [school.matter]: school.code } }
    return
  }
  const typed = text.value.trim() || entry.value?.takes.at(-1)?.typed || ''
  const theirs = neighbour.entries[0]?.takes.at(-1)
  const here = at.value
  await measuring.record({ ...draftOf(theirs?.typed ?? finding.repair.text, null), again: false })
  await measuring.record({
    ...draftOf(typed, null),
    code: neighbour.measurement.code,
    side: 'both',
    again: false,
    saw: theirs?.id ?? 0,
  })
  await go(here)
}

async function skip(): Promise<void> {
  const here = at.value
  const sent = measuring.skip(code.value, reason.value)
  await go(nextOpen(here))
  await sent
  emit('changed')
}

async function showNote(): Promise<void> {
  noting.value = true
  await nextTick()
  noteField.value?.focus()
}

/** Letters are commands while nothing is typed. */
const COMMANDS: Record<string, () => void> = {
  b: () => void go(at.value - 1),
  s: () => (skipping.value = true),
  r: () => (again.value = Boolean(entry.value)),
  n: () => void showNote(),
  l: () => (side.value = row.value?.measurement.sides ? 'left' : 'both'),
  g: () => (side.value = row.value?.measurement.sides ? 'right' : 'both'),
}

function keyed(event: KeyboardEvent): void {
  if (event.key === 'Enter') {
    event.preventDefault()
    void record()
  } else if (text.value === '' && !event.ctrlKey && !event.metaKey && COMMANDS[event.key]) {
    event.preventDefault()
    COMMANDS[event.key]?.()
  }
}

/** While readings wait for the line, their own words say so: nothing has to be tried again by hand. */
const shownProblem = computed(() => {
  const waits = waiting.value.size > 0 && unread.value?.status === 0
  return problem.value ?? (waits ? undefined : unread.value)
})

async function close(name: string): Promise<void> {
  if (await measuring.sign(name)) emit('closed')
}
</script>

<template>
  <div class="stack">
    <ProblemNote :problem="shownProblem" />
    <p v-if="waiting.size" class="decide" role="status">
      No connection: {{ waiting.size === 1 ? 'one reading is' : `${waiting.size} readings are` }} kept on this
      device and sent when the line is back.
    </p>
    <ReviewList
      v-if="reviewing"
      :rows="rows"
      :waiting="waiting.size"
      @back="go(at)"
      @go="go"
      @stands="letStand"
      @sign="close"
    />
    <template v-else-if="session && row">
      <div class="between">
        <h1 id="page-title">{{ row.measurement.name }}</h1>
        <p class="row">
          <span class="figure" aria-live="polite">{{ taken }} of {{ rows.length }} taken</span>
          <ElProgress
            :percentage="Math.round((100 * taken) / rows.length)"
            :show-text="false"
            :stroke-width="8"
            class="progress"
            aria-label="Readings taken"
          />
        </p>
      </div>
      <div class="bench">
        <section class="entry stack" aria-label="Reading">
          <p class="how">{{ row.measurement.how }}</p>
          <p class="small soft">Mind: {{ row.measurement.mistake }}</p>
          <fieldset v-if="row.measurement.sides" class="chips">
            <legend class="visually-hidden">Side</legend>
            <label v-for="each in craft?.sides" :key="each.side" class="chip">
              <input v-model="side" type="radio" :value="each.side" name="side" :disabled="Boolean(closed)" />
              <span
                >{{ each.name
                }}<template v-if="measuring.entryOf(row, each.side)"
                  >: {{ measuring.entryOf(row, each.side)?.figure.text }}</template
                ></span
              >
            </label>
          </fieldset>
          <div v-if="!closed" class="field">
            <label for="reading"
              >{{ row.measurement.name }}{{ side === 'both' ? '' : `, ${side}` }},
              {{ session.unit === 'inch' ? 'inches' : session.unit }}{{ again ? ', once more' : '' }}</label
            >
            <input
              id="reading"
              ref="reading"
              v-model="text"
              class="plain big figure"
              type="text"
              autocomplete="off"
              :inputmode="thumb ? 'none' : 'text'"
              :placeholder="again ? '' : (entry?.figure.text ?? previous?.length.text ?? '')"
              :aria-invalid="live?.fault != null"
              aria-describedby="reading-says"
              @keydown="keyed"
            />
          </div>
          <ThumbPad v-if="thumb && !closed" v-model="text" :unit="session.unit" />
          <div id="reading-says" aria-live="polite" class="stack says">
            <p v-if="live?.fault && text.trim()" class="decide">{{ live.fault }}</p>
            <FindingLine
              v-for="(finding, index) in findings"
              :key="index"
              :finding="finding"
              :quiet="Boolean(closed)"
              @repair="repair"
            />
            <div v-if="impossible && !closed" class="row">
              <label for="impossible">If it stands all the same, your initials</label>
              <input
                id="impossible"
                ref="initialsField"
                v-model="initials"
                class="plain initials"
                type="text"
                maxlength="12"
                @keydown.enter.prevent="initials.trim() && record(initials.trim())"
              />
              <ElButton :disabled="!initials.trim()" @click="record(initials.trim())">It stands</ElButton>
            </div>
            <div
              v-if="
                entry && entry.findings.some((f) => f.grade !== 'note') && !entry.stands && !text && !closed
              "
              class="row"
            >
              <label for="initials">Measured again, it stands; initials</label>
              <input id="initials" v-model="initials" class="plain initials" type="text" maxlength="12" />
              <ElButton :disabled="!initials.trim()" @click="letStand(row, entry, initials)"
                >It stands</ElButton
              >
            </div>
            <ReadingSoFar
              :row="row"
              :entry="entry"
              :previous="previous"
              :closed="Boolean(closed)"
              @corrected="measuring.reload"
            />
          </div>
          <form v-if="skipping" class="row" @submit.prevent="skip">
            <label for="reason">Why is it left out?</label>
            <input id="reason" v-model="reason" class="plain" type="text" maxlength="200" />
            <ElButton native-type="submit">Leave it out</ElButton>
          </form>
          <div v-if="noting" class="field">
            <label for="note">A word about this reading</label>
            <input
              id="note"
              ref="noteField"
              v-model="note"
              class="plain"
              type="text"
              maxlength="200"
              @keydown.enter.prevent="field?.focus()"
            />
          </div>
          <MethodForm v-if="method" v-model="method" :code="code" />
          <div v-if="!closed" class="row acts">
            <div class="saves"><ElButton type="primary" @click="record()">Save and next</ElButton></div>
            <div class="row">
              <ElButton :disabled="at === 0" @click="go(at - 1)">Back</ElButton>
              <ElButton @click="skipping = !skipping">Skip</ElButton>
              <ElButton v-if="entry" :aria-pressed="again" @click="again = !again">Repeat</ElButton>
              <ElButton v-if="!noting" @click="showNote">Note</ElButton>
              <ElButton v-if="!method" @click="method = entry?.takes.at(-1)?.taken ?? row.house_way"
                >Taken how?</ElButton
              >
            </div>
          </div>
          <p class="small soft keys">
            Enter saves and goes on; in an empty field <kbd>b</kbd> back, <kbd>s</kbd> skip,
            <kbd>r</kbd> repeat, <kbd>n</kbd> note<template v-if="row.measurement.sides"
              >, <kbd>l</kbd> left, <kbd>g</kbd> right</template
            >.
          </p>
          <TapeLine v-if="!closed" :session="sessionId" :tape="tape" />
          <p class="visually-hidden" aria-live="assertive">{{ saved }}</p>
        </section>
        <div class="picture">
          <FigurePicture
            v-if="figure"
            :figure="figure"
            :tape="row.tape"
            :label="`The tape for ${row.measurement.name}, ${row.measurement.tape.view} view`"
          />
          <p class="small soft">
            {{ FROM[row.measurement.tape.view] }}: {{ [...new Set(row.tape?.names)].join(', ') }}
          </p>
        </div>
        <section aria-label="The set" class="set">
          <FoundationLine
            :session="sessionId"
            :worn="session.foundation"
            :before="session.foundation_before"
            :closed="Boolean(closed)"
            @said="measuring.reload"
          />
          <SetList :rows="rows" :at="at" :waiting="waiting" @go="go" />
          <div class="stack finish">
            <p class="small soft">
              {{ session.set }}. Begun {{ asDay(session.started_at) }} by {{ session.measurer
              }}<template v-if="session.signed">, signed {{ session.signed }}</template
              >.
              <template v-if="!closed">
                {{
                  connected ? 'Other devices see each reading at once.' : 'Not connected to other devices.'
                }}
              </template>
            </p>
            <a :href="`/api/sessions/${sessionId}/sheet.pdf`">Print this sheet</a>
          </div>
        </section>
      </div>
      <FootBar v-if="!closed">
        <ElButton :type="done ? 'primary' : 'default'" @click="reviewing = true">
          {{ done ? 'Review and close' : 'Review, the rest later' }}
        </ElButton>
        <span v-if="done" class="decide" role="status"
          >Nothing is left to take: Enter in the empty field looks it over.</span
        >
      </FootBar>
    </template>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: minmax(19rem, 1.2fr) minmax(12rem, 0.8fr) 17rem;
  gap: 1.6rem;
  align-items: start;
}
.progress {
  width: 7rem;
}
.how {
  font-size: 1.15rem;
}
.big {
  font-size: 3.4rem !important;
  line-height: 1.1;
  padding: 0.3rem 0.7rem !important;
}
.big::placeholder {
  color: var(--ink-soft);
  opacity: 0.55;
}
.says {
  gap: 0.5rem;
}
.initials {
  width: 5rem !important;
}
.picture :deep(svg) {
  max-height: 60vh;
}
.set :deep(.foundation) {
  margin-bottom: 0.7rem;
}
.finish {
  margin-top: 0.8rem;
  gap: 0.5rem;
}
kbd {
  font: 700 0.85rem var(--sans);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 0 0.35em;
}
.acts > .saves {
  padding: 0;
  background: none;
}
@media (max-width: 1100px) {
  .bench {
    grid-template-columns: 1.3fr 0.8fr;
  }
  .set {
    grid-column: 1 / -1;
  }
}
@media (max-width: 700px) {
  .bench {
    grid-template-columns: minmax(0, 1fr) 96px;
    gap: 0.8rem;
  }
  .entry {
    display: contents;
  }
  .entry > * {
    grid-column: 1 / -1;
  }
  .entry > .how,
  .entry > .how + p {
    grid-column: 1;
  }
  .picture {
    grid-column: 2;
    grid-row: 1 / span 2;
  }
  /* Digits and the button that saves are on the first screen; what is seldom pressed lies below. */
  .picture :deep(svg) {
    max-height: 108px;
  }
  .big {
    font-size: 2rem !important;
  }
  .acts {
    display: contents;
  }
  .acts > * {
    grid-column: 1 / -1;
  }
  .acts > .saves {
    padding-block: 0.5rem;
    background: var(--paper);
  }
  .acts > .saves > .el-button {
    width: 100%;
  }
  .picture p,
  .keys {
    display: none;
  }
  .set {
    grid-column: 1 / -1;
  }
}
</style>
