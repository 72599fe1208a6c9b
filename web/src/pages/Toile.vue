<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import type { Allowances, FittingStage } from '@/api/types'
import AllowanceFields from '@/components/AllowanceFields.vue'
import SmallDrawing from '@/components/drawing/SmallDrawing.vue'
import FootBar from '@/components/FootBar.vue'
import PageMap from '@/components/garment/PageMap.vue'
import VersionsKept from '@/components/garment/VersionsKept.vue'
import PageFrame from '@/components/PageFrame.vue'
import PaperChoice from '@/components/PaperChoice.vue'
import type { Paper } from '@/components/PaperChoice.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { fieldsRead } from '@/composables/usePendingFields'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const router = useRouter()
const { data: order, reload: reloadOrder } = useOrder()
const {
  data: pattern,
  problem,
  reload,
} = useResource(() =>
  order.value?.pattern_id
    ? get('/api/patterns/{id}', { params: { path: { id: order.value.pattern_id } } })
    : undefined,
)
const paper = ref<Paper>('a4')
const worn = ref('')
const stage = ref<FittingStage>('toile')
const chosen = ref<number>()
const version = computed(
  () => pattern.value?.versions.find((each) => each.id === chosen.value) ?? pattern.value?.versions[0],
)
const { craft, may } = useHouse()
/** In millimetres; what the house usually adds until it is changed here. */
const allowance = ref<Partial<Allowances>>({ ...craft.value?.allowances })

/** The sheets as the fields say, before anything is printed. */
const { data: pages, problem: unmapped } = useResource(() =>
  version.value
    ? get('/api/versions/{id}/pages', {
        params: { path: { id: version.value.id }, query: { paper: paper.value, ...allowance.value } },
      })
    : undefined,
)

function link(kind: 'pdf' | 'svg'): string {
  const ask = new URLSearchParams(kind === 'pdf' ? { paper: paper.value } : {})
  for (const [edge, mm] of Object.entries(allowance.value)) ask.set(edge, String(mm))
  return `/api/versions/${version.value?.id}/${kind}?${ask}`
}

const {
  run: fit,
  busy,
  problem: refused,
} = useAction(
  () =>
    order.value &&
    version.value &&
    post('/api/orders/{id}/rounds', {
      params: { path: { id: order.value.id } },
      body: { version_id: version.value.id, worn: worn.value, stage: stage.value },
    }),
  async (made) => {
    await reloadOrder()
    await router.push({ name: 'round', params: { id: order.value?.id, round: made.id } })
  },
)

/** A version was withdrawn or stands again: the garment stands elsewhere by it. */
async function reread(): Promise<void> {
  chosen.value = undefined
  await Promise.all([reload(), reloadOrder()])
}

/** The sheet as the fields say: a length typed a moment ago is read first. */
async function take(kind: 'pdf' | 'svg'): Promise<void> {
  if (await fieldsRead()) location.assign(link(kind))
}
</script>

<template>
  <PageFrame right="fitting" title="Toile" width="bench" :problem="problem">
    <template v-if="!version">
      <p>
        No version is saved yet: save one on the
        <RouterLink v-if="order" :to="{ name: 'alter', params: { id: order.id } }">cutting table</RouterLink>.
      </p>
      <VersionsKept v-if="pattern" :pattern="pattern" @changed="reread" />
    </template>
    <div v-else class="two">
      <section class="card stack" aria-labelledby="print-title">
        <h2 id="print-title">Print version {{ version.version }}, true to size</h2>
        <fieldset class="chips">
          <legend class="legend">Version</legend>
          <label v-for="each in pattern?.versions" :key="each.id" class="chip">
            <input type="radio" name="version" :checked="each.id === version.id" @change="chosen = each.id" />
            <span class="version"
              ><SmallDrawing :id="each.id" of="versions" />{{ each.version }}, {{ asDay(each.made_at) }}</span
            >
          </label>
        </fieldset>
        <p v-if="version.why" class="small soft">{{ version.why }} {{ version.made_by }}.</p>
        <VersionsKept v-if="pattern" :pattern="pattern" @changed="reread" />
        <PaperChoice v-model="paper" />
        <AllowanceFields v-model="allowance" />
        <p class="small soft">
          Nothing is added on the fold. Print at 100 %, and measure both test squares before cutting.
        </p>
      </section>
      <div class="stack">
        <form id="fit-form" class="card stack" aria-labelledby="fit-title" @submit.prevent="fit">
          <h2 id="fit-title">Fit it</h2>
          <p v-if="order?.round_open">
            Round {{ order.round }} is open.
            <RouterLink :to="{ name: 'round', params: { id: order.id, round: order.round_id } }"
              >Go on with it</RouterLink
            >.
          </p>
          <template v-else>
            <p>
              Cut in muslin with grain and level lines drawn on. When it is on her, open round
              {{ (order?.round ?? 0) + 1 }} on version {{ version.version }}.
            </p>
            <fieldset class="chips">
              <legend class="legend">What is on her</legend>
              <label v-for="each in craft?.stages" :key="each.stage" class="chip">
                <input v-model="stage" type="radio" name="stage" :value="each.stage" /><span>{{
                  each.name
                }}</span>
              </label>
            </fieldset>
            <div class="field">
              <label for="worn">What she wears under it and on her feet</label>
              <input id="worn" v-model="worn" class="plain" type="text" maxlength="400" />
            </div>
            <ProblemNote :problem="refused" />
          </template>
        </form>
        <section class="card stack" aria-labelledby="sheets-title">
          <h2 id="sheets-title">The sheets</h2>
          <ProblemNote :problem="unmapped" />
          <PageMap v-if="pages && !unmapped" :pages="pages" />
        </section>
      </div>
    </div>
    <FootBar v-if="version">
      <a class="el-button el-button--primary" :href="link('pdf')" @click.prevent="take('pdf')"
        >PDF in tiles</a
      >
      <a class="el-button" :href="link('svg')" @click.prevent="take('svg')">SVG in millimetres</a>
      <RouterLink
        v-if="order?.round_open"
        class="el-button"
        :to="{ name: 'round', params: { id: order.id, round: order.round_id } }"
        >Go on with round {{ order.round }}</RouterLink
      >
      <ElButton v-else-if="may('fitting')" native-type="submit" form="fit-form" :aria-busy="busy"
        >Open fitting round {{ (order?.round ?? 0) + 1 }}</ElButton
      >
    </FootBar>
  </PageFrame>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1.3fr 1fr;
  gap: 1rem;
  align-items: start;
}
.chip > .version {
  display: grid;
  justify-items: center;
  border-radius: var(--radius);
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
