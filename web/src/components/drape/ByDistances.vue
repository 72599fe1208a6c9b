<script setup lang="ts">
/** A cross by its distances from two others, as the tape gives them where no line is near. */
import { ElButton } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { isCross, nameOf, placesOf } from './marks'
import type { Place, Step } from './marks'
import { post, send } from '@/api/client'
import type { PieceInHand, Problem } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import LengthField from '@/components/LengthField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { fieldsRead } from '@/composables/usePendingFields'
import { useWritten } from '@/composables/useWritten'

const props = defineProps<{
  piece: PieceInHand
  steps: readonly Step[]
  /** What is placed: a cross. */
  step: Step
}>()
const emit = defineEmits<{ place: [at: Place] }>()

/** Every cross that stands, but the one that is placed. */
const there = computed(() =>
  props.steps.flatMap((step) => {
    const [at] = placesOf(props.piece, step)
    return step.kind === 'mark' && isCross(step) && at && nameOf(step) !== nameOf(props.step)
      ? [{ value: step.wanted.mark as string, label: step.wanted.name, at }]
      : []
  }),
)
const one = ref<string>()
const other = ref<string>()
const fromOne = ref<number | null>(null)
const fromOther = ref<number | null>(null)
const places = ref<Place[]>([])
const problem = shallowRef<Problem>()
const { length } = useWritten(() => ({ lengths: places.value.flat() }))

watch(
  () => nameOf(props.step),
  () => {
    places.value = []
    problem.value = undefined
    fromOne.value = fromOther.value = null
  },
)

async function find(): Promise<void> {
  if (!(await fieldsRead())) return
  const at = (mark: string | undefined) => there.value.find((each) => each.value === mark)?.at
  const [first, second] = [at(one.value), at(other.value)]
  if (!first || !second || fromOne.value === null || fromOther.value === null) return
  const body = { one: { at: first, mm: fromOne.value }, other: { at: second, mm: fromOther.value } }
  const answer = await send(post('/api/drape-places', { body }))
  problem.value = answer.ok ? undefined : answer.problem
  places.value = answer.ok ? (answer.value.places as Place[]) : []
}
</script>

<template>
  <details>
    <summary>By two lengths from other marks</summary>
    <form class="stack" @submit.prevent="find">
      <ProblemNote :problem="problem" />
      <div class="grid">
        <ChoiceField id="distance-from" v-model="one" label="From" :choices="there" />
        <LengthField v-model="fromOne" label="by tape" optional exactly />
        <ChoiceField id="distance-to" v-model="other" label="and from" :choices="there" />
        <LengthField v-model="fromOther" label="by tape, too" optional exactly />
      </div>
      <p class="row">
        <ElButton native-type="submit" size="small">Where is the {{ nameOf(step) }}?</ElButton>
        <ElButton
          v-for="(at, index) in places"
          :key="index"
          type="primary"
          size="small"
          @click="emit('place', at)"
          >{{ length(2 * index) }} over, {{ length(2 * index + 1) }} down</ElButton
        >
      </p>
    </form>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  font-weight: 700;
}
.stack {
  gap: 0.5rem;
  padding-top: 0.4rem;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(8.5rem, 1fr));
  gap: 0.5rem;
}
</style>
