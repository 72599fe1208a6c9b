<script setup lang="ts" generic="Value">
/** A few choices side by side, all seen at once, large enough for a thumb: which part, which line, what is shown. */
defineProps<{
  /** What is chosen. */
  modelValue: Value
  label: string
  choices: readonly { value: Value; name: string }[]
}>()
/** Said of every press, also of what is chosen already: what is played is stopped by it. */
defineEmits<{ 'update:modelValue': [value: Value] }>()
defineSlots<{
  /** Before the choices. */
  first?: () => unknown
  /** Behind a choice's name. */
  behind?: (of: { choice: { value: Value; name: string } }) => unknown
}>()
</script>

<template>
  <div class="strip" role="group" :aria-label="label">
    <slot name="first" />
    <button
      v-for="(choice, index) in choices"
      :key="index"
      type="button"
      :aria-pressed="modelValue === choice.value"
      @click="$emit('update:modelValue', choice.value)"
    >
      {{ choice.name }}<slot name="behind" :choice="choice" />
    </button>
  </div>
</template>
