<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, reactive, shallowRef, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { post } from '@/api/client'
import type { ComparisonView, Made, Problem, Step } from '@/api/types'
import OverlayDrawing from '@/components/OverlayDrawing.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { useResource } from '@/composables/useResource'

const router = useRouter()
const { craft, unit } = useHouse()
const { data: order, reload: reloadOrder } = useOrder()
const wanted = reactive<{ block?: number; size?: string; ease?: string }>({})
const { data: view, problem } = useResource<ComparisonView>(() => {
  const ask = new URLSearchParams()
  for (const [key, value] of Object.entries(wanted)) if (value !== undefined) ask.set(key, String(value))
  return order.value ? `/api/orders/${order.value.id}/comparison?${ask}` : undefined
})
const refused = shallowRef<Problem>()
const left = reactive(new Set<number>())
watch(view, () => left.clear())

const GRADES = { fits: 'fits', alter: 'alter', remeasure: 'measure again', missing: 'not measured' } as const
const SCHOOLS = { upper_bust: 'By the upper bust', bust: 'By the bust' } as const
const ready = computed(() => (order.value?.missing ?? 1) === 0)
/** A bar is full at 75 mm, where a difference is no longer a matter of fitting. */
const bar = (mm: number) => Math.min(50, (Math.abs(mm) / 75) * 50)

const recipe = computed(() => {
  const lines = view.value?.plan.lines ?? []
  const steps: Step[] = lines.flatMap((line, index) =>
    line.alteration && !line.refused && !left.has(index)
      ? [{ id: index + 1, alteration: line.alteration, amounts: line.amounts, on: true, reason: line.reason }]
      : [],
  )
  return { form: 1, steps }
})

function chooseBlock(event: Event): void {
  wanted.block = Number((event.target as HTMLSelectElement).value)
  wanted.size = undefined
}

function takeLine(index: number, on: boolean): void {
  if (on) left.delete(index)
  else left.add(index)
}

async function begin(): Promise<void> {
  const body = { block_id: view.value?.block_id, size: view.value?.size, recipe: recipe.value }
  const result = await post<Made>(`/api/orders/${order.value?.id}/pattern`, body)
  refused.value = result.ok ? undefined : result.problem
  if (!result.ok) return
  await reloadOrder()
  await router.push({ name: 'alter', params: { id: order.value?.id } })
}

const again = computed(() => [
  ...new Set(view.value?.remarks.filter((remark) => remark.again).flatMap(({ codes }) => codes) ?? []),
])

/** Opens a session with just the readings that are old, assumed or cannot be converted. */
async function measureAgain(): Promise<void> {
  const result = await post<Made>(`/api/clients/${order.value?.client_id}/sessions`, { codes: again.value })
  refused.value = result.ok ? undefined : result.problem
  if (result.ok) await router.push({ name: 'session', params: { id: result.value.id } })
}
</script>

