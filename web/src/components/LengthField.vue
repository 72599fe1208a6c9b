<script setup lang="ts">
/** A length typed as the tape says it; read by the core, never here. Arrow keys add a step. */
import { ref, useId, watch } from 'vue'
import { readLength, writtenLength } from '@/api/lengths'
import type { Problem } from '@/api/types'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{
  label: string
  /** Millimetres. */
  modelValue: number | null
  /** May be left empty. @default false */
  optional?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [mm: number | null] }>()

const id = useId()
const { house, unit } = useHouse()
const text = ref('')
const problem = ref<Problem>()

watch(
  () => props.modelValue,
  async (mm) => {
    if (mm === null) {
      text.value = ''
      return
    }
    const written = await writtenLength(mm)
    if (written !== undefined && props.modelValue === mm) text.value = written
  },
  { immediate: true },
)

async function read(): Promise<void> {
  problem.value = undefined
  if (text.value.trim() === '' && props.optional) {
    emit('update:modelValue', null)
    return
  }
  const shown = await readLength(text.value)
  if (shown.ok) emit('update:modelValue', shown.value.mm)
  else problem.value = shown.problem
}

function step(by: number): void {
  const size = house.value?.step ?? 1
  emit('update:modelValue', Math.round(((props.modelValue ?? 0) + by * size) / size) * size)
}
</script>

<template>
  <div class="field">
    <label :for="id">{{ label }}</label>
    <span class="length">
      <input
        :id="id"
        v-model="text"
        class="plain figure"
        type="text"
        autocomplete="off"
        :aria-invalid="problem !== undefined"
        :aria-describedby="problem ? `${id}-problem` : undefined"
        @change="read"
        @keydown.up.prevent="step(1)"
        @keydown.down.prevent="step(-1)"
      />
      <span class="soft">{{ unit }}</span>
    </span>
    <span v-if="problem" :id="`${id}-problem`" role="alert" class="decide small">{{ problem.detail }}</span>
  </div>
</template>

<style scoped>
.length {
  display: flex;
  gap: 0.4rem;
  align-items: baseline;
}
input {
  max-width: 7rem;
  font-size: 1.15rem;
}
</style>
