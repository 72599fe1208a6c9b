<script setup lang="ts">
/** One observation: what was seen, what it probably comes from, and what is decided about it. */
import { ElButton, ElInput } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { remove, send } from '@/api/client'
import type {
  CauseOffer,
  CausesOf,
  Decision,
  MoreSaid,
  ObservationView,
  Problem,
  Suggestion,
} from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import LengthField from '@/components/LengthField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useHouse } from '@/composables/useHouse'
import { fieldsRead } from '@/composables/usePendingFields'
import { taking } from './decided'
import CauseCard from './CauseCard.vue'
import StillAsked from './StillAsked.vue'
import TellApart from './TellApart.vue'

const props = defineProps<{
  seen: ObservationView
  /** What it comes from, what tells that apart, and the causes that are not offered; not there until it is weighed. */
  weighed?: CausesOf
  /** Why it could not be weighed, where that failed. */
  notWeighed?: string
  closed: boolean
  /** It is the one to look at now: its evidence is shown at once. */
  next: boolean
  /** What a cause was already taken for in this round. */
  takenFor: (cause: Suggestion, alteration: string) => string | undefined
  /** Keeps what came of a test; resolves with why it was turned down. */
  answer: (cause: string, holds: boolean) => Promise<Problem | undefined>
  /** Says more of it; resolves with why it was turned down. */
  say: (more: MoreSaid) => Promise<Problem | undefined>
  /** Decides; resolves with why it was turned down. */
  decide: (decision: Decision) => Promise<Problem | undefined>
}>()
const emit = defineEmits<{ gone: [id: number, said: string] }>()
const { craft, unit } = useHouse()
const problem = shallowRef<Problem>()
const way = ref<'alter' | 'leave' | 'overrule' | 'ask'>()
const alteration = ref('')
/** What a pinned amount can be put into: a share of a dart is no length. */
const pinned = computed(
  () =>
    craft.value?.alterations.filter(
      ({ params }) => params[0] && !['share', 'place'].includes(params[0].on),
    ) ?? [],
)
const amount = ref<number | null>(props.seen.pins?.per_half.mm ?? 0)
const reason = ref('')
const other = shallowRef<{ cause: Suggestion; offer: CauseOffer }>()
const showing = ref(false)
const causes = computed(() => props.weighed?.causes ?? [])
const setAside = computed(() => props.weighed?.set_aside ?? [])
const first = computed(() => causes.value[0])

const busy = ref(false)
/** Decides once; what was typed last is read first. `decision` is asked for only then. */
async function settle(decision: () => Decision): Promise<void> {
  if (busy.value) return
  busy.value = true
  try {
    if (!(await fieldsRead())) return
    problem.value = await props.decide(decision())
    if (problem.value) return
    way.value = undefined
    reason.value = ''
    showing.value = false
  } finally {
    busy.value = false
  }
}

/** Takes a cause's alteration; what it depends on is asked for first, and another than the first asks why. */
function take(cause: Suggestion, offer: CauseOffer, asked = false): void {
  other.value = { cause, offer }
  if (!asked && props.weighed?.asks.length) way.value = 'ask'
  else if (cause.cause !== first.value?.cause) way.value = 'overrule'
  else void settle(() => taking(cause, offer))
}
/** What was asked for is said: the causes are weighed anew before one is taken. */
async function sayMore(more: MoreSaid): Promise<Problem | undefined> {
  const turnedDown = await props.say(more)
  if (!turnedDown) way.value = undefined
  return turnedDown
}
const answering = ref(false)
async function answerTest(cause: string, holds: boolean): Promise<void> {
  if (answering.value) return
  answering.value = true
  problem.value = await props.answer(cause, holds)
  answering.value = false
}

const alterationField = useTemplateRef<{ focus: () => void }>('alterationField')
function byHand(): void {
  if (!alteration.value) {
    problem.value = { type: '', title: 'Not yet', status: 0, detail: 'choose the alteration' }
    alterationField.value?.focus()
    return
  }
  void settle(() => ({
    what: 'alter',
    alteration: alteration.value,
    amounts: { amount: amount.value ?? 0 },
    side: props.seen.seen.side === 'both' ? undefined : props.seen.seen.side,
    overruled: reason.value,
  }))
}

async function takeBack(): Promise<void> {
  const { id, revision, said } = props.seen
  const result = await send(
    remove('/api/observations/{id}', { params: { path: { id }, query: { revision } } }),
  )
  problem.value = result.ok ? undefined : result.problem
  if (result.ok) emit('gone', id, said)
}
</script>

