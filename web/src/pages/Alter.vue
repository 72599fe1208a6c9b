<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import type { Decided, Offer, PlanLine, Recipe, Setting, Step, Wish, WornSide } from '@/api/types'
import ChecksPanel from '@/components/ChecksPanel.vue'
import FootBar from '@/components/FootBar.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import AddAlteration from '@/components/alter/AddAlteration.vue'
import CarryOver from '@/components/alter/CarryOver.vue'
import RecipeStep from '@/components/alter/RecipeStep.vue'
import SlashedToiles from '@/components/alter/SlashedToiles.vue'
import StageStrip from '@/components/alter/StageStrip.vue'
import StatesBeside from '@/components/alter/StatesBeside.vue'
import WalkSeams from '@/components/alter/WalkSeams.vue'
import FaultMarks from '@/components/drawing/FaultMarks.vue'
import PatternDrawing from '@/components/drawing/PatternDrawing.vue'
import PageFrame from '@/components/PageFrame.vue'
import StripField from '@/components/StripField.vue'
import { useAction } from '@/composables/useAction'
import { useDrawnPoint } from '@/composables/useDrawnPoint'
import { useFaults } from '@/composables/useFaults'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { useRecipe } from '@/composables/useRecipe'
import { useResource } from '@/composables/useResource'

const route = useRoute()
const router = useRouter()
const { craft, house, may, unit } = useHouse()
const { data: order, reload: reloadOrder } = useOrder()
const { data: pattern, problem: unread } = useResource(() =>
  order.value?.pattern_id
    ? get('/api/patterns/{id}', { params: { path: { id: order.value.pattern_id } } })
    : undefined,
)
const { data: comparison } = useResource(() =>
  order.value?.pattern_id
    ? get('/api/orders/{id}/comparison', { params: { path: { id: order.value.id } } })
    : undefined,
)
const table = useRecipe()
const { recipe, preview, inHand, stepInHand, problem, canUndo, canRedo } = table
// What the house has learnt is offered while the plan is all there is: afterwards her own pins say more.
const { data: corrections } = useResource(() =>
  recipe.value && pattern.value && !pattern.value.versions.length
    ? post('/api/calibration/corrections', { body: { recipe: recipe.value } })
    : undefined,
)
watch(pattern, (view) => view && table.follow(view))

const stage = ref<number>()
/** What is looked at: the table, seams walked, or two states beside each other. */
const shown = ref<'table' | 'walk' | 'beside'>(route.query['shown'] === 'beside' ? 'beside' : 'table')
const VIEWS = [
  { value: 'table', name: 'Cutting table' },
  { value: 'walk', name: 'Walk seams' },
  { value: 'beside', name: 'Beside' },
] as const
const place = shallowRef<{ seam: string; name: string }>()
/** The label does not hang on the recipe: what the pattern said of it stands beside every preview. */
const checks = computed(() => {
  const now = preview.value?.checks ?? []
  const label = pattern.value?.preview.checks.find((check) => check.code === 'labels')
  return label && now.every((check) => check.code !== 'labels') ? [...now, label] : now
})
const { picked, faults } = useFaults(() => checks.value)
const why = ref('')
const knownOf = (code: string) => craft.value?.alterations.find((each) => each.code === code)
const known = computed(() => knownOf(stepInHand.value?.alteration ?? ''))
const viewOf = (id: number) => preview.value?.steps.find((step) => step.id === id)
/** What was decided last for a step: the drag and the arrow keys change that. */
const newest = (step: Step) => step.more?.at(-1) ?? step
const amount = computed(() => {
  const value = stepInHand.value && newest(stepInHand.value).amounts.amount
  return typeof value === 'number' ? value : 0
})
const amountText = computed(() => {
  const views = stepInHand.value ? viewOf(stepInHand.value.id)?.amounts : undefined
  return views?.map((view) => `${view.amount.text} ${unit.value} ${view.on}`).join(', ') ?? ''
})
/** Where the amount can be dragged; while the drawing is still another step's, nothing can be taken hold of. */
const handle = computed(() => (preview.value?.in_hand === inHand.value ? preview.value?.handle : undefined))
const drawn = useDrawnPoint(table, () => house.value?.step ?? 1)
const { point } = drawn
const stages = computed(() => preview.value?.stages ?? [])
watch(inHand, () => (stage.value = undefined))

/** Lines of the plan that are built and not in the recipe yet. */
const planned = computed(() => {
  const done = new Set(recipe.value.steps.map((step) => step.alteration))
  return comparison.value?.plan.lines.filter((line) => line.alteration && !done.has(line.alteration)) ?? []
})

