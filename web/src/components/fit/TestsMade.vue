<script setup lang="ts">
/** The tests that were made in this round, each to be taken back. */
import type { TestView } from '@/api/types'

defineProps<{ tests: readonly TestView[]; closed: boolean }>()
defineEmits<{ takeBack: [cause: string] }>()
</script>

<template>
  <details v-if="tests.length" class="card">
    <summary>
      <strong>Tests made: {{ tests.length }}</strong>
    </summary>
    <ul class="tests">
      <li v-for="made in tests" :key="made.cause">
        <span
          >{{ made.title }}: {{ made.holds ? 'it is so' : 'it is not so' }}.
          <span class="small soft">{{ made.test }}</span></span
        >
        <button v-if="!closed" type="button" class="quiet small" @click="$emit('takeBack', made.cause)">
          Take back
        </button>
      </li>
    </ul>
  </details>
</template>

<style scoped>
.tests {
  list-style: none;
  margin: 0.5rem 0 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
.tests li {
  display: flex;
  gap: 0.8rem;
  justify-content: space-between;
  align-items: baseline;
}
.quiet {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  min-height: 24px;
  white-space: nowrap;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
}
</style>
