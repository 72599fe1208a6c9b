<script setup lang="ts">
/** The plan: an ordered recipe with its reasons; every change is kept and the rest planned anew at once. */
import { ElButton } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post, put, send } from '@/api/client'
import type { Plan, PlanChanges, PlanLine, Prediction, Problem, Recipe } from '@/api/types'
import LengthField from '@/components/LengthField.vue'
import PatternsBeside from '@/components/garment/PatternsBeside.vue'
import FootBar from '@/components/FootBar.vue'
import PageFrame from '@/components/PageFrame.vue'
import PlusMinus from '@/components/PlusMinus.vue'
import TermMark from '@/components/TermMark.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { useResource } from '@/composables/useResource'

const router = useRouter()
const { may, unit } = useHouse()
const { data: order, reload: reloadOrder } = useOrder()
const {
  data: view,
  problem,
  reload,
} = useResource(() =>
  order.value ? get('/api/orders/{id}/comparison', { params: { path: { id: order.value.id } } }) : undefined,
)
const plan = shallowRef<Plan>()
/** What its lines make on the cutting table. */
const recipe = shallowRef<Recipe>()
const changes = shallowRef<PlanChanges>({ off: [], amounts: {}, order: [] })
const revision = ref(0)
const refused = shallowRef<Problem>()
const said = ref('')

watch(view, (now) => {
  if (!now) return
  plan.value = now.plan
  recipe.value = now.recipe
  changes.value = now.changes
  revision.value = now.plan_revision
})

const block = computed(() => view.value?.blocks.find((each) => each.id === view.value?.block_id))
const isCard = computed(() => view.value?.block_pieces.length === 0)
const touched = computed(
  () => changes.value.off.length + changes.value.order.length + Object.keys(changes.value.amounts).length > 0,
)

let saving: Promise<void> = Promise.resolve()
/** One change after the other: each is based on what the one before made. */
function keep(next: PlanChanges, says: string): Promise<void> {
  saving = saving.then(async () => {
    const now = view.value
    if (!now || !order.value) return
    const result = await send(
      put('/api/orders/{id}/plan', {
        params: { path: { id: order.value.id } },
        body: {
          revision: revision.value,
          block_id: now.block_id,
          size: now.size,
          ease_set: now.ease.code,
          changes: next,
        },
      }),
    )
    refused.value = result.ok ? undefined : result.problem
    if (!result.ok) {
      // Somebody else was faster: what stands now is shown.
      if (result.problem.status === 409) await reload()
      return
    }
    plan.value = result.value.plan
    recipe.value = result.value.recipe
    changes.value = result.value.changes
    revision.value = result.value.revision
    said.value = says
  })
  return saving
}

function turn(line: PlanLine, on: boolean): void {
  const off = changes.value.off.filter((key) => key !== line.key)
  if (!on) off.push(line.key)
  void keep({ ...changes.value, off }, on ? `${line.name} is done again.` : `${line.name} is left out.`)
}

function amount(line: PlanLine, mm: number | null): void {
  const amounts = { ...changes.value.amounts }
  if (mm === null) delete amounts[line.key]
  else amounts[line.key] = mm
  void keep({ ...changes.value, amounts }, `${line.name} set.`)
}

function move(line: PlanLine, by: number): void {
  const keys = plan.value?.lines.map((each) => each.key) ?? []
  const at = keys.indexOf(line.key)
  keys.splice(at, 1)
  keys.splice(at + by, 0, line.key)
  void keep({ ...changes.value, order: keys }, `${line.name} is now number ${at + by + 1}.`)
}

/** Judged as it is shown: what is written alike closes, anything else says what is left. */
function closes(row: Prediction): string {
  if (row.closes) return 'yes'
  const over = row.left.text.startsWith('−')
  const left = `${row.left.text.replace('−', '')} ${unit.value} ${over ? 'over' : 'short'}`
  if (row.fits) return `near enough, ${left}`
  return row.addressed ? `not quite, ${left}` : left
}

