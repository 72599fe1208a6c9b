<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post, put } from '@/api/client'
import ChoiceField from '@/components/ChoiceField.vue'
import LaidOver from '@/components/drawing/LaidOver.vue'
import { hasNeck } from '@/components/drawing/pieces'
import FootBar from '@/components/FootBar.vue'
import PageFrame from '@/components/PageFrame.vue'
import PlusMinus from '@/components/PlusMinus.vue'
import TermMark from '@/components/TermMark.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { useResource } from '@/composables/useResource'

const router = useRouter()
const { may, unit } = useHouse()
const { data: order } = useOrder()
const wanted = reactive<{ block?: number; size?: string; ease?: string }>({})
const {
  data: view,
  problem,
  settled,
} = useResource(() =>
  order.value
    ? get('/api/orders/{id}/comparison', { params: { path: { id: order.value.id }, query: { ...wanted } } })
    : undefined,
)
const GRADES = {
  fits: 'fits',
  within_reading: 'within the reading',
  alter: 'alter',
  remeasure: 'measure again',
  missing: 'not measured',
} as const
const SCHOOLS = {
  upper_bust: 'By the upper bust',
  bust: 'By the bust',
  printed: 'By the printed bust',
  hip: 'By the hip',
} as const
const ready = computed(() => (order.value?.missing ?? 1) === 0)
/** A bar is full at 75 mm, where a difference is no longer a matter of fitting. */
const bar = (mm: number) => Math.min(50, (Math.abs(mm) / 75) * 50)

function chooseBlock(block: number | undefined): void {
  wanted.block = block
  wanted.size = undefined
}

const goToPlan = () => router.push({ name: 'plan', params: { id: order.value?.id } })
/** Keeps what is compared here as the start of the plan, and goes there. */
const {
  run: toPlan,
  busy,
  problem: unplanned,
} = useAction(async () => {
  // A block or size that was chosen a moment ago is the one that is meant.
  await settled()
  const now = view.value
  if (!now || !order.value) return undefined
  const changed = wanted.block !== undefined || wanted.size !== undefined || wanted.ease !== undefined
  if ((!changed && now.plan_revision !== 0) || !may('cutting')) {
    await goToPlan()
    return undefined
  }
  const body = {
    revision: now.plan_revision,
    block_id: now.block_id,
    size: now.size,
    ease_set: now.ease.code,
    changes: now.changes,
  }
  return put('/api/orders/{id}/plan', { params: { path: { id: order.value.id } }, body })
}, goToPlan)

const anchor = ref<'neck' | 'waist'>('neck')
/** Rows of the comparison that a cause explains are marked when it is pointed at. */
const pointed = ref<readonly string[]>([])
const again = computed(() => [
  ...new Set(view.value?.remarks.filter((remark) => remark.again).flatMap(({ codes }) => codes) ?? []),
])

/** Opens a session at just these readings. */
const { run: measureAgain, problem: unopened } = useAction(
  (codes: readonly string[]) =>
    order.value &&
    post('/api/clients/{id}/sessions', {
      params: { path: { id: order.value.client_id } },
      body: { codes: [...codes] },
    }),
  (made) => router.push({ name: 'session', params: { id: made.id } }),
)
</script>