<template>
  <article class="card stack" :aria-label="seen.said">
    <div>
      <div class="between">
        <strong>{{ seen.said }}</strong>
        <button v-if="!closed && !seen.decision" type="button" class="quiet small" @click="takeBack">
          Take out
        </button>
      </div>
      <p v-if="seen.seen.note">{{ seen.seen.note }}</p>
      <p v-if="seen.pins" class="small">
        Pinned {{ seen.pins.depth.text }} {{ unit }}:
        <span class="changed figure">{{ seen.pins.per_half.text }} {{ unit }} per half</span>,
        {{ seen.pins.on_body.text }} on the body
      </p>
      <p class="small soft">{{ seen.seen_by }}{{ seen.seen.sureness === 'doubtful' ? ', not sure' : '' }}</p>
      <p :class="{ decide: !seen.decided }">{{ seen.decided ?? 'To decide' }}</p>
      <p v-if="seen.warning" class="decide">{{ seen.warning }}</p>
    </div>
    <template v-if="!closed">
      <template v-if="causes.length && (!seen.decision || showing)">
        <h3>What it comes from</h3>
        <TellApart
          v-if="weighed?.tell_apart && causes.length > 1"
          :test="weighed.tell_apart"
          :busy="answering"
          @answer="(holds) => answerTest(weighed!.tell_apart!.cause, holds)"
        />
        <StillAsked
          v-if="way === 'ask' && weighed?.asks.length && other"
          :seen="seen"
          :asks="weighed.asks"
          :say="sayMore"
          @all-the-same="take(other.cause, other.offer, true)"
        />
        <ol class="causes">
          <CauseCard
            v-for="(cause, index) in causes"
            :key="cause.cause"
            :cause="cause"
            :rank="index + 1"
            :open="next && index === 0"
            :taken-for="(alteration) => takenFor(cause, alteration)"
            :takes="true"
            @take="(offer) => take(cause, offer)"
            @leave="(reason) => settle(() => ({ what: 'leave', reason }))"
            @watch="settle(() => ({ what: 'watch' }))"
          />
        </ol>
        <details v-if="setAside.length" class="small soft">
          <summary>Set aside: {{ setAside.map((each) => each.title.toLowerCase()).join('; ') }}</summary>
          <p v-for="each in setAside" :key="each.cause">{{ each.title }}: {{ each.why }}.</p>
        </details>
      </template>
      <p v-else-if="!weighed && !seen.decision" class="small soft">
        {{ notWeighed ?? 'What it comes from is being weighed.' }}
      </p>
      <p v-else-if="!seen.decision" class="small soft">
        No known cause looks like this: pin it, and alter by hand, or watch it.
      </p>
      <div class="row" role="group" :aria-label="`Decide: ${seen.said}`">
        <ElButton v-if="seen.decision && causes.length" @click="showing = !showing">Causes</ElButton>
        <ElButton :aria-pressed="way === 'alter'" @click="way = 'alter'">Alter by hand</ElButton>
        <ElButton :aria-pressed="way === 'leave'" @click="way = 'leave'">Leave as it is</ElButton>
        <ElButton @click="settle(() => ({ what: 'watch' }))">Watch</ElButton>
      </div>
      <form v-if="way === 'alter'" class="stack" @submit.prevent="byHand">
        <ChoiceField
          :id="`alteration-${seen.id}`"
          ref="alterationField"
          v-model="alteration"
          label="Alteration"
          :choices="pinned.map((each) => ({ value: each.code, label: each.name }))"
        />
        <LengthField v-model="amount" label="Amount, per half or per seam" />
        <div v-if="first" class="field">
          <label :for="`why-${seen.id}`">Why not “{{ first.title.toLowerCase() }}”</label>
          <ElInput :id="`why-${seen.id}`" v-model="reason" maxlength="400" />
        </div>
        <ElButton type="primary" native-type="submit" :aria-busy="busy">Decide this alteration</ElButton>
      </form>
      <form
        v-if="way === 'overrule' && other && first"
        class="stack"
        @submit.prevent="settle(() => taking(other!.cause, other!.offer, reason))"
      >
        <div class="field">
          <label :for="`overrule-${seen.id}`"
            >Why “{{ other.cause.title.toLowerCase() }}” rather than “{{ first.title.toLowerCase() }}”</label
          >
          <ElInput :id="`overrule-${seen.id}`" v-model="reason" maxlength="400" />
        </div>
        <ElButton type="primary" native-type="submit" :aria-busy="busy">Decide so</ElButton>
      </form>
      <form v-if="way === 'leave'" class="stack" @submit.prevent="settle(() => ({ what: 'leave', reason }))">
        <TextField :id="`reason-${seen.id}`" v-model="reason" label="Why it stays" :most="400" />
        <ElButton type="primary" native-type="submit" :aria-busy="busy">Leave it</ElButton>
      </form>
      <ProblemNote :problem="problem" />
    </template>
  </article>
</template>

<style scoped>
.card {
  gap: 0.6rem;
}
.causes {
  list-style: none;
  margin: 0;
  padding: 0;
}
.quiet {
  font: inherit;
  font-size: 0.88rem;
  color: inherit;
  background: none;
  border: 0;
  min-height: 24px;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
}
</style>
