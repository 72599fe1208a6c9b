<script setup lang="ts">
import { ElButton, ElSwitch } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { post } from '@/api/client'
import type { PatternView, Problem, Recipe } from '@/api/types'
import ChecksPanel from '@/components/ChecksPanel.vue'
import LengthField from '@/components/LengthField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import FaultMarks from '@/components/drawing/FaultMarks.vue'
import PatternDrawing from '@/components/drawing/PatternDrawing.vue'
import { useFaults } from '@/composables/useFaults'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { useRecipe } from '@/composables/useRecipe'
import { useResource } from '@/composables/useResource'

const router = useRouter()
const { craft, house, unit } = useHouse()
const { data: order, reload: reloadOrder } = useOrder()
const { data: pattern, problem: unread } = useResource<PatternView>(() =>
  order.value?.pattern_id ? `/api/patterns/${order.value.pattern_id}` : undefined,
)
const table = useRecipe()
const { recipe, preview, inHand, stepInHand, problem, canUndo, canRedo } = table
watch(pattern, (view) => view && table.load(view))

const stage = ref<number>()
/** The label does not hang on the recipe: what the pattern said of it stands beside every preview. */
const checks = computed(() => {
  const now = preview.value?.checks ?? []
  const label = pattern.value?.preview.checks.find((check) => check.code === 'labels')
  return label && now.every((check) => check.code !== 'labels') ? [...now, label] : now
})
const { picked, faults } = useFaults(() => checks.value)
const why = ref('')
const refused = shallowRef<Problem>()
const known = computed(() =>
  craft.value?.alterations.find((each) => each.code === stepInHand.value?.alteration),
)
const viewOf = (id: number) => preview.value?.steps.find((step) => step.id === id)
const amount = computed(() => stepInHand.value?.amounts.amount ?? 0)
const amountText = computed(() => {
  const views = stepInHand.value ? viewOf(stepInHand.value.id)?.amounts : undefined
  return views?.map((view) => `${view.amount.text} ${unit.value} ${view.on}`).join(', ') ?? ''
})
const stages = computed(() => preview.value?.stages ?? [])
const STAGE_NAMES = { mark: 'Mark', cut: 'Cut', move: 'Move', fill: 'Fill', true: 'True' } as const
watch(inHand, () => (stage.value = undefined))

const change = (edit: (recipe: Recipe) => void) => table.commit(edit)

function setAmount(code: string, value: number | null): void {
  const id = inHand.value
  change((draft) => {
    const step = draft.steps.find((each) => each.id === id)
    if (!step) return
    const { [code]: _, ...others } = step.amounts
    step.amounts = value === null ? others : { ...step.amounts, [code]: value }
  })
}

function add(code: string): void {
  const id = Math.max(0, ...recipe.value.steps.map((step) => step.id)) + 1
  inHand.value = id
  change((draft) => draft.steps.push({ id, alteration: code, amounts: { amount: 0 }, on: true, reason: '' }))
}

function remove(id: number): void {
  change((draft) => (draft.steps = draft.steps.filter((step) => step.id !== id)))
  if (inHand.value === id) inHand.value = recipe.value.steps.at(-1)?.id
}

function move(id: number, by: number): void {
  change((draft) => {
    const from = draft.steps.findIndex((step) => step.id === id)
    const [step] = draft.steps.splice(from, 1)
    if (step) draft.steps.splice(from + by, 0, step)
  })
}

const toggle = (id: number, on: boolean) =>
  change((draft) => {
    const step = draft.steps.find((each) => each.id === id)
    if (step) step.on = on
  })

/** Dragging moves the amount from where it was taken, in half steps of the house's rounding. */
let takenAt: number | undefined
function dragged(mm: number): void {
  takenAt ??= amount.value
  const grain = (house.value?.step ?? 1) / 2
  const value = Math.round((takenAt + mm) / grain) * grain
  if (value === amount.value) return
  table.sketch((draft) => {
    const step = draft.steps.find((each) => each.id === inHand.value)
    if (step) step.amounts = { ...step.amounts, amount: value }
  })
}
function dropped(): void {
  if (takenAt === undefined) return
  takenAt = undefined
  change(() => undefined)
}

function nudged(steps: number): void {
  setAmount('amount', amount.value + steps * (house.value?.step ?? 1))
}

