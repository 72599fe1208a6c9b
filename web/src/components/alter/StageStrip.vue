<script setup lang="ts">
/** The stages of the step in hand, one by one or played. */
import { computed, onScopeDispose, ref, watch } from 'vue'
import type { Stage } from '@/api/types'

const props = defineProps<{ stages: readonly Stage[] }>()
/** Which stage is shown; none for the finished pattern. */
const stage = defineModel<number>()

const NAMES = { mark: 'Mark', cut: 'Cut', move: 'Move', fill: 'Fill', true: 'True' } as const
/** How long a stage stands while it is played, in milliseconds: time to read its words once. */
const STANDS = 2600
const playing = ref(false)
let clock: ReturnType<typeof setTimeout> | undefined

function stop(): void {
  playing.value = false
  clearTimeout(clock)
}

function next(): void {
  const now = stage.value ?? -1
  if (now + 1 >= props.stages.length) {
    stage.value = undefined
    stop()
    return
  }
  stage.value = now + 1
  clock = setTimeout(next, STANDS)
}

function play(): void {
  if (playing.value) {
    stop()
    return
  }
  playing.value = true
  stage.value = undefined
  next()
}

function show(index: number | undefined): void {
  stop()
  stage.value = index
}

watch(
  () => props.stages.length,
  () => {
    if (stage.value !== undefined && stage.value >= props.stages.length) show(undefined)
  },
)
onScopeDispose(stop)
const words = computed(() => (stage.value === undefined ? undefined : props.stages[stage.value]?.words))
</script>

<template>
  <div v-if="stages.length" class="strip" role="group" aria-label="Stages">
    <button type="button" :aria-pressed="playing" @click="play">{{ playing ? 'Stop' : 'Play' }}</button>
    <button type="button" :aria-pressed="stage === undefined" @click="show(undefined)">Finished</button>
    <button
      v-for="(each, index) in stages"
      :key="index"
      type="button"
      :aria-pressed="stage === index"
      @click="show(index)"
    >
      {{ index + 1 }} {{ NAMES[each.kind] }}
    </button>
  </div>
  <p v-if="words" class="words" aria-live="polite">{{ words }}</p>
</template>

<style scoped>
.words {
  max-width: 62ch;
}
</style>
