<script setup lang="ts">
/** A file, chosen or dropped here. It is read where it is; nothing goes anywhere by itself. */
import { ElUpload } from 'element-plus'
import type { UploadFile } from 'element-plus'
import { useTemplateRef } from 'vue'

defineProps<{
  id: string
  label: string
  /** Endings and media types that are offered. */
  accept: string
}>()
const emit = defineEmits<{ file: [file: File] }>()

const root = useTemplateRef<HTMLElement>('root')

function changed({ raw }: UploadFile): void {
  // Emptied, so that the same file can be brought again after it was mended.
  const input = root.value?.querySelector('input')
  if (input) input.value = ''
  if (raw) emit('file', raw)
}
</script>

<template>
  <div :id="id" ref="root" class="field" role="group" :aria-labelledby="`${id}-label`">
    <span :id="`${id}-label`" class="legend">{{ label }}</span>
    <ElUpload drag :auto-upload="false" :show-file-list="false" :accept="accept" :on-change="changed">
      Drop it here, or press to choose it
    </ElUpload>
  </div>
</template>

<style scoped>
.field {
  max-width: 32rem;
}
.field :deep(.el-upload-dragger) {
  padding: 1rem;
  color: var(--ink);
  background: var(--raised);
}
</style>
