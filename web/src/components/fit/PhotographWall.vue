<script setup lang="ts">
/** Photographs of a round: taken with the device's camera, kept here until the server has them. */
import { ElButton } from 'element-plus'
import { ref } from 'vue'
import { post, remove } from '@/api/client'
import type { ObservationView, PhotographView, Problem } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import PhotographGrid from '@/components/photographs/PhotographGrid.vue'
import { useAction } from '@/composables/useAction'
import { useUndo } from '@/composables/useUndo'

const props = defineProps<{
  photographs: readonly PhotographView[]
  /** What was seen in the round: a photograph may show one of them. */
  observations: readonly ObservationView[]
  /** How many are not at the server yet. */
  waiting: number
  problem?: Problem
  closed: boolean
}>()
const emit = defineEmits<{ take: [picture: Blob, observation?: number]; changed: [] }>()
const undo = useUndo()
const shows = ref<number>()
const said = (photograph: PhotographView) =>
  props.observations.find((seen) => seen.id === photograph.observation_id)?.said

function taken(event: Event): void {
  const input = event.target as HTMLInputElement
  for (const file of input.files ?? []) emit('take', file, shows.value)
  input.value = ''
}

const { run: takeOut, problem: refused } = useAction(
  (id: number) => remove('/api/photographs/{id}', { params: { path: { id } } }),
  (_, id) => {
    emit('changed')
    undo(
      'The photograph is taken out.',
      post('/api/photographs/{id}/restore', { params: { path: { id } } }),
      () => emit('changed'),
    )
  },
)
</script>

<template>
  <div class="card stack">
    <div v-if="!closed" class="field">
      <label for="photograph">Take a photograph</label>
      <input
        id="photograph"
        type="file"
        accept="image/jpeg,image/png,image/webp"
        capture="environment"
        multiple
        @change="taken"
      />
    </div>
    <ChoiceField
      v-if="!closed && observations.length"
      id="shows"
      v-model="shows"
      label="It shows"
      none="the whole toile"
      :choices="observations.map((seen) => ({ value: seen.id, label: seen.said }))"
    />
    <p class="small soft">
      Each is written anew without place, camera or name, and kept in the house's own database. Ask her first.
    </p>
    <ProblemNote :problem="problem ?? refused" />
    <p v-if="waiting" role="status">
      {{ waiting === 1 ? 'One photograph waits' : `${waiting} photographs wait` }} for the line.
    </p>
    <p v-if="!photographs.length" class="soft">None yet.</p>
    <PhotographGrid :photographs="photographs" drawable :shows="said" @drawn="$emit('changed')">
      <template #default="{ photograph }">
        <ElButton v-if="!closed" size="small" @click="takeOut(photograph.id)">Take it out</ElButton>
      </template>
    </PhotographGrid>
  </div>
</template>
