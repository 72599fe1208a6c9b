<script setup lang="ts">
/** How an answer is, and what is so. */
import type { StepVerdict } from '@/api/types'

defineProps<{ verdict: StepVerdict }>()
const WORDS = { right: 'Right.', near: 'Near.', wrong: 'No.' } as const
</script>

<template>
  <p role="status" class="verdict">
    <strong :class="{ decide: verdict.grade === 'wrong', changed: verdict.grade !== 'wrong' }">{{
      WORDS[verdict.grade]
    }}</strong>
    {{ verdict.says }}
  </p>
</template>

<style scoped>
.verdict {
  margin: 0;
}
</style>
