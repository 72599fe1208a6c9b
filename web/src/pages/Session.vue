<script setup lang="ts">
/** A measuring session without a garment, and any session to look at again. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import DropSession from '@/components/measure/DropSession.vue'
import MeasureBench from '@/components/measure/MeasureBench.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const props = defineProps<{ id: number }>()
const router = useRouter()
const { may } = useHouse()
const {
  data: session,
  problem,
  reload,
} = useResource(() => get('/api/sessions/{id}', { params: { path: { id: props.id } } }))
const client = computed(() => session.value?.client_id)

const { run: bringBack, problem: unbrought } = useAction(
  () => post('/api/sessions/{id}/restore', { params: { path: { id: props.id } } }),
  reload,
  { repeats: true },
)
const closed = () => router.push({ name: 'profile', params: { id: client.value } })
</script>

<template>
  <PageFrame :problem="problem ?? unbrought">
    <template v-if="session" #above>
      <p class="soft">
        <RouterLink :to="{ name: 'profile', params: { id: session.client_id } }">{{
          session.client
        }}</RouterLink>
      </p>
    </template>
    <p v-if="session?.dropped_at" class="card between">
      <span
        ><b class="decide">Dropped {{ asDay(session.dropped_at) }}.</b> Its readings do not count.
        {{ session.dropped_why }}</span
      >
      <ElButton v-if="may('readings')" size="small" @click="bringBack">Bring it back</ElButton>
    </p>
    <MeasureBench :key="id" :session-id="Number(id)" @closed="closed" @changed="reload" />
    <p v-if="session && !session.dropped_at && may('readings')">
      <DropSession :session="id" :signed="Boolean(session.closed_at)" @dropped="reload" />
    </p>
  </PageFrame>
</template>
