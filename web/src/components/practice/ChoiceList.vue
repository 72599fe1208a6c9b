<script setup lang="ts">
/** Answers to choose from, each by its number key, a press or a thumb. What was chosen stays marked once it is judged. */
import { useEventListener } from '@vueuse/core'
import { isTyping } from '@/keys'

const props = defineProps<{
  /** What can be answered. */
  choices: readonly string[]
  /** What was chosen. */
  chosen: readonly number[]
  /** Nothing more can be chosen. */
  done: boolean
}>()
const emit = defineEmits<{ choose: [at: number] }>()

useEventListener(document, 'keydown', (event) => {
  if (props.done || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return
  const at = Number(event.key) - 1
  if (!Number.isInteger(at) || at < 0 || at >= props.choices.length) return
  event.preventDefault()
  emit('choose', at)
})
</script>

<template>
  <ol>
    <li v-for="(choice, at) in choices" :key="choice">
      <button
        type="button"
        :disabled="done"
        :aria-pressed="chosen.includes(at)"
        :class="{ chosen: chosen.includes(at) }"
        @click="emit('choose', at)"
      >
        <kbd>{{ at + 1 }}</kbd><span>{{ choice }}</span>
      </button>
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.45rem;
}
button {
  display: grid;
  grid-template-columns: 1.6rem 1fr;
  gap: 0.6rem;
  align-items: baseline;
  width: 100%;
  min-height: 2.75rem;
  padding: 0.5rem 0.8rem;
  font: inherit;
  color: var(--ink);
  text-align: left;
  background: var(--raised);
  border: 1px solid var(--rule);
  border-radius: 3px;
  cursor: pointer;
}
button:disabled {
  cursor: default;
  color: var(--ink-soft);
}
button.chosen {
  border-color: var(--ink);
  border-left-width: 5px;
  color: var(--ink);
}
button:hover:not(:disabled) {
  border-color: var(--ink);
}
kbd {
  font: inherit;
  font-size: 0.85rem;
  color: var(--ink-soft);
}
</style>