<template>
  <main class="stack" aria-labelledby="compare-title">
    <div class="between">
      <h1 id="compare-title">Compare</h1>
      <div v-if="view" class="row controls">
        <div class="field">
          <label for="block">Block</label>
          <select id="block" :value="view.block_id" @change="chooseBlock">
            <option v-for="block in view.blocks" :key="block.id" :value="block.id">
              {{ block.name }}, version {{ block.version }}
            </option>
          </select>
        </div>
        <div class="field">
          <label for="size">Size</label>
          <select
            id="size"
            :value="view.size"
            @change="wanted.size = ($event.target as HTMLSelectElement).value"
          >
            <option v-for="size in view.sizes" :key="size">{{ size }}</option>
          </select>
        </div>
        <div class="field">
          <label for="ease">Ease</label>
          <select
            id="ease"
            :value="view.ease.code"
            @change="wanted.ease = ($event.target as HTMLSelectElement).value"
          >
            <option v-for="set in craft?.ease_sets" :key="set.code" :value="set.code">{{ set.name }}</option>
          </select>
        </div>
      </div>
    </div>
    <ProblemNote :problem="problem" />
    <p v-if="order && !ready" class="card">
      <span class="decide">{{ order.missing }} readings are missing.</span>
      <RouterLink :to="{ name: 'measure', params: { id: order.id } }">Measure them</RouterLink>
      and the comparison is whole.
    </p>
    <template v-if="view">
      <div v-if="view.remarks.length" class="card stack remarks">
        <h2>About her readings</h2>
        <ul>
          <li v-for="remark in view.remarks" :key="remark.says">{{ remark.says }}</li>
        </ul>
        <div v-if="again.length"><ElButton @click="measureAgain">Measure these again</ElButton></div>
      </div>
      <section v-if="view.choices" aria-labelledby="size-title" class="stack">
        <h2 id="size-title">Which size to start from</h2>
        <p>{{ view.choices.why }}</p>
        <div class="schools">
          <article
            v-for="(choice, index) in view.choices.choices"
            :key="choice.school"
            class="card school"
            :class="{ leads: index === 0 }"
          >
            <h3>{{ SCHOOLS[choice.school] }}: size {{ choice.size }}</h3>
            <p class="small soft">{{ choice.why }}</p>
            <ul>
              <li v-for="line in choice.lines" :key="line">{{ line }}</li>
              <li v-if="!choice.lines.length">nothing to correct</li>
            </ul>
            <p class="between">
              <span
                >Corrections in all <strong class="figure">{{ choice.total.text }} {{ unit }}</strong></span
              >
              <ElButton v-if="choice.size !== view.size" size="small" @click="wanted.size = choice.size"
                >Compare with {{ choice.size }}</ElButton
              >
              <span v-else class="soft small">compared below</span>
            </p>
          </article>
        </div>
      </section>
      <div class="halves">
        <section aria-labelledby="table-title" class="stack">
          <h2 id="table-title">Client against block</h2>
          <div class="scroll" tabindex="0" role="region" aria-label="Comparison table">
            <table>
              <thead>
                <tr>
                  <th scope="col">Dimension</th>
                  <th scope="col" class="num">Body</th>
                  <th scope="col" class="num">Ease</th>
                  <th scope="col" class="num">Target</th>
                  <th scope="col" class="num">Block</th>
                  <th scope="col" class="num">On body</th>
                  <th scope="col" class="num">On pattern</th>
                  <th scope="col" class="bars">less · more</th>
                  <th scope="col">Grade</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="row in view.comparison.rows" :key="row.figure">
                  <th scope="row">{{ row.name }}</th>
                  <td class="num">{{ row.body?.text ?? '–' }}</td>
                  <td class="num soft">{{ row.ease.text }}</td>
                  <td class="num">{{ row.target?.text ?? '–' }}</td>
                  <td class="num">{{ row.block.text }}</td>
                  <td class="num">{{ row.on_body?.text ?? '–' }}</td>
                  <td class="num" :title="row.carried_by">{{ row.on_pattern?.text ?? '–' }}</td>
                  <td class="bars" aria-hidden="true">
                    <svg viewBox="0 0 100 10" preserveAspectRatio="none">
                      <line x1="50" x2="50" y1="0" y2="10" class="zero" />
                      <rect
                        v-if="row.on_body"
                        :x="row.on_body.mm < 0 ? 50 - bar(row.on_body.mm) : 50"
                        y="2"
                        :width="bar(row.on_body.mm)"
                        height="6"
                        :class="row.grade"
                      />
                    </svg>
                  </td>
                  <td
                    :class="{
                      decide: row.grade === 'remeasure' || row.grade === 'missing',
                      changed: row.grade === 'alter',
                      soft: row.grade === 'fits',
                    }"
                  >
                    {{ GRADES[row.grade] }}
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
        </section>
        <section aria-labelledby="overlay-title" class="stack">
          <h2 id="overlay-title">Block and her own draft</h2>
          <OverlayDrawing v-if="view.own_pieces.length" :block="view.block_pieces" :own="view.own_pieces" />
          <p v-else class="soft">{{ view.own_refused }}</p>
        </section>
      </div>
      <section aria-labelledby="plan-title" class="stack">
        <h2 id="plan-title">Plan</h2>
        <p v-if="!view.plan.lines.length">The block fits within its tolerances: nothing to alter.</p>
        <ol class="plan">
          <li v-for="(line, index) in view.plan.lines" :key="index" class="card">
            <label v-if="line.alteration && !line.refused" class="tick">
              <input
                type="checkbox"
                :checked="!left.has(index)"
                @change="takeLine(index, ($event.target as HTMLInputElement).checked)"
              />
              <span class="visually-hidden">Do {{ line.name }}</span>
            </label>
            <span v-else class="tick" aria-hidden="true">–</span>
            <div>
              <p class="between">
                <strong>{{ line.name }}</strong>
                <span class="figure changed">{{ line.amount.text }} {{ unit }} {{ line.on }}</span>
              </p>
              <p class="small">{{ line.reason }}</p>
              <p v-if="!line.alteration" class="small soft">
                Not built into the cutting table yet: it stays here as a line to do by hand.
              </p>
              <p v-if="line.refused" class="small decide">{{ line.refused }}</p>
            </div>
          </li>
        </ol>
        <p v-if="view.plan.dropped.length" class="small soft">
          Too small to act on:
          {{ view.plan.dropped.map((line) => `${line.name} ${line.amount.text} ${unit}`).join(', ') }}.
        </p>
        <details>
          <summary>Figures after the plan</summary>
          <table class="after">
            <thead>
              <tr>
                <th scope="col">Dimension</th>
                <th scope="col" class="num">Target</th>
                <th scope="col" class="num">After the plan</th>
                <th scope="col">Closes</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in view.plan.predictions" :key="row.name">
                <th scope="row">{{ row.name }}</th>
                <td class="num">{{ row.target.text }}</td>
                <td class="num">{{ row.predicted.text }}</td>
                <td>{{ row.fits ? 'yes' : 'by hand' }}</td>
              </tr>
            </tbody>
          </table>
        </details>
        <ProblemNote :problem="refused" />
        <div class="row">
          <RouterLink v-if="order?.pattern_id" :to="{ name: 'alter', params: { id: order.id } }">
            The pattern is begun: to the cutting table
          </RouterLink>
          <ElButton v-else type="primary" @click="begin">
            Begin the pattern from size {{ view.size }} with {{ recipe.steps.length }}
            {{ recipe.steps.length === 1 ? 'alteration' : 'alterations' }}
          </ElButton>
        </div>
      </section>
    </template>
  </main>
