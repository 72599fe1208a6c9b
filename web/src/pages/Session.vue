<script setup lang="ts">
/** A measuring session without a garment, and any session to look at again. */
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get } from '@/api/client'
import MeasureBench from '@/components/measure/MeasureBench.vue'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ id: number }>()
const router = useRouter()
const { data: session } = useResource(() => get('/api/sessions/{id}', { params: { path: { id: props.id } } }))
const client = computed(() => session.value?.client_id)

const closed = () => router.push({ name: 'profile', params: { id: client.value } })
</script>

<template>
  <main class="page stack" aria-labelledby="measure-title">
    <p v-if="session" class="soft">
      <RouterLink :to="{ name: 'profile', params: { id: session.client_id } }">{{
        session.client
      }}</RouterLink>
    </p>
    <MeasureBench :key="id" :session-id="Number(id)" @closed="closed" />
  </main>
</template>