<template>
  <PageFrame title="Compare" width="bench" :problem="problem" :reading="!view">
    <template v-if="view" #actions>
      <div class="controls">
        <ChoiceField
          id="block"
          class="wide"
          :model-value="view.block_id"
          label="Block"
          :choices="
            view.blocks.map(({ id, name, version }) => ({ value: id, label: `${name}, version ${version}` }))
          "
          @update:model-value="chooseBlock"
        />
        <ChoiceField
          id="size"
          :model-value="view.size"
          label="Size"
          :choices="view.sizes.map((size) => ({ value: size, label: size }))"
          @update:model-value="wanted.size = $event"
        />
        <ChoiceField
          id="ease"
          :model-value="view.ease.code"
          label="Ease"
          :choices="view.ease_sets.map((set) => ({ value: set.code, label: set.name }))"
          @update:model-value="wanted.ease = $event"
        />
      </div>
    </template>
    <p v-if="view?.estimated" class="decide">
      This block was drafted with an estimate: {{ view.estimated }}. Measure it and draft the block anew
      before anything is cut from it.
    </p>
    <p v-if="order && !ready" class="card">
      <span class="decide">{{ order.missing }} readings are missing.</span>
      <RouterLink :to="{ name: 'measure', params: { id: order.id } }">Measure them</RouterLink>
      and the comparison is whole.
    </p>
    <template v-if="view">
      <section v-if="view.of_block.length" class="card of-block" aria-label="About this block">
        <p v-for="says in view.of_block" :key="says">{{ says }}</p>
      </section>
      <div v-if="view.remarks.length" class="card stack remarks">
        <h2>About her readings</h2>
        <ul>
          <li v-for="remark in view.remarks" :key="remark.says">{{ remark.says }}</li>
        </ul>
        <div v-if="again.length"><ElButton @click="measureAgain(again)">Measure these again</ElButton></div>
      </div>
      <section v-if="view.choices" aria-labelledby="size-title" class="stack">
        <h2 id="size-title">Which size to start from</h2>
        <p>{{ view.choices.why }}</p>
        <p v-for="says in view.choices.toss_ups" :key="says">{{ says }}</p>
        <details v-if="view.sizes.length > 1">
          <summary>
            {{ view.choices.choices.length > 1 ? 'The schools side by side' : 'What it would need' }}
          </summary>
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
                  ><TermMark term="corrections_together">All corrections together</TermMark>{{ ' '
                  }}<strong class="figure">{{ choice.total.text }} {{ unit }}</strong></span
                >
                <ElButton v-if="choice.size !== view.size" size="small" @click="wanted.size = choice.size"
                  >Compare with {{ choice.size }}</ElButton
                >
                <span v-else class="soft small">compared below</span>
              </p>
            </article>
          </div>
        </details>
      </section>
      <div class="halves">
        <section aria-labelledby="table-title" class="stack">
          <h2 id="table-title">{{ order?.form_id ? 'Form' : 'Client' }} against block</h2>
          <p class="small soft">
            Behind ± stands the <TermMark term="spread">spread</TermMark> of the tape; what is less than twice
            as much is <TermMark term="within_the_reading">within the reading</TermMark>.
          </p>
          <div class="scroll" tabindex="0" role="region" aria-label="Comparison table">
            <table>
              <thead>
                <tr>
                  <th scope="col">Dimension</th>
                  <th scope="col" class="num">Body</th>
                  <th scope="col" class="num">Ease</th>
                  <th scope="col" class="num">Target</th>
                  <th scope="col" class="num">Block</th>
                  <th scope="col" class="num"><TermMark term="all_round">All round</TermMark></th>
                  <th scope="col" class="num"><TermMark term="on_the_piece">On piece</TermMark></th>
                  <th scope="col" class="bars">less · more</th>
                  <th scope="col">Grade</th>
                </tr>
              </thead>
              <tbody>
                <tr
                  v-for="row in view.comparison.rows"
                  :key="row.figure"
                  :class="{ pointed: pointed.includes(row.figure) }"
                >
                  <th scope="row">{{ row.name }}</th>
                  <td class="num">{{ row.body?.text ?? '–' }}</td>
                  <td class="num soft">{{ row.ease.text }}</td>
                  <td class="num">{{ row.target?.text ?? '–' }}</td>
                  <td class="num">{{ row.block.text }}</td>
                  <td class="num both">
                    {{ row.on_body?.text ?? '–' }}<PlusMinus v-if="row.on_body" :spread="row.spread" />
                  </td>
                  <td class="num both" :title="row.carried_by">
                    {{ row.on_pattern?.text ?? '–'
                    }}<PlusMinus v-if="row.on_body" :spread="row.spread_on_pattern" />
                  </td>
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
                      soft: row.grade === 'fits' || row.grade === 'within_reading',
                    }"
                  >
                    <button
                      v-if="row.grade === 'remeasure' || row.grade === 'missing'"
                      type="button"
                      class="again"
                      :aria-label="`Measure ${row.name} ${row.grade === 'missing' ? 'now' : 'again'}`"
                      @click="measureAgain([row.measurement])"
                    >
                      {{ GRADES[row.grade] }}
                    </button>
                    <template v-else>{{ GRADES[row.grade] }}</template>
                    <span v-if="row.settled" class="small soft settled">{{ row.settled }}</span>
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
        </section>
        <div class="stack">
          <section v-if="view.explanations.length" aria-labelledby="causes-title" class="stack">
            <h2 id="causes-title">What goes together</h2>
            <article
              v-for="each in view.explanations"
              :key="each.title"
              class="card cause"
              tabindex="0"
              @pointerenter="pointed = each.figures"
              @pointerleave="pointed = []"
              @focus="pointed = each.figures"
              @blur="pointed = []"
            >
              <h3>{{ each.title }}</h3>
              <p class="small">{{ each.says }}</p>
            </article>
          </section>
          <section aria-labelledby="overlay-title" class="stack">
            <div class="between">
              <h2 id="overlay-title">Block and her own draft</h2>
              <fieldset v-if="hasNeck(view.block_pieces)" class="chips">
                <legend class="visually-hidden">Laid on each other at</legend>
                <label class="chip"
                  ><input v-model="anchor" type="radio" name="anchor" value="neck" /><span
                    >neck side</span
                  ></label
                >
                <label class="chip"
                  ><input v-model="anchor" type="radio" name="anchor" value="waist" /><span
                    >centre and waist</span
                  ></label
                >
              </fieldset>
            </div>
            <LaidOver
              v-if="view.own_pieces.length && view.block_pieces.length"
              :block="view.block_pieces"
              :own="view.own_pieces"
              :anchor="anchor"
            />
            <p v-else-if="!view.block_pieces.length" class="soft">
              A card has no drawing: it is compared by its figures.
            </p>
            <p v-else class="soft">{{ view.own_refused }}</p>
          </section>
        </div>
      </div>
      <ProblemNote :problem="unplanned ?? unopened" />
      <FootBar>
        <ElButton type="primary" :aria-busy="busy" @click="toPlan"
          >To the plan: {{ view.plan.lines.length }}
          {{ view.plan.lines.length === 1 ? 'line' : 'lines' }}</ElButton
        >
        <span class="soft">from size {{ view.size }}, {{ view.ease.name.toLowerCase() }}</span>
      </FootBar>
    </template>
  </PageFrame>
