<script setup lang="ts">
/** Measuring for a garment: takes up the client's open session where it was left. */
import { ElButton } from 'element-plus'
import { ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { get } from '@/api/client'
import type { Made } from '@/api/types'
import MeasureBench from '@/components/measure/MeasureBench.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useOrder } from '@/composables/useOrder'

const router = useRouter()
const { data: order, reload: reloadOrder } = useOrder()
const sessionId = ref<number>()

watch(
  order,
  (now) => {
    if (now?.open_session && sessionId.value === undefined) sessionId.value = now.open_session
  },
  { immediate: true },
)

const {
  run: begin,
  busy,
  problem,
} = useAction<Made>(
  () => ({
    path: `/api/clients/${order.value?.client_id}/sessions`,
    body: { set_code: 'bodice_direct' },
  }),
  async (made) => {
    sessionId.value = made.id
    await reloadOrder()
  },
  { repeats: true },
)

async function closed(): Promise<void> {
  const fresh = await get<{ missing: number }>(`/api/orders/${order.value?.id}`)
  const name = fresh.ok && fresh.value.missing === 0 ? 'compare' : 'measure'
  sessionId.value = undefined
  await reloadOrder()
  await router.push({ name, params: { id: order.value?.id } })
}
</script>

<template>
  <main class="stack" aria-labelledby="measure-title">
    <MeasureBench
      v-if="sessionId !== undefined"
      :key="sessionId"
      :session-id="sessionId"
      @changed="reloadOrder"
      @closed="closed"
    />
    <template v-else-if="order">
      <ProblemNote :problem="problem" />
      <h1 id="measure-title">Measure</h1>
      <p v-if="order.missing === 0">
        Everything the draft needs is measured. A new session shows what has changed.
      </p>
      <p v-else>
        {{ order.missing }} of {{ order.wanted }} readings are wanted. Foundation on, elastic at the waist, a
        string at the armpits; then begin.
      </p>
      <div><ElButton type="primary" :aria-busy="busy" @click="begin">Begin measuring</ElButton></div>
    </template>
  </main>
</template>
