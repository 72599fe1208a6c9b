<script setup lang="ts">
/** Measuring for a garment: takes up the client's open session where it was left. */
import { ElButton } from 'element-plus'
import { ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import type { Made, Problem } from '@/api/types'
import MeasureBench from '@/components/measure/MeasureBench.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useOrder } from '@/composables/useOrder'

const router = useRouter()
const { data: order, reload: reloadOrder } = useOrder()
const sessionId = ref<number>()
const problem = shallowRef<Problem>()

watch(
  order,
  (now) => {
    if (now?.open_session && sessionId.value === undefined) sessionId.value = now.open_session
  },
  { immediate: true },
)

async function begin(): Promise<void> {
  const result = await post<Made>(`/api/clients/${order.value?.client_id}/sessions`, {
    set_code: 'bodice_direct',
  })
  problem.value = result.ok ? undefined : result.problem
  if (!result.ok) return
  sessionId.value = result.value.id
  await reloadOrder()
}

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
      <div><ElButton type="primary" @click="begin">Begin measuring</ElButton></div>
    </template>
  </main>
</template>
