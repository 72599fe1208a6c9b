<script setup lang="ts">
/** A drafted block: drawn, measured, checked. */
import type { BlockDetail } from '@/api/types'
import PatternDrawing from '@/components/PatternDrawing.vue'

defineProps<{ drawn: BlockDetail['sizes'][number]['drawn'] }>()
</script>

<template>
  <div class="sheet">
    <PatternDrawing :pieces="drawn.pieces" />
    <div class="stack">
      <p v-for="(note, index) in drawn.notes" :key="index" class="note">
        <strong>{{ note.estimated ? 'Estimated' : 'Note' }}.</strong> {{ note.says }}
      </p>
      <section aria-label="Measured on the block">
        <table>
          <tbody>
            <tr v-for="row in drawn.figures" :key="row.name">
              <th scope="row">{{ row.name }}</th>
              <td class="num">{{ row.text }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <ul class="checks" aria-label="Checks">
        <li v-for="check in drawn.checks" :key="check.code">
          <strong :class="{ decide: !check.passed }">{{ check.passed ? 'Pass' : 'Fail' }}</strong>
          {{ check.name }}<span v-if="!check.passed" class="small soft">: {{ check.says }}</span>
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 19rem;
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
.checks {
  list-style: none;
  margin: 0;
  padding: 0;
}
.checks strong {
  display: inline-block;
  width: 2.6rem;
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
