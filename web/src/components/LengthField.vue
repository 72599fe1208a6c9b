<script setup lang="ts">
/**
 * A length typed as the tape says it; read by the core, never here. Arrow keys add a step. While its text is not read
 * yet the field is pending: whatever saves waits for it (`fieldsRead`).
 */
import { nextTick, onScopeDispose, ref, useId, useTemplateRef, watch } from 'vue'
import { fieldText, readLength } from '@/api/lengths'
import type { Problem } from '@/api/types'
import { useHouse } from '@/composables/useHouse'
import { usePendingField } from '@/composables/usePendingFields'

const props = defineProps<{
  label: string
  /** Millimetres. */
  modelValue: number | null
  /** May be left empty. @default false */
  optional?: boolean
  /** The least it may be, in millimetres. @default no limit */
  least?: number
  /** The most it may be, in millimetres. @default no limit */
  most?: number
  /** It is a figure of the house's own: shown so that it reads back as the very same. @default false */
  exactly?: boolean
  /** A length is told as soon as one is typed, before the field is left: for a drawing that follows. @default false */
  live?: boolean
  /** The label is only heard: what it is of stands beside it. @default false */
  unseen?: boolean
  /** What stands in the field while it is empty. @default nothing */
  hint?: string
  /** How many such parts go round the body: 2 halves, 4 seam edges. They add up as they are written. @default 1 */
  parts?: number
}>()
const emit = defineEmits<{ 'update:modelValue': [mm: number | null] }>()

const id = useId()
const { house, unit } = useHouse()
const input = useTemplateRef<HTMLInputElement>('input')
const text = ref('')
const problem = ref<Problem>()
/** The text that stands for the value: what differs from it is not read yet. */
let settled = ''
/** What the text that was typed last was read as, in millimetres. */
let typed: number | undefined
const { hold, release } = usePendingField({ read, focus: () => input.value?.focus() })

watch(
  () => props.modelValue,
  async (mm) => {
    // What is being typed is not written over.
    const before = text.value
    if (before !== settled) return
    // What was typed stays as it was typed.
    if (mm !== null && mm === typed) return
    const written = mm === null ? '' : await fieldText(mm, props.exactly, props.parts ?? 1)
    if (written === undefined || props.modelValue !== mm || text.value !== before) return
    settled = text.value = written
    problem.value = undefined
    // A field that was focused before its figure came: what is typed next takes the figure's place.
    await nextTick()
    if (before === '' && document.activeElement === input.value) input.value?.select()
  },
  { immediate: true },
)

/** How long a hand pauses before what stands in a live field is looked at, in milliseconds. */
const PAUSE = 250
let pause: number | undefined
/** Tells a length that is typed already; half a length is no fault yet. */
async function glimpse(): Promise<void> {
  const asked = text.value
  if (asked === settled || asked.trim() === '') return
  const shown = await readLength(asked, props.least, props.most)
  if (shown.ok && text.value === asked) emit('update:modelValue', shown.value.mm)
}
function changed(): void {
  hold()
  if (!props.live) return
  clearTimeout(pause)
  pause = window.setTimeout(() => void glimpse(), PAUSE)
}
onScopeDispose(() => clearTimeout(pause))

let reading: Promise<boolean> | undefined
/** Reads until what stands in the field is read: typing goes on while an answer is under way. */
function read(): Promise<boolean> {
  reading ??= readOn().finally(() => (reading = undefined))
  return reading
}

async function readOn(): Promise<boolean> {
  while (text.value !== settled) {
    const asked = text.value
    if (asked.trim() === '' && props.optional) {
      settled = asked
      emit('update:modelValue', null)
      break
    }
    const shown = await readLength(asked, props.least, props.most)
    if (text.value !== asked) continue
    problem.value = shown.ok ? undefined : shown.problem
    if (!shown.ok) return false
    settled = asked
    typed = shown.value.mm
    emit('update:modelValue', shown.value.mm)
  }
  problem.value = undefined
  release()
  return true
}

function step(by: number): void {
  const size = house.value?.step ?? 1
  settled = text.value
  release()
  emit('update:modelValue', Math.round(((props.modelValue ?? 0) + by * size) / size) * size)
}
/** In sight, and what is typed next takes the figure's place. */
function focus(): void {
  input.value?.focus()
  input.value?.select()
}
defineExpose({ focus })
</script>

<template>
  <div class="field">
    <label :for="id" :class="{ 'visually-hidden': unseen }">{{ label }}</label>
    <span class="length">
      <input
        :id="id"
        ref="input"
        v-model="text"
        class="plain figure"
        type="text"
        autocomplete="off"
        :placeholder="hint"
        :aria-invalid="problem !== undefined"
        :aria-describedby="problem ? `${id}-problem` : undefined"
        @input="changed"
        @change="read"
        @keydown.up.prevent="step(1)"
        @keydown.down.prevent="step(-1)"
      />
      <span class="soft">{{ unit }}</span>
      <!-- What belongs to the figure itself: how sure it is. -->
      <slot />
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
