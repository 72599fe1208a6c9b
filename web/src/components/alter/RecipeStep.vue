<script setup lang="ts">
/** One step of the recipe: what was done and why; in hand, with everything that can be set. */
import { ElButton, ElSwitch } from 'element-plus'
import { computed, nextTick, ref, useId, useTemplateRef, watch } from 'vue'
import ChoiceField from '@/components/ChoiceField.vue'
import LengthField from '@/components/LengthField.vue'
import type {
  AlterationView,
  CorrectionView,
  Decided,
  Offer,
  ParamView,
  Setting,
  Step,
  StepView,
  WornSide,
} from '@/api/types'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{
  step: Step
  /** Its place in the recipe, from 0. */
  index: number
  last: boolean
  view?: StepView
  known?: AlterationView
  inHand: boolean
  /** What was added to it just now, or that it is new: that amount is what is typed next. */
  fresh?: { contribution: number | null }
  /** The point of hers that its line is drawn through. */
  through?: string
  /** What the house has learnt of such steps, where it is steady enough to be offered. */
  correction?: CorrectionView
}>()
const emit = defineEmits<{
  take: []
  toggle: [on: boolean]
  set: [code: string, value: Setting | null]
  /** A length of one decision: of what was added, or of the first where none is named. */
  setAdded: [contribution: number | null, code: string, value: number]
  side: [side: WornSide | null]
  why: [contribution: number | null, reason: string]
  /** One decision of several is taken back. */
  takeBack: [contribution: number | null]
  /** More of the same is wanted: the lengths it adds. */
  more: [amounts: Record<string, number>]
  /** What the house has learnt is taken. */
  decide: [decided: Decided]
  move: [by: number]
  remove: []
  /** A follow-up that was offered is wanted. */
  accept: [offer: Offer]
}>()

const id = useId()
const amountField = useTemplateRef('amountField')
const addedFields = useTemplateRef<{ focus: () => void }[]>('addedFields')
watch(
  () => props.fresh,
  async (fresh) => {
    if (!fresh) return
    await nextTick()
    const lengths = lengthsOf(props.step.more?.at(-1)?.amounts ?? {}).length
    const field = fresh.contribution === null ? amountField.value : addedFields.value?.at(-lengths)
    field?.focus()
  },
  { immediate: true },
)
const { unit } = useHouse()
const first = computed(() => props.known?.params[0])
const asked = (param: ParamView) => !props.view?.unasked.includes(param.code)
const choices = computed(
  () => props.known?.params.filter((param) => param.on === 'choice' && asked(param)) ?? [],
)
/** The amount counts on this pattern: the side seams of a skirt have none at the bust. */
const hasAmount = computed(() => first.value !== undefined && asked(first.value))
const others = computed(
  () => props.known?.params.slice(1).filter((param) => param.on !== 'choice' && asked(param)) ?? [],
)
/** What was set beside the amount when the step was taken in hand is in sight; what is typed does not move away. */
const inSight = ref(new Set<string>())
watch(
  () => props.inHand,
  () => (inSight.value = new Set(Object.keys(props.step.amounts))),
  { immediate: true },
)
const isInSight = ({ code }: ParamView) => inSight.value.has(code) || !hasAmount.value
const folds = computed(() => [
  { more: false, params: others.value.filter(isInSight) },
  { more: true, params: others.value.filter((param) => !isInSight(param)) },
])
const number = (param: ParamView): number | null => {
  const value = props.step.amounts[param.code]
  return typeof value === 'number' ? value : (param.default ?? null)
}
const SIDES: { value: WornSide; label: string }[] = [
  { value: 'left', label: 'left only' },
  { value: 'right', label: 'right only' },
]
const way = (param: ParamView): string | undefined => {
  const set = props.step.amounts[param.code]
  return typeof set === 'string' ? set : param.ways[0]?.code
}
const percent = (param: ParamView) => `${Math.round((number(param) ?? param.low) * 100)} %`
/** The lengths that a decision adds: its amount, and what else it set. */
const lengthsOf = (amounts: Step['amounts']) =>
  props.known?.params.filter(
    (param, index) =>
      param.added && asked(param) && (index === 0 || param.code in amounts || !hasAmount.value),
  ) ?? []
const lengthOf = (amounts: Step['amounts'], code: string) => {
  const value = amounts[code]
  return typeof value === 'number' ? value : 0
}
const saysOf = (contribution: number | null) =>
  props.view?.decisions.find((each) => (each.contribution ?? null) === contribution)
const whoOf = (each: { round?: number | null; by?: string | null }) =>
  [each.round ? `Round ${each.round}` : '', each.by ?? ''].filter(Boolean).join(', ')
