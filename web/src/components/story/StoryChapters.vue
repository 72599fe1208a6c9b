<script setup lang="ts">
/** A garment's story in the words a client reads. */
import type { ClientStory } from '@/api/types'
import { asDay } from '@/days'

defineProps<{ story: ClientStory }>()
</script>

<template>
  <ol class="chapters">
    <li v-for="(chapter, index) in story.chapters" :key="index">
      <h3>{{ chapter.title }}</h3>
      <p class="small soft">{{ asDay(chapter.on) }}</p>
      <p v-for="line in chapter.lines" :key="line">{{ line }}</p>
    </li>
  </ol>
</template>

<style scoped>
.chapters {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 1.1rem;
}
li {
  border-left: 2px solid var(--rule);
  padding-left: 0.9rem;
}
</style>