async function freeze(): Promise<void> {
  if (!(await table.settled())) return
  const result = await post(`/api/patterns/${pattern.value?.id}/versions`, { why: why.value })
  refused.value = result.ok ? undefined : result.problem
  if (!result.ok) return
  await reloadOrder()
  await router.push({ name: 'toile', params: { id: order.value?.id } })
}

function keyed(event: KeyboardEvent): void {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
  if ((event.target as HTMLElement).tagName === 'INPUT') return
  event.preventDefault()
  if (event.shiftKey) table.redo()
  else table.undo()
}

const theirs = computed(() => problem.value?.current as { recipe: Recipe; revision: number } | undefined)
</script>

<template>
  <main class="stack" aria-labelledby="alter-title" @keydown="keyed">
    <ProblemNote :problem="unread ?? refused" />
    <ProblemNote :problem="problem">
      <ElButton v-if="theirs" size="small" @click="table.takeTheirs(theirs)"
        >Take theirs; mine stays under undo</ElButton
      >
    </ProblemNote>
    <template v-if="!order?.pattern_id">
      <h1 id="alter-title">Cutting table</h1>
      <p v-if="order">
        No pattern yet: it begins from a block on the
        <RouterLink :to="{ name: 'compare', params: { id: order.id } }">Compare</RouterLink> page.
      </p>
    </template>
    <template v-else-if="pattern && preview">
      <div class="between">
        <div>
          <h1 id="alter-title">Cutting table</h1>
          <p class="soft small">A frozen copy of {{ pattern.block_name }}; the master stays as it is.</p>
        </div>
        <div class="row">
          <ElButton :disabled="!canUndo" @click="table.undo">Undo</ElButton>
          <ElButton :disabled="!canRedo" @click="table.redo">Redo</ElButton>
        </div>
      </div>
      <div class="bench">
        <section class="recipe stack" aria-labelledby="recipe-title">
          <h2 id="recipe-title">Recipe</h2>
          <p v-if="!recipe.steps.length" class="soft">Nothing is altered yet: add an alteration below.</p>
          <ol>
            <li
              v-for="(step, index) in recipe.steps"
              :key="step.id"
              class="card step"
              :class="{ inhand: step.id === inHand }"
            >
              <div class="between">
                <button
                  type="button"
                  class="name"
                  :aria-pressed="step.id === inHand"
                  @click="table.take(step.id)"
                >
                  {{ index + 1 }}. {{ viewOf(step.id)?.name ?? step.alteration }}
                </button>
                <ElSwitch
                  :model-value="step.on"
                  :aria-label="`${viewOf(step.id)?.name} is done`"
                  @change="toggle(step.id, Boolean($event))"
                />
              </div>
              <p class="amounts">
                <span v-for="view in viewOf(step.id)?.amounts" :key="view.on" class="figure">
                  <strong>{{ view.amount.text }}</strong> {{ unit }} {{ view.on }}
                </span>
              </p>
              <p v-if="viewOf(step.id)?.says" class="small decide" role="alert">
                {{ viewOf(step.id)?.says }}
              </p>
              <template v-if="step.id === inHand && known">
                <LengthField
                  label="Amount"
                  :model-value="amount"
                  @update:model-value="setAmount('amount', $event)"
                />
                <details v-if="known.params.length > 1">
                  <summary class="small">More</summary>
                  <div v-for="param in known.params.slice(1)" :key="param.code">
                    <div v-if="param.on === 'share'" class="field">
                      <label :for="`share-${param.code}`">{{ param.name }}</label>
                      <input
                        :id="`share-${param.code}`"
                        type="range"
                        :min="param.low"
                        :max="param.high"
                        step="0.01"
                        :value="step.amounts[param.code] ?? param.default ?? param.low"
                        @change="setAmount(param.code, Number(($event.target as HTMLInputElement).value))"
                      />
                    </div>
                    <LengthField
                      v-else
                      :label="param.name"
                      optional
                      :model-value="step.amounts[param.code] ?? null"
                      @update:model-value="setAmount(param.code, $event)"
                    />
                  </div>
                </details>
                <p v-if="step.reason" class="small">{{ step.reason }}</p>
                <p v-for="follow in viewOf(step.id)?.follow_ups" :key="follow" class="small follow">
                  {{ follow }}
                </p>
                <div class="row">
                  <ElButton size="small" :disabled="index === 0" @click="move(step.id, -1)">Earlier</ElButton>
                  <ElButton
                    size="small"
                    :disabled="index === recipe.steps.length - 1"
                    @click="move(step.id, 1)"
                    >Later</ElButton
                  >
                  <ElButton size="small" @click="remove(step.id)">Take out</ElButton>
                </div>
              </template>
            </li>
          </ol>
          <div class="field">
            <span id="add-title" class="legend">Add an alteration</span>
            <div class="row" role="group" aria-labelledby="add-title">
              <ElButton
                v-for="each in craft?.alterations"
                :key="each.code"
                :title="each.why"
                @click="add(each.code)"
              >
                {{ each.name }}
              </ElButton>
            </div>
          </div>
          <form class="card stack version" @submit.prevent="freeze">
            <div class="field">
              <label for="why">Save as version {{ (order.version ?? 0) + 1 }}</label>
              <input
                id="why"
                v-model="why"
                class="plain"
                type="text"
                maxlength="400"
                placeholder="What is it for?"
              />
            </div>
            <ElButton type="primary" native-type="submit">Save version</ElButton>
            <p v-if="!preview.ready" class="small decide">
              A check fails or a step is refused: look before you cut.
            </p>
          </form>
        </section>
        <section class="stack drawing" aria-label="Drawing">
          <PatternDrawing
            :pieces="preview.now"
            :before="recipe.steps.some((step) => step.on) ? preview.before : undefined"
            :moved="preview.moved"
            :handle="preview.handle"
            :stage="stage === undefined ? undefined : stages[stage]"
            :handle-name="`${known?.name ?? 'Amount'}: drag or use the arrow keys`"
            :handle-text="amountText"
            @drag="dragged"
            @dropped="dropped"
            @nudge="nudged"
          >
            <template #on="{ piece }">
              <FaultMarks
                v-if="stage === undefined"
                :faults="faults.filter((each) => each.piece === piece.kind)"
              />
            </template>
          </PatternDrawing>
          <div v-if="stages.length" class="strip" role="group" aria-label="Stages">
            <button type="button" :aria-pressed="stage === undefined" @click="stage = undefined">
              Finished
            </button>
            <button
              v-for="(each, index) in stages"
              :key="each.kind"
              type="button"
              :aria-pressed="stage === index"
              @click="stage = index"
            >
              {{ index + 1 }} {{ STAGE_NAMES[each.kind] }}
            </button>
          </div>
          <p v-if="stage !== undefined" class="words" aria-live="polite">{{ stages[stage]?.words }}</p>
          <p v-else class="small soft legend-line">
            <span class="k before" /> before <span class="k now" /> now <span class="k moved" /> what moved
            <template v-if="preview.handle">; drag the blue point or use its arrow keys</template>
          </p>
        </section>
        <ChecksPanel :figures="preview.figures" :checks="checks" class="checks" @show="picked = $event" />
      </div>
    </template>
  </main>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: 15.5rem minmax(0, 1fr) 17rem;
  gap: 1.1rem;
  align-items: start;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
