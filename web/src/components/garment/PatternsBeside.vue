<script setup lang="ts">
/** Patterns this garment was begun with before: kept whole, and taken up again by one press. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { get, post } from '@/api/client'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const props = defineProps<{ order: number }>()
const emit = defineEmits<{ changed: [] }>()
const { may } = useHouse()
const { data: patterns, reload } = useResource(() =>
  get('/api/orders/{id}/patterns', { params: { path: { id: props.order } } }),
)
const beside = computed(() => patterns.value?.filter((each) => !each.in_hand) ?? [])

const { run: takeUp, problem } = useAction(
  (id: number) => post('/api/patterns/{id}/take-up', { params: { path: { id } } }),
  async () => {
    await reload()
    emit('changed')
  },
  { repeats: true },
)
</script>

<template>
  <section v-if="beside.length" class="card stack" aria-labelledby="patterns-title">
    <h2 id="patterns-title">Begun before</h2>
    <ul>
      <li v-for="each in beside" :key="each.id" class="between">
        <span
          >{{ each.block_name }}, begun {{ asDay(each.begun_at) }},
          {{ each.version ? `to version ${each.version}` : 'no version saved' }}</span
        >
        <ElButton
          v-if="may('cutting')"
          size="small"
          :aria-label="`Take it up again: ${each.block_name}`"
          @click="takeUp(each.id)"
          >Take it up again</ElButton
        >
      </li>
    </ul>
    <ProblemNote :problem="problem" />
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.4rem;
}
</style>
