<script setup lang="ts">
/**
 * A form in a dialog: its fields in the slot, what went wrong, and one button that does it. It opens in its first
 * field, and a click beside it asks before anything typed is thrown away. A press that lands while it closes is none.
 */
import { ElButton, ElDialog } from 'element-plus'
import { ref, useTemplateRef, watch } from 'vue'
import type { Problem } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import { mayThrowAway } from '@/composables/useUnsaved'

const props = defineProps<{
  open: boolean
  title: string
  action: string
  /** The action is under way. @default false */
  busy?: boolean
  problem?: Problem
}>()
defineEmits<{ close: []; submit: [] }>()

const form = useTemplateRef<HTMLFormElement>('form')
const touched = ref(false)
watch(
  () => props.open,
  () => (touched.value = false),
)

function enter(): void {
  form.value?.querySelector<HTMLElement>('input, textarea, select')?.focus()
}

async function leave(close: () => void): Promise<void> {
  if (!touched.value || (await mayThrowAway())) close()
}
</script>

<template>
  <ElDialog
    :model-value="open"
    :title="title"
    width="min(560px, 94vw)"
    align-center
    :before-close="leave"
    @opened="enter"
    @close="$emit('close')"
  >
    <form ref="form" class="stack" @submit.prevent="open && $emit('submit')" @input="touched = true">
      <slot />
      <ProblemNote :problem="problem" />
      <div class="saves">
        <ElButton type="primary" native-type="submit" :aria-busy="busy">{{ action }}</ElButton>
      </div>
    </form>
  </ElDialog>
</template>
