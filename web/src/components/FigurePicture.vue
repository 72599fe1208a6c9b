<script setup lang="ts">
/** The figure with a tape on it; drawn by the core from the client's own readings. */
import { computed } from 'vue'
import FigureBody from './FigureBody.vue'
import type { BodyDrawing, Tapeline } from '@/api/types'

const props = defineProps<{
  figure: BodyDrawing
  tape?: Tapeline | null
  label: string
  /** Crown to floor, even where the tape would fit above. @default false */
  whole?: boolean
}>()
const box = computed(() => {
  const whole = props.whole || props.tape?.frame === 'whole'
  const { x, y, width, height } = whole ? props.figure.bounds : props.figure.upper
  return `${x} ${y} ${width} ${height}`
})
</script>

<template>
  <svg :viewBox="box" role="img" :aria-label="label" class="figure-picture">
    <FigureBody :figure="figure" />
    <template v-if="tape">
      <path :d="tape.path" class="tape-edge" />
      <path :d="tape.path" class="tape" />
      <circle
        v-for="(point, index) in tape.points"
        :key="`p${index}`"
        :cx="point.x"
        :cy="point.y"
        r="9"
        class="point"
      >
        <title>{{ tape.names[index] ?? tape.names[0] }}</title>
      </circle>
    </template>
  </svg>
</template>

<style scoped>
.figure-picture {
  display: block;
  width: 100%;
  max-height: 100%;
}
.tape {
  fill: none;
  stroke: var(--madder);
  stroke-width: 8;
  stroke-linecap: round;
}
.tape-edge {
  fill: none;
  stroke: var(--raised);
  stroke-width: 13;
  stroke-linecap: round;
}
.point {
  fill: var(--raised);
  stroke: var(--madder);
  stroke-width: 5;
}
</style>
