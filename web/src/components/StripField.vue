<script setup lang="ts" generic="Value">
/** A few choices side by side, all seen at once, large enough for a thumb: which part, which line, what is shown. */
defineProps<{
  /** What is chosen. */
  modelValue: Value
  label: string
  choices: readonly { value: Value; name: string }[]
  /** What the button before them is called that plays one after the other. @default nothing is played */
  plays?: string
  /** It is being played. */
  playing?: boolean
}>()
defineEmits<{
  /** Said of every press, also of what is chosen already: what is played is stopped by it. */
  'update:modelValue': [value: Value]
  /** Play, or stop playing. */
  play: []
}>()
defineSlots<{
  /** Behind a choice's name. */
  behind?: (of: { choice: { value: Value; name: string } }) => unknown
}>()
</script>

<template>
  <div class="strip" role="group" :aria-label="label">
    <button v-if="plays" type="button" :aria-pressed="playing" @click="$emit('play')">
      {{ playing ? 'Stop' : plays }}
    </button>
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
