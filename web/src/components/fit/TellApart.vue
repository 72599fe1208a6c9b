<script setup lang="ts">
/** The test that tells the first causes apart: its answer is one tap, and weighs. */
import { ElButton } from 'element-plus'
import type { TellApart } from '@/api/types'

defineProps<{ test: TellApart; busy?: boolean }>()
defineEmits<{ answer: [holds: boolean] }>()
</script>

<template>
  <div class="tell" role="group" :aria-label="`Test: ${test.title}`">
    <p class="small soft">
      “{{ test.title }}” or “{{ test.from.toLowerCase() }}”? Try it on the toile before an amount is taken:
    </p>
    <p>
      <strong>{{ test.test }}</strong>
    </p>
    <div class="row">
      <ElButton :aria-busy="busy" @click="$emit('answer', true)">It is so</ElButton>
      <ElButton :aria-busy="busy" @click="$emit('answer', false)">It is not so</ElButton>
    </div>
  </div>
</template>

<style scoped>
.tell {
  border-left: 3px solid var(--woad);
  padding: 0.1rem 0 0.1rem 0.8rem;
  display: grid;
  gap: 0.4rem;
}
</style>
