<script setup lang="ts">
/** Two blocks laid over each other: what has changed since, or how far left and right are apart. */
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get } from '@/api/client'
import ChoiceField from '@/components/ChoiceField.vue'
import TwoLaidOver from '@/components/drawing/TwoLaidOver.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const props = defineProps<{ id: number; other?: number | undefined }>()
const router = useRouter()
const { data: own, problem } = useResource(() =>
  get('/api/blocks/{id}', { params: { path: { id: props.id } } }),
)
const { data: blocks } = useResource(() => {
  if (!own.value) return undefined
  const client = own.value.block.client_id
  return get('/api/blocks', { params: { query: client == null ? {} : { client } } })
})
/** Blocks of the same garment, her own first. */
const choices = computed(() => {
  const alike = (blocks.value ?? []).filter(
    (each) => each.id !== props.id && each.garment === own.value?.block.garment && each.how !== 'card',
  )
  const hers = own.value?.block.client_id
  const rank = (client: number | null | undefined) => (client != null && client === hers ? 0 : 1)
  return alike
    .sort((one, other) => rank(one.client_id) - rank(other.client_id))
    .map((each) => ({
      value: each.id,
      label: `${each.name}, version ${each.version}, ${asDay(each.made_at)}`,
    }))
})
const other = computed({
  get: () => props.other,
  set: (chosen) => void router.replace({ query: { other: chosen } }),
})
const { data: view, problem: unlaid } = useResource(() =>
  props.other === undefined
    ? undefined
    : get('/api/blocks/{id}/beside/{other}', {
        params: { path: { id: props.other, other: props.id } },
      }),
)
</script>

<template>
  <PageFrame title="Laid over another block" width="wide" :problem="problem ?? unlaid" :reading="!own">
    <template v-if="own" #lead>
      <p class="soft">
        <RouterLink :to="{ name: 'block', params: { id } }">{{ own.block.name }}</RouterLink>, version
        {{ own.block.version }}, in blue; the other one in ink.
      </p>
    </template>
    <ChoiceField
      id="other-block"
      v-model="other"
      label="The block before"
      :choices="choices"
      class="picker"
    />
    <TwoLaidOver v-if="view" :view="view" />
  </PageFrame>
</template>

<style scoped>
.picker {
  max-width: 30rem;
}
</style>