</template>

<style scoped>
.controls {
  display: grid;
  grid-template-columns: 17rem 7rem 12rem;
  gap: 0.6rem;
}
@media (max-width: 700px) {
  .controls {
    grid-template-columns: 1fr 1fr;
    width: 100%;
  }
  .wide {
    grid-column: 1 / -1;
  }
}
summary {
  cursor: pointer;
  font-weight: 700;
}
.schools {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(18rem, 100%), 1fr));
  gap: 0.8rem;
  margin-top: 0.7rem;
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
  grid-template-columns: minmax(0, 1.7fr) minmax(0, 1fr);
  gap: 1.6rem;
  align-items: start;
}
.scroll {
  overflow-x: auto;
}
tbody th {
  white-space: nowrap;
}
.settled {
  display: block;
}
.both {
  white-space: nowrap;
}
.bars {
  width: 76px;
}
.bars svg {
  width: 70px;
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
.pointed {
  background: var(--woad-tint);
}
.cause {
  padding: 0.6rem 0.9rem;
}
.again {
  font: inherit;
  font-weight: 700;
  color: var(--madder);
  background: none;
  border: 0;
  padding: 0;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
  text-align: left;
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
.of-block p {
  margin: 0;
}
.remarks ul {
  margin: 0;
  padding-left: 1.2rem;
  columns: 30rem;
}
</style>