const { data: wishes } = useResource(() =>
  order.value?.pattern_id
    ? get('/api/orders/{id}/wishes', { params: { path: { id: order.value.id } } })
    : undefined,
)
const wished = computed(() => {
  const done = new Set(recipe.value.steps.map((step) => step.alteration))
  return wishes.value?.filter((wish) => !done.has(wish.alteration)) ?? []
})

const change = (edit: (recipe: Recipe) => void) => table.commit(edit)
const edit = (id: number | undefined, act: (step: Step) => void) =>
  change((draft) => {
    const step = draft.steps.find((each) => each.id === id)
    if (step) act(step)
  })

function set(id: number | undefined, code: string, value: Setting | null): void {
  edit(id, (step) => {
    const { [code]: _, ...others } = step.amounts
    step.amounts = value === null ? others : { ...step.amounts, [code]: value }
  })
}

/** A rounded back as it was slashed on her: in place of the house's curve. */
function asSlashed(id: number, amounts: Step['amounts'], from: string): void {
  edit(id, (step) => {
    step.amounts = { ...step.amounts, ...amounts }
    step.reason ||= `As it was slashed on her: ${from}.`
  })
}

/** The ways and places of a step: what a further decision for it shares. */
function waysOf(step: Step): Step['amounts'] {
  const params = knownOf(step.alteration)?.params ?? []
  const isAdded = (code: string) => params.some((param) => param.code === code && param.added)
  return Object.fromEntries(Object.entries(step.amounts).filter(([code]) => !isAdded(code)))
}

/** The decision of a step that a contribution names, or its first. */
const decisionOf = (step: Step, contribution: number | null) =>
  contribution === null ? step : step.more?.find((more) => more.id === contribution)

function setAdded(id: number, contribution: number | null, code: string, value: Setting | null): void {
  edit(id, (step) => {
    const decision = decisionOf(step, contribution)
    if (decision && value !== null) decision.amounts = { ...decision.amounts, [code]: value }
  })
}

function sayWhy(id: number, contribution: number | null, reason: string): void {
  edit(id, (step) => {
    const decision = decisionOf(step, contribution)
    if (decision) decision.reason = reason
  })
}

/** Takes one decision back; where it is the first, the next takes its place and keeps the ways of the step. */
function takeBack(id: number, contribution: number | null): void {
  edit(id, (step) => {
    const [next, ...later] = step.more ?? []
    if (contribution !== null) {
      step.more = step.more?.filter((more) => more.id !== contribution)
    } else if (next) {
      step.amounts = { ...waysOf(step), ...next.amounts }
      step.reason = next.reason
      step.round = next.round
      step.by = next.by
      step.more = later
    }
  })
}

/** What was added last: its amount is what is typed next. */
const added = ref<{ step: number; contribution: number | null }>()
async function decide(decided: Decided): Promise<void> {
  shown.value = 'table'
  const taken = await table.decide(decided)
  if (!taken) return
  added.value = { step: taken.step.id, contribution: taken.contribution?.id ?? null }
  table.take(taken.step.id)
}
const add = (
  alteration: string,
  amounts: Step['amounts'],
  { reason = '', side }: { reason?: string; side?: WornSide | null } = {},
) => decide({ alteration, amounts, reason, side })

/** What she wishes of the garment, as a step. */
const takeWish = (wish: Wish) => add(wish.alteration, wish.amounts, { reason: wish.says })

/**
 * A new step begins with what the plan or her wish has for it; where they have nothing, it asks for nothing until it is told, unless its
 * amount is a share: that begins at its usual. What is done to a piece is begun on one it was not done to yet.
 */
function begin(code: string): void {
  const line = planned.value.find((each) => each.alteration === code)
  if (line) return void carryOut(line)
  const wish = wished.value.find((each) => each.alteration === code && !each.refused)
  if (wish) return void takeWish(wish)
  const params = knownOf(code)?.params ?? []
  const first = params[0]
  // A wish is left as it is until it is said.
  const amount: Step['amounts'] =
    first?.on === 'share' ? { amount: first.default ?? 0 } : first?.added === false ? {} : { amount: 0 }
  const pieces = params.find((param) => param.code === 'piece')?.ways.map((way) => way.code) ?? []
  const done = recipe.value.steps
    .filter((step) => step.alteration === code)
    .map((step) => step.amounts.piece ?? pieces[0])
  const free = pieces.find((piece) => !done.includes(piece))
  void add(code, free && free !== pieces[0] ? { ...amount, piece: free } : amount)
}

// Found by its name from anywhere: begun as soon as the pattern lies on the table.
watch(
  [() => route.query['add'], () => pattern.value && craft.value],
  ([code, isReady]) => {
    if (typeof code !== 'string' || !isReady) return
    void router.replace({ query: { ...route.query, add: undefined } })
    begin(code)
  },
  { immediate: true },
)

const carryOut = (line: PlanLine) =>
  line.alteration && add(line.alteration, line.amounts, { reason: line.reason })

