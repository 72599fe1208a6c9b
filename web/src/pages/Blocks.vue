<script setup lang="ts">
import { RouterLink } from 'vue-router'
import type { BlockView } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const { data: blocks, problem } = useResource<BlockView[]>('/api/blocks')
</script>

<template>
  <main class="page stack" aria-labelledby="blocks-title">
    <h1 id="blocks-title">Blocks</h1>
    <p class="soft">A master is never drawn on and never cut: a pattern begins with a frozen copy of it.</p>
    <ProblemNote :problem="problem" />
    <p v-if="blocks && !blocks.length" class="card">
      The house has no master yet. Draft a block from a client's own readings on her page.
    </p>
    <ul>
      <li v-for="block in blocks" :key="block.id" class="card">
        <RouterLink :to="{ name: 'block', params: { id: block.id } }" class="title">{{
          block.name
        }}</RouterLink>
        <p>{{ block.why }}</p>
        <p class="small soft">Version {{ block.version }}, {{ block.made_by }}, {{ asDay(block.made_at) }}</p>
      </li>
    </ul>
  </main>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.7rem;
}
.title {
  font: 600 1.25rem var(--serif);
}
</style>