const {
  run: begin,
  busy,
  problem: unbegun,
} = useAction(
  async () => {
    await saving
    // What was typed last was turned down: it is mended before anything is begun with it.
    if (refused.value) return undefined
    if (!order.value || !view.value || !recipe.value) return undefined
    const anew = Boolean(order.value.pattern_id)
    const body = { block_id: view.value.block_id, size: view.value.size, recipe: recipe.value, anew }
    return post('/api/orders/{id}/pattern', { params: { path: { id: order.value.id } }, body })
  },
  async () => {
    await reloadOrder()
    await router.push({ name: 'alter', params: { id: order.value?.id } })
  },
  { repeats: true },
)

/** The reading that, taken once more, leaves least doubt. */
const retake = computed(() => plan.value?.doubt?.readings[0])
const { run: measureAgain, problem: unopened } = useAction(
  (code: string) =>
    order.value?.client_id
      ? post('/api/clients/{id}/sessions', {
          params: { path: { id: order.value.client_id } },
          body: { codes: [code] },
        })
      : undefined,
  (made) => router.push({ name: 'session', params: { id: made.id } }),
)
</script>

<template>
  <PageFrame
    right="cutting"
    title="Plan"
    width="bench"
    :problem="problem ?? refused ?? unbegun ?? unopened"
    :reading="!plan"
  >
    <template #lead>
      <p v-if="view" class="soft">
        From {{ block?.name }}, version {{ block?.version }}, size {{ view.size }};
        {{ view.ease.name.toLowerCase() }}.
        <RouterLink v-if="order" :to="{ name: 'compare', params: { id: order.id } }"
          >Compare again</RouterLink
        >
      </p>
    </template>
    <template v-if="order" #actions>
      <a :href="`/api/orders/${order.id}/plan.pdf`" download>Worksheet (PDF)</a>
      <ElButton
        v-if="touched"
        size="small"
        @click="keep({ off: [], amounts: {}, order: [] }, 'The plan stands as it was made.')"
        >As it was made</ElButton
      >
    </template>
    <p class="visually-hidden" role="status">{{ said }}</p>
    <div v-if="plan" class="halves">
      <section class="stack" aria-label="Lines of the plan">
        <p v-if="!plan.lines.length">The block fits within its tolerances: nothing to alter.</p>
        <p v-else class="small soft">
          Lengths first, since they move levels;
          {{
            block?.garment === 'bodice'
              ? 'then the bust before any other width; the sleeve last, from the finished armhole.'
              : 'then the widths.'
          }}
          Leave a line out, set its amount, or move it: the rest is planned anew.
        </p>
        <ol>
          <li v-for="(line, index) in plan.lines" :key="line.key" class="card" :class="{ off: !line.done }">
            <label class="tick">
              <input
                type="checkbox"
                :checked="line.done"
                @change="turn(line, ($event.target as HTMLInputElement).checked)"
              />
              <span class="visually-hidden">Do {{ line.name }}</span>
            </label>
            <div class="stack line">
              <div class="between">
                <strong>{{ index + 1 }}. {{ line.name }}</strong>
                <span class="row">
                  <ElButton
                    size="small"
                    :disabled="index === 0"
                    :aria-label="`${line.name} earlier`"
                    @click="move(line, -1)"
                    >↑</ElButton
                  >
                  <ElButton
                    size="small"
                    :disabled="index === plan.lines.length - 1"
                    :aria-label="`${line.name} later`"
                    @click="move(line, 1)"
                    >↓</ElButton
                  >
                </span>
              </div>
              <div class="row amount">
                <LengthField
                  :label="`${line.name}, ${line.on}`"
                  :model-value="line.amount.mm"
                  :parts="line.parts"
                  @update:model-value="amount(line, $event)"
                  ><PlusMinus :spread="line.spread"
                /></LengthField>
                <ElButton v-if="line.planned" size="small" @click="amount(line, null)"
                  >planned {{ line.planned.text }} {{ unit }}</ElButton
                >
              </div>
              <p class="small">{{ line.reason }}</p>
              <p v-if="line.by_hand" class="small soft">{{ line.by_hand }}</p>
              <p v-if="line.refused" class="small decide">{{ line.refused }}</p>
            </div>
          </li>
        </ol>
        <p v-if="plan.dropped.length" class="small soft">
          Too small to act on:
          {{ plan.dropped.map((line) => `${line.name} ${line.amount.text} ${unit}`).join(', ') }}.
        </p>
      </section>
      <div class="stack">
        <section v-if="plan.doubt?.says" class="card stack doubt" aria-label="How sure it is">
          <p>{{ plan.doubt.says }}</p>
          <p class="small soft">
            Of the doubt in all amounts together, by the <TermMark term="spread">spread</TermMark> of the
            tape:
            {{
              plan.doubt.readings
                .map(({ name, share }) => `${name.toLowerCase()} ${Math.round(share * 100)} %`)
                .join('; ')
            }}.
          </p>
          <div v-if="retake">
            <ElButton @click="measureAgain(retake.measurement)"
              >Measure {{ retake.name.toLowerCase() }} again</ElButton
            >
          </div>
        </section>
        <section v-if="plan.predictions.length" aria-labelledby="after-title" class="stack">
          <h2 id="after-title">Figures after the plan</h2>
          <p class="small soft">Found by applying it to the block; lines done by hand do not count here.</p>
          <table>
            <thead>
              <tr>
                <th scope="col">Dimension</th>
                <th scope="col" class="num">Block</th>
                <th scope="col" class="num">After</th>
                <th scope="col" class="num">Target</th>
                <th scope="col">Closes</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in plan.predictions" :key="row.figure">
                <th scope="row">{{ row.name }}</th>
                <td class="num soft" :title="`${row.before.exact} ${unit}`">{{ row.before.text }}</td>
                <td
                  class="num"
                  :class="{ changed: row.before.text !== row.predicted.text }"
                  :title="`${row.predicted.exact} ${unit}`"
                >
                  {{ row.predicted.text }}
                </td>
                <td class="num sure" :title="`${row.target.exact} ${unit}`">
                  {{ row.target.text }}<PlusMinus :spread="row.spread" />
                </td>
                <td :class="{ decide: row.addressed && !row.fits }">
                  {{ closes(row) }}
                  <p v-if="row.rest" class="small soft rest">{{ row.rest }}</p>
                </td>
              </tr>
            </tbody>
          </table>
          <p>
            <TermMark term="corrections_together">All corrections together</TermMark>{{ ' '
            }}<strong class="figure">{{ plan.total.text }} {{ unit }}</strong>
          </p>
        </section>
      </div>
    </div>
    <p v-if="order?.pattern_id && !isCard" class="small soft">
      Begun anew, the pattern that is there is laid beside it, whole, and can be taken up again.
    </p>
    <PatternsBeside v-if="order" :order="order.id" @changed="reloadOrder" />
    <FootBar v-if="plan">
      <RouterLink
        v-if="order?.pattern_id"
        :to="{ name: 'alter', params: { id: order.id } }"
        class="el-button el-button--primary"
      >
        The pattern is begun: to the cutting table
      </RouterLink>
      <p v-if="isCard" class="soft">
        A card has no geometry to cut from: work from the worksheet, or compare with a drawn block.
      </p>
      <ElButton
        v-else-if="may('cutting')"
        :type="order?.pattern_id ? 'default' : 'primary'"
        :aria-busy="busy"
        @click="begin"
      >
        {{ order?.pattern_id ? 'Begin anew' : 'Begin the pattern' }} from size {{ view?.size }} with
        {{ recipe?.steps.length }} {{ recipe?.steps.length === 1 ? 'alteration' : 'alterations' }}
      </ElButton>
    </FootBar>
  </PageFrame>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
  gap: 1.6rem;
  align-items: start;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
li.card {
  display: grid;
  grid-template-columns: 2rem 1fr;
  padding: 0.6rem 0.9rem;
}
.line {
  gap: 0.35rem;
}
.off .line {
  color: var(--ink-soft);
}
.rest {
  margin: 0;
}
.doubt p {
  margin: 0;
}
.sure {
  white-space: nowrap;
}
tbody :is(th, td) {
  vertical-align: baseline;
}
.amount {
  align-items: end;
}
.tick input {
  width: 1.2rem;
  height: 1.2rem;
  accent-color: var(--ink);
}
@media (max-width: 1100px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
