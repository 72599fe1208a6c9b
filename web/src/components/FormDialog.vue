<script setup lang="ts">
/** A form in a dialog: its fields in the slot, what went wrong, and one button that does it. */
import { ElButton, ElDialog } from 'element-plus'
import type { Problem } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'

defineProps<{ open: boolean; title: string; action: string; problem?: Problem }>()
defineEmits<{ close: []; submit: [] }>()
</script>

<template>
  <ElDialog :model-value="open" :title="title" width="min(500px, 94vw)" align-center @close="$emit('close')">
    <form class="stack" @submit.prevent="$emit('submit')">
      <slot />
      <ProblemNote :problem="problem" />
      <ElButton type="primary" native-type="submit">{{ action }}</ElButton>
    </form>
  </ElDialog>
</template>
