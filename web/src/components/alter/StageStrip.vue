<script setup lang="ts">
/** The stages of the step in hand, one by one or played. */
import { computed, onScopeDispose, ref, watch } from 'vue'
import type { Stage } from '@/api/types'
import StripField from '@/components/StripField.vue'

const props = defineProps<{ stages: readonly Stage[] }>()
/** Which stage is shown; none for the finished pattern. */
const stage = defineModel<number>()

const NAMES = { mark: 'Mark', cut: 'Cut', move: 'Move', fill: 'Fill', true: 'True' } as const
/** No stage: the pattern as it is when all of them are done. */
const FINISHED = -1
const choices = computed(() => [
  { value: FINISHED, name: 'Finished' },
  ...props.stages.map((each, index) => ({ value: index, name: `${index + 1} ${NAMES[each.kind]}` })),
])
/** How long a stage stands while it is played, in milliseconds: time to read its words once. */
const STANDS = 2600
const playing = ref(false)
let clock: ReturnType<typeof setTimeout> | undefined

function stop(): void {
  playing.value = false
  clearTimeout(clock)
}

/** Shows a stage and the next after it; after the last the finished pattern. */
function playFrom(index: number): void {
  if (index >= props.stages.length) {
    show(undefined)
    return
  }
  stage.value = index
  clock = setTimeout(() => playFrom(index + 1), STANDS)
}

function play(): void {
  if (playing.value) {
    stop()
    return
  }
  playing.value = true
  playFrom(0)
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
  <StripField
    v-if="stages.length"
    :model-value="stage ?? FINISHED"
    label="Stages"
    :choices="choices"
    plays="Play"
    :playing="playing"
    @play="play"
    @update:model-value="show($event === FINISHED ? undefined : $event)"
  />
  <p v-if="words" class="words" aria-live="polite">{{ words }}</p>
</template>

<style scoped>
.words {
  max-width: 62ch;
}
</style>
