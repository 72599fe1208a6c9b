<script setup lang="ts">
/** Backs that were slashed on the same body: what one of them tells takes the place of the house's curve in a rounded back. */
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { get } from '@/api/client'
import type { Step } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const props = defineProps<{
  client: number
  /** The form that stands for her, where the garment is fitted on one. */
  form?: number | null | undefined
  /** The step has decisions of later rounds, which a toile that was cut without it knows nothing of. @default false */
  grown?: boolean
}>()
const emit = defineEmits<{
  /** What it sets, and the name of the toile. */
  take: [amounts: Step['amounts'], from: string]
}>()

const { may } = useHouse()
const { data: drapes } = useResource(() =>
  get('/api/drapes', { params: { query: props.form == null ? { client: props.client } : {} } }),
)
const toiles = computed(
  () =>
    drapes.value?.filter((each) => each.slashed && (props.form == null || each.form_id === props.form)) ?? [],
)
/** Why one cannot be read yet, or what is asked about it. */
const unread = ref('')
// An action, though it only reads: what is typed into the step is read first, and then this stands.
const {
  run: take,
  busy,
  problem,
} = useAction(
  (toile: { id: number; name: string }) =>
    get('/api/drapes/{id}/slashed', { params: { path: { id: toile.id } } }),
  (view, toile) => {
    if (view.read) emit('take', view.read.amounts, toile.name)
    // What is asked about there is said here too: it is taken over as it is read.
    unread.value = view.refusal?.says ?? view.read?.asks.map((ask) => ask.says).join(' ') ?? ''
  },
  { repeats: true },
)
</script>

<template>
  <div v-if="may('cutting')" class="stack small">
    <ProblemNote :problem="problem" />
    <p v-if="unread" class="decide" role="alert">{{ unread }}</p>
    <p v-if="toiles.length" class="soft">
      {{
        grown
          ? 'Something was added to this step since: take that back before a slashed back is taken over.'
          : 'Read from a back that was cut without this step: it takes the place of what stands here.'
      }}
    </p>
    <p v-for="toile in toiles" :key="toile.id" class="row">
      <ElButton size="small" :disabled="grown" :aria-busy="busy" @click="take(toile)"
        >Take over {{ toile.name }}</ElButton
      >
      <RouterLink :to="{ name: 'drape', params: { id: toile.id }, query: { at: 'drawn' } }"
        >what it tells</RouterLink
      >
    </p>
    <p>
      <RouterLink
        :to="{
          name: 'drapes',
          query: { ...(form == null ? { client } : { form }), material: 'slashed' },
        }"
        >{{
          toiles.length ? 'Mark another slashed back' : 'Take it from a back that was slashed on her'
        }}</RouterLink
      >
    </p>
  </div>
</template>