</template>

<style scoped>
.controls .field {
  min-width: 7rem;
}
.schools {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.8rem;
}
.school {
  display: grid;
  gap: 0.4rem;
  align-content: start;
}
.school.leads {
  border-left: 5px solid var(--ink);
}
.school ul {
  margin: 0;
  padding-left: 1.1rem;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr);
  gap: 1.6rem;
  align-items: start;
}
.scroll {
  overflow-x: auto;
}
tbody th {
  font-weight: 400;
  color: var(--ink);
  font-size: 0.98rem;
  white-space: nowrap;
}
.bars {
  width: 90px;
}
.bars svg {
  width: 84px;
  height: 14px;
  display: block;
}
.zero {
  stroke: var(--ink-soft);
  stroke-width: 1;
}
.bars rect {
  fill: var(--ink-soft);
}
.bars rect.alter {
  fill: var(--woad);
}
.bars rect.remeasure {
  fill: var(--madder);
}
.plan {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
.plan .card {
  display: grid;
  grid-template-columns: 2rem 1fr;
  padding: 0.6rem 0.9rem;
}
.tick input {
  width: 1.2rem;
  height: 1.2rem;
  accent-color: var(--ink);
}
.after {
  max-width: 36rem;
}
summary {
  cursor: pointer;
  padding: 0.3rem 0;
}
@media (max-width: 1200px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 700px) {
  .schools {
    grid-template-columns: 1fr;
  }
  th.bars,
  td.bars {
    display: none;
  }
}
.remarks ul {
  margin: 0;
  padding-left: 1.2rem;
  columns: 30rem;
}
</style>