function accept(offer: Offer, from: string): void {
  void add(offer.alteration, offer.amounts, {
    reason: `Follows from ${from.toLowerCase()}.`,
    side: offer.side,
  })
}

function takeOut(id: number): void {
  change((draft) => (draft.steps = draft.steps.filter((step) => step.id !== id)))
  if (inHand.value === id) inHand.value = recipe.value.steps.at(-1)?.id
}

const onSide = (id: number, side: WornSide | null) => edit(id, (step) => (step.side = side))

/** Dragging moves the amount from where it was taken, in half steps of the house's rounding. */
let takenAt: number | undefined
function dragged(mm: number): void {
  const from = (takenAt ??= amount.value)
  const grain = (house.value?.step ?? 1) / 2
  const value = Math.round((from + mm) / grain) * grain
  if (value === amount.value) return
  table.sketch((draft) => {
    const step = draft.steps.find((each) => each.id === inHand.value)
    if (step) newest(step).amounts = { ...newest(step).amounts, amount: value }
  })
}
function dropped(): void {
  drawn.letGo()
  if (takenAt === undefined) return
  takenAt = undefined
  change(() => undefined)
}

function nudged(steps: number): void {
  const value = amount.value + steps * (house.value?.step ?? 1)
  edit(inHand.value, (step) => (newest(step).amounts = { ...newest(step).amounts, amount: value }))
}

const {
  run: freeze,
  busy: freezing,
  problem: refused,
} = useAction(
  async () => {
    if (!(await table.settled()) || !pattern.value) return undefined
    const body = { why: why.value, revision: table.revision.value, stands: stands.value.trim() || null }
    return post('/api/patterns/{id}/versions', { params: { path: { id: pattern.value.id } }, body })
  },
  async () => {
    await reloadOrder()
    await router.push({ name: 'toile', params: { id: order.value?.id } })
  },
)

