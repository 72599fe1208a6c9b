<script setup lang="ts">
/** Measuring for a garment: takes up the client's open session where it was left. */
import { ElButton } from 'element-plus'
import { ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { post } from '@/api/client'
import AskConsent from '@/components/AskConsent.vue'
import DropSession from '@/components/measure/DropSession.vue'
import MeasureBench from '@/components/measure/MeasureBench.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useAction } from '@/composables/useAction'
import { useOrder } from '@/composables/useOrder'
import { useUndo } from '@/composables/useUndo'

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
} = useAction(
  () =>
    order.value &&
    post('/api/clients/{id}/sessions', {
      params: { path: { id: order.value.client_id } },
      body: { set_code: order.value.set_code, order: order.value.id },
    }),
  async (made) => {
    sessionId.value = made.id
    await reloadOrder()
  },
  { repeats: true },
)
/** Nobody is measured before she has agreed: the server says so, and it is asked here. */
const asking = ref(false)
watch(problem, (now) => (asking.value = now?.pointer === '/consent'))
async function agreed(): Promise<void> {
  asking.value = false
  await begin()
}

const undo = useUndo()
async function dropped(): Promise<void> {
  const id = sessionId.value
  sessionId.value = undefined
  await reloadOrder()
  if (id === undefined) return
  undo(
    'The session is dropped.',
    post('/api/sessions/{id}/restore', { params: { path: { id } } }),
    async () => {
      sessionId.value = id
      await reloadOrder()
    },
  )
}

async function closed(): Promise<void> {
  sessionId.value = undefined
  await reloadOrder()
  const name = order.value?.missing === 0 ? 'compare' : 'measure'
  await router.push({ name, params: { id: order.value?.id } })
}
</script>

<template>
  <PageFrame
    :title="sessionId === undefined && order ? 'Measure' : undefined"
    width="bench"
    :problem="sessionId === undefined && !asking ? problem : undefined"
  >
    <MeasureBench
      v-if="sessionId !== undefined"
      :key="sessionId"
      :session-id="sessionId"
      @changed="reloadOrder"
      @closed="closed"
    />
    <p v-if="sessionId !== undefined" class="row small">
      <DropSession :session="sessionId" :signed="false" @dropped="dropped" />
    </p>
    <template v-if="sessionId === undefined && order">
      <AskConsent :client="order.client_id" :open="asking" @close="asking = false" @given="agreed" />
      <p v-if="order.missing === 0">
        Everything the draft needs is measured. A new session shows what has changed.
      </p>
      <p v-else>
        {{ order.set_name }}: {{ order.missing }} of {{ order.wanted }} readings are wanted. Foundation on,
        elastic at the waist, a string at the armpits; then begin.
      </p>
      <div><ElButton type="primary" :aria-busy="busy" @click="begin">Begin measuring</ElButton></div>
    </template>
  </PageFrame>
</template>
