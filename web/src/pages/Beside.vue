<script setup lang="ts">
/** Two garments beside each other: block, corrections and finished measures. */
import { ElTable, ElTableColumn } from 'element-plus'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { get } from '@/api/client'
import LaidOver from '@/components/drawing/LaidOver.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { isNought } from '@/figures'

const props = defineProps<{ id: number; other: number }>()
const { unit } = useHouse()
const { data: view, problem } = useResource(() =>
  get('/api/orders/{id}/beside/{other}', { params: { path: { id: props.id, other: props.other } } }),
)
const sides = computed(() => (view.value ? [view.value.here, view.value.there] : []))
const version = (number: number) => (number ? `version ${number}` : 'not saved yet')
/** A difference with its sign. */
const signed = (mm: number, text: string) => (mm > 0 ? `+${text}` : text)
/** Written as nothing, in whatever unit. */
const isSame = (row: { here?: string | null; there?: string | null }) => row.here === row.there
</script>

<template>
  <PageFrame title="Two garments beside each other" :problem="problem" :reading="!view">
    <template v-if="view">
      <div class="heads">
        <section v-for="each in sides" :key="each.order.id" class="card">
          <h2>
            <RouterLink :to="{ name: 'alter', params: { id: each.order.id } }">{{
              each.order.garment
            }}</RouterLink>
          </h2>
          <p>{{ each.order.client }}, {{ version(each.version) }}</p>
          <p class="small soft">{{ each.block_name }}</p>
          <p class="small soft">{{ each.order.standing.waits_for }}</p>
        </section>
      </div>
      <div class="two">
        <section class="stack" aria-labelledby="figures-title">
          <h2 id="figures-title">Finished measures, {{ unit }}</h2>
          <ElTable :data="view.figures" empty-text="Nothing to compare">
            <ElTableColumn prop="name" label="Measure" min-width="150">
              <template #default="{ row }">{{ row.name }}{{ row.side ? `, ${row.side}` : '' }}</template>
            </ElTableColumn>
            <ElTableColumn :label="view.here.order.garment" align="right" min-width="90">
              <template #default="{ row }">{{ row.before?.text ?? '–' }}</template>
            </ElTableColumn>
            <ElTableColumn :label="view.there.order.garment" align="right" min-width="90">
              <template #default="{ row }">{{ row.after.text }}</template>
            </ElTableColumn>
            <ElTableColumn label="Differs" align="right" min-width="80">
              <template #default="{ row }"
                ><b v-if="row.change && !isNought(row.change.text)">{{
                  signed(row.change.mm, row.change.text)
                }}</b></template
              >
            </ElTableColumn>
          </ElTable>
        </section>
        <div class="stack">
          <section class="stack" aria-labelledby="steps-title">
            <h2 id="steps-title">Corrections</h2>
            <ElTable :data="view.steps" empty-text="Neither is corrected">
              <ElTableColumn :label="view.here.order.garment" min-width="150">
                <template #default="{ row }">{{ row.here ?? 'not here' }}</template>
              </ElTableColumn>
              <ElTableColumn :label="view.there.order.garment" min-width="150">
                <template #default="{ row }">{{
                  isSame(row) ? 'the same' : (row.there ?? 'not there')
                }}</template>
              </ElTableColumn>
            </ElTable>
          </section>
          <section class="stack" aria-labelledby="over-title">
            <h2 id="over-title">Laid over each other</h2>
            <LaidOver
              :own="view.there.pieces"
              :block="view.here.pieces"
              anchor="neck"
              :ink="view.here.order.garment"
              :blue="view.there.order.garment"
            />
          </section>
        </div>
      </div>
    </template>
  </PageFrame>
</template>

<style scoped>
.heads {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1rem;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
  gap: 1.4rem;
  align-items: start;
}
@media (max-width: 900px) {
  .two,
  .heads {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
