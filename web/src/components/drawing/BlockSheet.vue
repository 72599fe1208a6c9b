<script setup lang="ts">
/** A drafted block: drawn, measured, and held against the seven rules before anything is cut. */
import FaultMarks from './FaultMarks.vue'
import PatternDrawing from './PatternDrawing.vue'
import type { Box } from '@/composables/useDrawingView'
import type { DrawnBlock } from '@/api/types'
import CutList from '@/components/CutList.vue'
import { useFaults } from '@/composables/useFaults'

const props = defineProps<{
  drawn: DrawnBlock
  room?: Readonly<Record<string, Box>>
}>()
const { picked, faults } = useFaults(() => props.drawn.checks)
</script>

<template>
  <div class="sheet">
    <PatternDrawing v-if="drawn.pieces.length" :pieces="drawn.pieces" :room="room">
      <template #on="{ piece }">
        <slot name="on" :piece="piece" />
        <FaultMarks :faults="faults.filter((each) => each.piece === piece.kind)" />
      </template>
    </PatternDrawing>
    <p v-else class="card soft">
      A card has no drawing: it was measured by hand, and is compared by its figures.
    </p>
    <div class="stack">
      <p v-for="(note, index) in drawn.notes" :key="index" class="note">
        <strong>{{ note.estimated ? 'Estimated' : 'Note' }}.</strong> {{ note.says }}
      </p>
      <CutList v-if="drawn.checks.length" :checks="drawn.checks" @show="picked = $event" />
      <details :open="!drawn.checks.length">
        <summary>Measured on the block</summary>
        <table>
          <tbody>
            <tr v-for="row in drawn.figures" :key="row.name">
              <th scope="row">{{ row.name }}</th>
              <td class="num">{{ row.text }}</td>
            </tr>
          </tbody>
        </table>
      </details>
    </div>
  </div>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 20rem;
  gap: 1.4rem;
  align-items: start;
}
th {
  font-weight: 400;
  color: var(--ink);
  font-size: 0.95rem;
}
th,
td {
  padding-top: 0.1rem;
  padding-bottom: 0.1rem;
}
summary {
  cursor: pointer;
  font-weight: 700;
}
.note {
  border-left: 4px solid var(--madder);
  padding-left: 0.7rem;
}
@media (max-width: 900px) {
  .sheet {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