const whenOf = (round: number | null | undefined) => (round ? `Added, round ${round}` : 'Added')
const text = (event: Event) => (event.target as HTMLInputElement | HTMLSelectElement).value
/** Why it is done, all decisions together. */
const reasons = computed(
  () =>
    props.view?.decisions
      .map((one) => one.says)
      .filter(Boolean)
      .join(' ') ?? '',
)
/** Everything of a step that is not in hand. */
const whole = computed(() =>
  [
    ...(props.view?.amounts.map((each) => `${each.amount.text} ${unit.value} ${each.on}`) ?? []),
    ...(props.view?.choices ?? []),
    ...(props.view?.sums.map((sum) => `${sum} ${unit.value}`) ?? []),
    props.view?.drawn_with ?? '',
    reasons.value,
  ]
    .filter(Boolean)
    .join('; '),
)
</script>

<template>
  <li class="card step" :class="{ inhand: inHand }">
    <div class="between">
      <button type="button" class="name" :aria-pressed="inHand" @click="emit('take')">
        {{ index + 1 }}. {{ view?.name ?? step.alteration }}
      </button>
      <ElSwitch
        :size="inHand ? 'default' : 'small'"
        :model-value="step.on"
        :aria-label="`${view?.name} is done`"
        @change="emit('toggle', Boolean($event))"
      />
    </div>
    <p v-if="!inHand" class="line small" :title="whole">
      <span v-if="view?.amounts[0]?.amount.mm" class="figure"
        ><strong>{{ view.amounts[0].amount.text }}</strong> {{ unit }} {{ view.amounts[0].on }}</span
      >
      <span v-else-if="view?.choices.length" class="figure">{{ view.choices.join('; ') }}</span>
      <span v-if="reasons" class="why">{{ reasons }}</span>
    </p>
    <p v-if="inHand && view?.amounts.length" class="amounts">
      <span v-for="each in view.amounts" :key="each.on" class="figure">
        <strong>{{ each.amount.text }}</strong> {{ unit }} {{ each.on }}
      </span>
    </p>
    <template v-if="inHand">
      <p v-for="sum in view?.sums" :key="sum" class="small figure">{{ sum }} {{ unit }}</p>
      <p v-if="through" class="small">Drawn through {{ through }}.</p>
      <p v-if="view?.drawn_with" class="small soft">{{ view.drawn_with }}</p>
    </template>
    <p v-if="view?.says" class="small decide" role="alert">
      {{ view.says }}
      <ElButton
        v-if="view.nearest"
        size="small"
        @click="emit('setAdded', view.nearest.contribution ?? null, 'amount', view.nearest.mm)"
      >
        Set it to the limit
      </ElButton>
    </p>
    <template v-if="inHand && known && first">
      <p class="small soft">{{ known.why }}</p>
      <div v-if="hasAmount && first.on === 'share'" class="field">
        <label :for="`${id}-amount`">{{ first.name }}</label>
        <span class="share">
          <input
            :id="`${id}-amount`"
            type="range"
            :min="first.low"
            :max="first.high"
            step="0.05"
            :value="number(first)"
            :aria-valuetext="percent(first)"
            @change="emit('set', first.code, Number(text($event)))"
          />
          <span class="figure">{{ percent(first) }}</span>
        </span>
      </div>
      <LengthField
        v-else-if="hasAmount"
        ref="amountField"
        :label="first.added ? 'Amount' : first.name"
        :optional="!first.added"
        :model-value="number(first) ?? (first.added ? 0 : null)"
        :parts="first?.parts"
        @update:model-value="emit('set', 'amount', $event)"
      />
      <slot />
      <p v-if="correction" class="small">
        {{ correction.says }}
        <ElButton size="small" @click="emit('decide', correction.decided)">{{ correction.action }}</ElButton>
      </p>
      <ChoiceField
        v-for="param in choices"
        :id="`${id}-${param.code}`"
        :key="param.code"
        :model-value="way(param)"
        :label="param.name"
        :choices="param.ways.map((each) => ({ value: each.code, label: each.name }))"
        @update:model-value="(now) => now && emit('set', param.code, now)"
      />
      <ChoiceField
        v-if="!known?.all_round"
        :id="`${id}-side`"
        :model-value="step.side ?? undefined"
        label="Done on"
        none="both sides"
        :choices="SIDES"
        @update:model-value="emit('side', $event ?? null)"
      />
      <component
        :is="more ? 'details' : 'div'"
        v-for="{ more, params } in folds.filter((each) => each.params.length)"
        :key="String(more)"
      >
        <summary v-if="more" class="small">More</summary>
        <div v-for="param in params" :key="param.code">
          <div v-if="param.on === 'share'" class="field">
            <label :for="`${id}-${param.code}`">{{ param.name }}</label>
            <span class="share">
              <input
                :id="`${id}-${param.code}`"
                type="range"
                :min="param.low"
                :max="param.high"
                step="0.01"
                :value="number(param) ?? param.low"
                :aria-valuetext="percent(param)"
                @change="emit('set', param.code, Number(text($event)))"
              />
              <span class="figure">{{ percent(param) }}</span>
            </span>
          </div>
          <LengthField
            v-else
            :label="param.name"
            optional
            :model-value="number(param)"
            :parts="param.parts"
            @update:model-value="emit('set', param.code, $event)"
          />
          <p class="small soft">{{ param.why }}</p>
        </div>
      </component>
      <div class="field">
        <label :for="`${id}-why`">Why</label>
        <input
          :id="`${id}-why`"
          class="plain"
          type="text"
          maxlength="400"
          :value="step.reason"
          @change="emit('why', null, text($event))"
        />
        <span v-if="step.round || step.by" class="small soft">{{ whoOf(step) }}</span>
      </div>
      <div v-if="step.more?.length" class="row">
        <ElButton size="small" @click="emit('takeBack', null)">Take the first back</ElButton>
      </div>
      <section
        v-for="more in step.more"
        :key="more.id"
        class="added stack"
        :aria-label="saysOf(more.id)?.says || whenOf(more.round)"
      >
        <LengthField
          v-for="(param, place) in lengthsOf(more.amounts)"
          :key="param.code"
          ref="addedFields"
          :label="place === 0 ? whenOf(more.round) : `${whenOf(more.round)}: ${param.name}`"
          :model-value="lengthOf(more.amounts, param.code)"
          :parts="param.parts"
          @update:model-value="emit('setAdded', more.id, param.code, $event ?? 0)"
        />
        <div class="field">
          <label :for="`${id}-why-${more.id}`">Why it is added</label>
          <input
            :id="`${id}-why-${more.id}`"
            class="plain"
            type="text"
            maxlength="400"
            :value="more.reason"
            @change="emit('why', more.id, text($event))"
          />
          <span v-if="more.round || more.by" class="small soft">{{ whoOf(more) }}</span>
        </div>
        <div class="row">
          <ElButton size="small" @click="emit('takeBack', more.id)">Take this back</ElButton>
        </div>
      </section>
      <div v-for="follow in view?.follow_ups" :key="follow.says" class="small follow" :class="follow.kind">
        <p>{{ follow.says }}</p>
        <ElButton v-if="follow.offer" size="small" @click="emit('accept', follow.offer)">Do it</ElButton>
      </div>
      <div class="row">
        <ElButton size="small" :disabled="index === 0" @click="emit('move', -1)">Earlier</ElButton>
        <ElButton size="small" :disabled="last" @click="emit('move', 1)">Later</ElButton>
        <ElButton v-if="first.added && hasAmount" size="small" @click="emit('more', { [first.code]: 0 })"
          >Add to it</ElButton
        >
        <ElButton size="small" @click="emit('remove')">Take out</ElButton>
      </div>
    </template>
  </li>
