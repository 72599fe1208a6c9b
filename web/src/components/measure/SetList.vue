<script setup lang="ts">
/** The set in the order of the route: what is taken, doubtful, left out, and where one is. */
import type { SessionRowView } from '@/api/types'

const props = defineProps<{
  rows: readonly SessionRowView[]
  at: number
  /** Texts that wait for the line, by measurement. */
  waiting: ReadonlyMap<string, string>
}>()
defineEmits<{ go: [index: number] }>()

const doubtful = (row: SessionRowView) =>
  row.entries.some((entry) => !entry.stands && entry.findings.some((finding) => finding.grade !== 'note'))

function says(row: SessionRowView): string {
  const waits = props.waiting.get(row.measurement.code)
  if (waits !== undefined) return `${waits} …`
  if (row.entries.length > 1) return row.entries.map((entry) => entry.figure.text).join(' · ')
  const [entry] = row.entries
  if (!entry) return row.skipped != null ? 'left out' : ''
  return entry.takes.length > 1 ? entry.figure.text : (entry.takes[0]?.typed ?? '')
}
</script>

<template>
  <ol>
    <li v-for="(each, index) in rows" :key="each.measurement.code">
      <button type="button" :aria-current="index === at ? 'true' : undefined" @click="$emit('go', index)">
        <span>{{ each.measurement.name }}</span>
        <span class="figure" :class="{ decide: doubtful(each) }">
          {{ says(each) }}<template v-if="doubtful(each)"> ?</template>
        </span>
      </button>
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--rule);
  width: 100%;
  display: flex;
  justify-content: space-between;
  gap: 0.6rem;
  padding: 0.22rem 0.3rem;
  min-height: 24px;
  text-align: left;
  cursor: pointer;
}
button[aria-current] {
  background: var(--ink);
  color: var(--paper);
}
button[aria-current] .decide {
  color: inherit;
}
@media (max-width: 700px) {
  button {
    min-height: 44px;
    align-items: center;
  }
}
</style>
