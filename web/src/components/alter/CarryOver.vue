<script setup lang="ts">
/**
 * Corrections of another pattern carried over to this one: another size, block, garment or client. Each step says what
 * becomes of it here before anything is taken.
 */
import { ElButton } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { get, post, send } from '@/api/client'
import type { CarriedOver, Problem, Recipe } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import FormDialog from '@/components/FormDialog.vue'
import { usePatterned } from '@/composables/usePatterned'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ pattern: number; client: number; recipe: Recipe }>()
const emit = defineEmits<{ take: [recipe: Recipe] }>()

const open = ref(false)
const from = ref<number>()
const {
  garments: patterned,
  none,
  problem: unread,
  search,
} = usePatterned({
  asked: open,
  client: () => props.client,
  isOwn: (order) => order.pattern_id === props.pattern,
  isChosen: (order) => order.pattern_id === from.value,
})
/** Patterns that can be carried from. */
const garments = computed(() =>
  patterned.value.flatMap(({ pattern_id: value, garment, client }) =>
    value ? [{ value, label: `${garment}, ${client}` }] : [],
  ),
)
const { data: other } = useResource(() =>
  open.value && from.value ? get('/api/patterns/{id}', { params: { path: { id: from.value } } }) : undefined,
)
const steps = computed(() => {
  const view = other.value
  if (!view || view.id !== from.value) return []
  return view.preview.steps.filter((step) => step.state === 'done')
})
const chosen = ref<number[]>([])
watch(steps, (now) => (chosen.value = now.map((step) => step.id)))

const carried = shallowRef<CarriedOver>()
const problem = shallowRef<Problem>()
const stepsOf = (count: number) => (count === 1 ? '1 step' : `${count} steps`)
/** What would become of the chosen steps; an answer that was overtaken is none. */
watch([open, chosen, () => props.recipe], async () => {
  carried.value = undefined
  if (!open.value || from.value === undefined || !chosen.value.length) return
  const asked = chosen.value
  const body = { recipe: props.recipe, from: from.value, steps: asked }
  const result = await send(
    post('/api/patterns/{id}/carried-over', { params: { path: { id: props.pattern } }, body }),
  )
  if (asked !== chosen.value) return
  problem.value = result.ok ? undefined : result.problem
  carried.value = result.ok ? result.value : undefined
})
const lineOf = (id: number) => carried.value?.report.find((line) => line.step === id)
const OUTCOMES = {
  fitted: 'fits',
  failing: 'goes in, and a check fails',
  limited: 'fits in part',
  refused: 'left out',
} as const
const fitting = computed(() => carried.value?.report.filter((line) => line.outcome !== 'refused').length ?? 0)
const action = computed(() => (fitting.value ? `Carry over ${stepsOf(fitting.value)}` : 'Carry over'))

function take(): void {
  if (!carried.value || !fitting.value) return
  emit('take', carried.value.recipe)
  open.value = false
}
</script>

<template>
  <div>
    <ElButton @click="open = true">Carry over from another pattern</ElButton>
    <FormDialog
      :open="open"
      title="Carry corrections over"
      :action="action"
      :problem="unread ?? problem"
      @close="open = false"
      @submit="take"
    >
      <ChoiceField id="carry-from" v-model="from" label="From" :choices="garments" :remote="search" />
      <p v-if="none" class="small">No other garment has a pattern yet.</p>
      <p v-else-if="from && other?.id === from && !steps.length" class="small">
        Nothing is altered there: there is nothing to carry over.
      </p>
      <ul v-if="steps.length" aria-label="Corrections">
        <li v-for="step in steps" :key="step.id">
          <label>
            <input v-model="chosen" type="checkbox" :value="step.id" />
            <strong>{{ step.name }}</strong>
            <span v-if="step.amounts[0]" class="soft">
              {{ step.amounts.map((each) => `${each.amount.text} ${each.on}`).join(', ') }}
            </span>
          </label>
          <p v-if="lineOf(step.id)" class="small" :class="lineOf(step.id)?.outcome">
            <b>{{ OUTCOMES[lineOf(step.id)!.outcome] }}:</b> {{ lineOf(step.id)?.says }}
          </p>
        </li>
      </ul>
      <p v-if="steps.length" class="small soft">
        More of the same is added to what is there. One undo takes it all back.
      </p>
    </FormDialog>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.6rem;
}
label {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 0.5rem;
  align-items: baseline;
}
li p {
  margin: 0.1rem 0 0 1.6rem;
}
.failing b,
.limited b,
.refused b {
  color: var(--madder);
}
</style>