.step {
  padding: 0.6rem 0.8rem;
  display: grid;
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
.amounts {
  display: grid;
  line-height: 1.25;
}
.follow {
  border-left: 3px solid var(--rule);
  padding-left: 0.5rem;
}
.version {
  gap: 0.5rem;
  padding: 0.7rem 0.8rem;
}
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem;
}
.strip button {
  font: inherit;
  color: var(--ink);
  background: var(--raised);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 0.3rem 0.8rem;
  min-height: 2.2rem;
  cursor: pointer;
}
.strip button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
  border-color: var(--ink);
}
.words {
  max-width: 62ch;
}
.k {
  display: inline-block;
  width: 1.5em;
  height: 0;
  border-top: 2px solid var(--ink);
  vertical-align: middle;
  margin: 0 0.3em 0 0.7em;
}
.k.before {
  border-top: 2px dashed var(--ink-soft);
}
.k.moved {
  height: 0.8em;
  border: 1px solid var(--woad);
  background: var(--woad-tint);
}
summary {
  cursor: pointer;
}
input[type='range'] {
  width: 100%;
  accent-color: var(--ink);
}
@media (max-width: 1200px) {
  .bench {
    grid-template-columns: 16.5rem minmax(0, 1fr);
  }
  .checks {
    grid-column: 1 / -1;
  }
}
@media (max-width: 800px) {
  .bench {
    grid-template-columns: minmax(0, 1fr);
  }
  .drawing {
    order: -1;
  }
}
</style>
