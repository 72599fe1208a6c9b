<script setup lang="ts">
/** One thing seen: where, what, how it lies, how much. Made for one thumb; the words are the trade's. */
import { ElButton, ElInput } from 'element-plus'
import { computed, reactive, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { post, send } from '@/api/client'
import type { Drawn, ObservationEntry, PinsAsked, PinsView, Problem, RoundView } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import FootBar from '@/components/FootBar.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useHouse } from '@/composables/useHouse'
import { useUnsaved } from '@/composables/useUnsaved'
import PointingBoard from './PointingBoard.vue'
import type { Pointed } from './PointingBoard.vue'

const props = defineProps<{
  round: RoundView
  /** Keeps an entry; resolves with why it was turned down. */
  keep: (entry: ObservationEntry) => Promise<Problem | undefined>
}>()
const { craft, unit } = useHouse()
const placeField = useTemplateRef<{ focus: (options?: FocusOptions) => void }>('placeField')
const places = computed(() => craft.value?.places.map((place) => ({ value: place, label: place })) ?? [])
const problem = shallowRef<Problem>()
const busy = ref(false)

/** What stands in the fields: nothing is chosen where the words are empty. */
interface Fields extends Omit<
  Required<ObservationEntry>,
  'kind' | 'lie' | 'towards' | 'drawn' | 'seen_at' | 'goes_when'
> {
  goes_when: ObservationEntry['posture'] | ''
  towards: string
  kind: ObservationEntry['kind'] | ''
  lie: PinsAsked['lie'] | ''
  pinned_as: PinsAsked['pinned_as']
  pinned_on: PinsAsked['pinned_on']
  drawn: Drawn | undefined
}
const fresh = (): Fields => ({
  place: '',
  towards: '',
  kind: '',
  lie: '',
  side: 'both',
  posture: 'standing',
  goes_when: '',
  how_far: '',
  sureness: 'sure',
  note: '',
  depth: '',
  pinned_as: 'pinch',
  pinned_on: 'both_sides',
  drawn: undefined,
})
const seen = reactive(fresh())
const kind = computed(() => craft.value?.observation_kinds.find((each) => each.kind === seen.kind))
/** How far is asked of what lies elsewhere than it should. */
const isOff = computed(() => ['hike', 'place', 'point'].includes(seen.kind))
/** What may go in another posture: every one but the one it is seen in. */
const goesWhen = computed(() =>
  (craft.value?.postures ?? [])
    .filter(({ posture }) => posture !== seen.posture && posture !== 'standing')
    .map(({ posture, name }) => ({ value: posture, label: name })),
)
const PINNED_ON = [
  { on: 'both_sides', name: 'both sides alike' },
  { on: 'one_side', name: 'one side, for both' },
  { on: 'that_side', name: 'that side alone' },
]

/** Chosen by hand: an entry that is taken up again keeps what it came with. */
function chooseKind(): void {
  seen.lie = ''
}
function chooseSide(): void {
  seen.pinned_on = seen.side === 'both' ? 'both_sides' : 'that_side'
}

function point(pointed: Pointed): void {
  seen.place = pointed.place
  seen.towards = pointed.towards ?? ''
  seen.drawn = pointed.drawn
}

const pins = shallowRef<PinsView | null>()
watch(
  () => [seen.depth, seen.pinned_as, seen.pinned_on, seen.lie] as const,
  async ([depth, pinned_as, pinned_on, lie], _, onCleanup) => {
    pins.value = null
    // A fraction that is still being typed is not asked about: "3/" is no length yet.
    if (!depth.trim() || /[/.,-]\s*$/.test(depth)) return
    const own = new AbortController()
    onCleanup(() => own.abort())
    const asked = { depth, pinned_as, pinned_on, lie: lie || null }
    const result = await send(post('/api/pins', { body: asked }), { signal: own.signal })
    if (result.ok && !own.signal.aborted) pins.value = result.value
  },
)

async function keepIt(): Promise<void> {
  const { kind } = seen
  if (!seen.place || !kind) {
    const field = seen.place ? 'what it looks like' : 'where it is'
    problem.value = { type: '', title: 'Not yet', status: 0, detail: `choose ${field}` }
    return
  }
  if (busy.value) return
  busy.value = true
  const entry: ObservationEntry = {
    ...seen,
    kind,
    towards: seen.towards || null,
    lie: seen.lie || null,
    goes_when: seen.goes_when || null,
    how_far: isOff.value ? seen.how_far : '',
    seen_at: new Date().toISOString(),
  }
  problem.value = await props.keep(entry)
  busy.value = false
  // What was turned down stays in the form, with the sentence that says why.
  if (problem.value) return
  Object.assign(seen, fresh())
  // The next one begins with its place.
  placeField.value?.focus({ preventScroll: true })
}

/** Something is written here that is not kept yet. */
const halfWritten = computed(() => JSON.stringify(seen) !== JSON.stringify(fresh()))
useUnsaved(() => halfWritten.value)

/** Puts an entry that was turned down back into the form. */
function takeUp(entry: Partial<ObservationEntry>): void {
  Object.assign(seen, fresh(), entry, {
    towards: entry.towards ?? '',
    lie: entry.lie ?? '',
    goes_when: entry.goes_when ?? '',
  })
}
defineExpose({ takeUp })
</script>

<template>
  <form class="card form" @submit.prevent="keepIt">
    <PointingBoard
      :front="round.front"
      :back="round.back"
      :side="round.side"
      :places="round.places"
      :pieces="round.pieces"
      :piece-places="round.piece_places"
      :chosen="seen.place"
      :towards="seen.towards"
      :drawn="seen.drawn"
      @pointed="point"
    />
    <div class="stack fields">
      <div class="where">
        <ChoiceField
          id="place"
          ref="placeField"
          :model-value="seen.place || undefined"
          label="Where"
          none="tap it, or choose"
          :choices="places"
          @update:model-value="seen.place = $event ?? ''"
        />
        <ChoiceField
          id="towards"
          :model-value="seen.towards || undefined"
          label="Points at"
          none="nothing"
          :choices="places"
          @update:model-value="seen.towards = $event ?? ''"
        />
      </div>
      <fieldset class="chips">
        <legend class="legend">What</legend>
        <label v-for="each in craft?.observation_kinds" :key="each.kind" class="chip" :title="each.looks">
          <input
            v-model="seen.kind"
            type="radio"
            name="kind"
            :value="each.kind"
            @change="chooseKind"
          /><span>{{ each.name }}</span>
        </label>
      </fieldset>
      <p v-if="kind" class="small soft">{{ kind.looks }}</p>
      <fieldset v-if="kind?.lies.length" class="chips">
        <legend class="legend">{{ kind.kind === 'fold' ? 'It lies' : 'It goes' }}</legend>
        <label v-for="each in kind.lies" :key="each.lie" class="chip">
          <input v-model="seen.lie" type="radio" name="lie" :value="each.lie" /><span>{{ each.name }}</span>
        </label>
      </fieldset>
      <fieldset class="chips">
        <legend class="legend">On</legend>
        <label v-for="each in craft?.sides" :key="each.side" class="chip">
          <input
            v-model="seen.side"
            type="radio"
            name="side"
            :value="each.side"
            @change="chooseSide"
          /><span>{{ each.name }}</span>
        </label>
      </fieldset>
      <fieldset class="chips">
        <legend class="legend">When</legend>
        <label v-for="each in craft?.postures" :key="each.posture" class="chip">
          <input v-model="seen.posture" type="radio" name="posture" :value="each.posture" /><span>{{
            each.name
          }}</span>
        </label>
      </fieldset>
      <ChoiceField
        id="goes-when"
        :model-value="seen.goes_when || undefined"
        label="Gone when"
        none="it stays"
        :choices="goesWhen"
        @update:model-value="seen.goes_when = $event ?? ''"
      />
      <div v-if="isOff" class="field">
        <label for="how-far">How far it is off, {{ unit }}</label>
        <ElInput id="how-far" v-model="seen.how_far" autocomplete="off" placeholder="not measured" />
      </div>
      <div class="field">
        <label for="depth">How much is pinned, {{ unit }}</label>
        <ElInput id="depth" v-model="seen.depth" autocomplete="off" placeholder="nothing" />
      </div>
      <template v-if="seen.depth.trim()">
        <fieldset class="chips">
          <legend class="legend">Measured as</legend>
          <label class="chip"
            ><input v-model="seen.pinned_as" type="radio" value="pinch" /><span
              >fold as it stands up, twice</span
            ></label
          >
          <label class="chip"
            ><input v-model="seen.pinned_as" type="radio" value="tuck" /><span
              >tuck or opening, once</span
            ></label
          >
        </fieldset>
        <fieldset class="chips">
          <legend class="legend">Pinned on</legend>
          <label v-for="each in PINNED_ON" :key="each.on" class="chip">
            <input v-model="seen.pinned_on" type="radio" name="pinned-on" :value="each.on" /><span>{{
              each.name
            }}</span>
          </label>
        </fieldset>
        <p v-if="pins" class="small pins" role="status">
          <span
            >on the body <b class="figure">{{ pins.on_body.text }}</b></span
          >
          <span
            >per half <b class="figure changed">{{ pins.per_half.text }}</b></span
          >
          <span
            >per seam edge <b class="figure">{{ pins.per_seam.text }}</b> {{ unit }}</span
          >
        </p>
      </template>
      <TextField id="note" v-model="seen.note" label="In words" :most="500" />
      <label class="check small"
        ><input v-model="seen.sureness" type="checkbox" true-value="doubtful" false-value="sure" /> I am not
        sure of it</label
      >
      <ProblemNote :problem="problem" />
    </div>
    <FootBar class="keep">
      <ElButton type="primary" native-type="submit" :aria-busy="busy">Keep this observation</ElButton>
    </FootBar>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 1.2rem;
  align-items: start;
}
.fields {
  gap: 0.75rem;
}
.keep {
  grid-column: 1 / -1;
}
.where {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.6rem;
}
.pins {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 1.1rem;
}
.check {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  min-height: 2rem;
}
@media (max-width: 700px) {
  .form {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