/** The block was drafted with an estimated reading: somebody stands for it, or it is measured first. */
const stands = ref('')
const estimated = computed(() => preview.value?.checks.some((check) => check.code === 'estimated'))
/** Which step is refused and which rule fails: what to look at before cutting. */
const standsInTheWay = computed(() => {
  const refused = preview.value?.steps.filter((step) => step.state === 'refused') ?? []
  const failing = preview.value?.checks.filter((check) => !check.passed) ?? []
  const said = [
    ...refused.map((step) => `${step.name} is refused`),
    ...failing.map((check) => `“${check.name}” fails`),
  ]
  return `Look before you cut: ${said.join('; ')}.`
})

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
  <PageFrame
    right="cutting"
    title="Cutting table"
    width="bench"
    :problem="unread ?? refused"
    :reading="order && order.pattern_id !== null && !(pattern && preview)"
    @keydown="keyed"
  >
    <template v-if="pattern" #lead>
      <p class="soft small">A frozen copy of {{ pattern.block_name }}; the master stays as it is.</p>
    </template>
    <template v-if="pattern && preview" #actions>
      <StripField v-model="shown" label="What is shown" :choices="VIEWS" />
      <a class="worksheet" :href="`/api/patterns/${pattern.id}/worksheet.pdf`" download>Worksheet</a>
      <ElButton :disabled="!canUndo" @click="table.undo">Undo</ElButton>
      <ElButton :disabled="!canRedo" @click="table.redo">Redo</ElButton>
    </template>
    <ProblemNote :problem="problem">
      <ElButton v-if="theirs" size="small" @click="table.takeTheirs(theirs)"
        >Take theirs; mine stays under undo</ElButton
      >
    </ProblemNote>
    <template v-if="!order?.pattern_id">
      <p v-if="order">
        No pattern yet: it begins from a block on the
        <RouterLink :to="{ name: 'compare', params: { id: order.id } }">Compare</RouterLink> page.
      </p>
    </template>
    <template v-else-if="pattern && preview">
      <div class="bench">
        <section class="recipe stack" aria-labelledby="recipe-title">
          <h2 id="recipe-title">Recipe</h2>
          <p v-if="!recipe.steps.length" class="soft">Nothing is altered yet: add an alteration below.</p>
          <ol>
            <RecipeStep
              v-for="(step, index) in recipe.steps"
              :key="step.id"
              :step="step"
              :index="index"
              :last="index === recipe.steps.length - 1"
              :view="viewOf(step.id)"
              :known="knownOf(step.alteration)"
              :in-hand="step.id === inHand"
              :fresh="step.id === added?.step ? added : undefined"
              :through="drawn.through(step)"
              :correction="corrections?.find((each) => each.step === step.id)"
              @take="table.take(step.id)"
              @toggle="(on) => edit(step.id, (each) => (each.on = on))"
              @set="(code, value) => set(step.id, code, value)"
              @side="(side) => onSide(step.id, side)"
              @set-added="(contribution, code, value) => setAdded(step.id, contribution, code, value)"
              @why="(contribution, reason) => sayWhy(step.id, contribution, reason)"
              @take-back="(contribution) => takeBack(step.id, contribution)"
              @move="(by) => table.move(step.id, index + by)"
              @remove="takeOut(step.id)"
              @more="(amounts) => add(step.alteration, { ...waysOf(step), ...amounts }, { side: step.side })"
              @decide="decide"
              @accept="(offer) => accept(offer, viewOf(step.id)?.name ?? '')"
            >
              <SlashedToiles
                v-if="step.alteration === 'rounded_back'"
                :client="order.client_id"
                :form="order.form_id"
                :grown="Boolean(step.more?.length)"
                @take="(amounts, from) => asSlashed(step.id, amounts, from)"
              />
            </RecipeStep>
          </ol>
          <AddAlteration
            v-if="may('cutting')"
            :alterations="craft?.alterations ?? []"
            :fits="preview.fits"
            :garment="preview.garment"
            :planned="planned"
            :wished="wished"
            :place="place"
            @add="begin"
            @plan="carryOut"
            @wish="takeWish"
            @anywhere="place = undefined"
          />
          <CarryOver
            :pattern="pattern.id"
            :client="order.client_id"
            :recipe="recipe"
            @take="(carried) => change((draft) => (draft.steps = carried.steps))"
          />
        </section>
        <section class="stack drawing" aria-label="Drawing">
          <WalkSeams v-if="shown === 'walk'" :pattern="pattern.id" :recipe="recipe" :pieces="preview.now" />
          <StatesBeside
            v-else-if="shown === 'beside'"
            :pattern="pattern.id"
            :versions="pattern.versions"
            :revision="table.revision.value"
          />
          <template v-else>
            <PatternDrawing
              :pieces="preview.now"
              :before="recipe.steps.some((step) => step.on) ? preview.before : undefined"
              :moved="preview.moved"
              :altered-for="preview.altered_for"
              :handle="handle"
              :stage="stage === undefined ? undefined : stages[stage]"
              :handle-name="`${known?.name ?? 'Amount'}: drag or use the arrow keys`"
              :handle-text="amountText"
              :point="point"
              @drag="dragged"
              @dropped="dropped"
              @nudge="nudged"
              @place="drawn.place"
              @shift="drawn.shift"
              @pick="(seam, name) => (place = { seam, name })"
            >
              <template #on="{ piece }">
                <FaultMarks
                  v-if="stage === undefined"
                  :faults="faults.filter((each) => each.piece === piece.kind)"
                />
              </template>
            </PatternDrawing>
            <StageStrip v-model="stage" :stages="stages" />
            <p v-if="stage === undefined" class="small soft legend-line">
              <span class="stroke before" /> before <span class="stroke now" /> now
              <span class="stroke moved" /> what moved.
              {{
                point
                  ? 'You can drag the line by its blue point or with the arrow keys; press a seam to alter there.'
                  : handle
                    ? 'You can drag the blue point or use its arrow keys; press a seam to alter there.'
                    : 'Press a seam to alter there.'
              }}
            </p>
          </template>
        </section>
        <ChecksPanel
          :figures="preview.figures"
          :checks="checks"
          :broken-by="preview.broken_by"
          class="checks"
          @show="picked = $event"
        />
      </div>
      <form v-if="may('cutting')" class="through" @submit.prevent="freeze">
        <FootBar>
          <div class="field">
            <label for="why">Save as version {{ pattern.next_version }}</label>
            <input
              id="why"
              v-model="why"
              class="plain"
              type="text"
              maxlength="400"
              placeholder="What is it for?"
            />
          </div>
          <div v-if="estimated && !pattern.versions.length" class="field">
            <label for="stands">An estimated reading is in this block; if it stands, your initials</label>
            <input id="stands" v-model="stands" class="plain" type="text" maxlength="12" />
          </div>
          <ElButton type="primary" native-type="submit" :aria-busy="freezing">Save version</ElButton>
          <p v-if="!preview.ready" class="small decide">{{ standsInTheWay }}</p>
        </FootBar>
      </form>
    </template>
  </PageFrame>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: 16.5rem minmax(0, 1fr) 15.5rem;
  gap: 1.1rem;
  align-items: start;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.3rem;
}
.worksheet {
  align-self: center;
}
/* On a short screen, as at 200 % zoom, saving a version stays in sight too. */
@media (max-height: 600px) {
  .version {
    position: sticky;
    bottom: 0;
    z-index: 2;
  }
}
/* The recipe grows; the pieces stay in sight. */
@media (min-width: 801px) {
  .drawing {
    position: sticky;
    top: 0.8rem;
  }
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