</template>

<style scoped>
.step {
  padding: 0.2rem 0.6rem;
  display: grid;
  gap: 0.1rem;
}
.step.inhand {
  padding: 0.6rem 0.8rem;
  gap: 0.4rem;
}
.step.inhand {
  border-left: 5px solid var(--woad);
}
.name {
  font: 600 1.05rem var(--serif);
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  min-height: 24px;
  cursor: pointer;
  text-align: left;
}
/* What is not in hand is a line to be read: name, amount, why; all of it is one hover away. */
.step:not(.inhand) {
  grid-template-columns: fit-content(11rem) minmax(4.5rem, 1fr) auto;
  align-items: center;
  column-gap: 0.6rem;
}
.step:not(.inhand) > .between {
  display: contents;
}
.step:not(.inhand) .name {
  font-size: 0.97rem;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.step:not(.inhand) > .line {
  grid-area: 1 / 2;
}
.step:not(.inhand) > [role='alert'] {
  grid-column: 1 / -1;
}
.line {
  display: flex;
  gap: 0.5rem;
  white-space: nowrap;
  overflow: hidden;
}
.line .why {
  overflow: hidden;
  text-overflow: ellipsis;
}
.amounts {
  display: grid;
  line-height: 1.25;
}
.why {
  font-style: italic;
}
.follow {
  border-left: 3px solid var(--rule);
  padding-left: 0.5rem;
}
.follow.offered {
  border-color: var(--madder);
}
.follow.done {
  border-color: var(--woad);
}
.added {
  border-left: 3px solid var(--woad);
  padding-left: 0.6rem;
}
.share {
  display: flex;
  align-items: center;
  gap: 0.6rem;
}
select,
input[type='text'] {
  width: 100%;
}
summary {
  cursor: pointer;
}
input[type='range'] {
  flex: 1;
  min-width: 0;
  accent-color: var(--ink);
}
</style>
