<script setup lang="ts">
/** One step of draping: the piece as it will lie, what is smoothed or pinned now, the way of the hand, pins and slashes. */
import { computed } from 'vue'
import { crossAt } from './marks'
import type { GuidePicture, Pt, ViewBox } from '@/api/types'

const props = defineProps<{
  /** The piece as it will lie. */
  outline: string
  bounds: ViewBox
  picture: GuidePicture
  label: string
}>()
const box = computed(() => {
  const { x, y, width, height } = props.bounds
  return `${x} ${y} ${width} ${height}`
})
const stroke = (ends: readonly Pt[]) =>
  ends.map(({ x, y }, at) => `${at === 0 ? 'M' : 'L'}${x} ${y}`).join('')
</script>

<template>
  <svg :viewBox="box" role="img" :aria-label="label">
    <defs>
      <marker id="hand" viewBox="0 0 10 10" refX="8" refY="5" markerWidth="6" markerHeight="6" orient="auto">
        <path d="M1 1L9 5L1 9" class="tip" />
      </marker>
    </defs>
    <path class="outline" :d="outline" />
    <path v-for="line in picture.settled" :key="line" class="settled" :d="line" />
    <path v-for="line in picture.now" :key="line" class="now" :d="line" />
    <path v-for="(slash, at) in picture.slashes" :key="`slash ${at}`" class="slash" :d="stroke(slash)" />
    <path
      v-for="(way, at) in picture.smooth"
      :key="`hand ${at}`"
      class="hand"
      :d="stroke(way)"
      marker-end="url(#hand)"
    />
    <path v-for="(pin, at) in picture.pins" :key="`pin ${at}`" class="pin" :d="crossAt(pin.x, pin.y, 6)" />
    <text v-for="(name, at) in picture.names" :key="`name ${at}`" :x="name.at.x + 9" :y="name.at.y - 7">
      {{ name.name }}
    </text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-height: 48vh;
  background: var(--sunk);
  border: 1px solid var(--rule);
}
.outline {
  fill: var(--cloth);
  stroke: var(--rule);
  stroke-width: 1.2;
  vector-effect: non-scaling-stroke;
}
.settled,
.now,
.slash,
.hand,
.pin {
  fill: none;
  vector-effect: non-scaling-stroke;
}
.settled {
  stroke: var(--ink);
  stroke-width: 1.4;
}
.now {
  stroke: var(--madder);
  stroke-width: 3;
}
.slash {
  stroke: var(--ink);
  stroke-width: 1.4;
}
.hand {
  stroke: var(--woad);
  stroke-width: 2;
}
.tip {
  fill: none;
  stroke: var(--woad);
  stroke-width: 1.6;
}
.pin {
  stroke: var(--madder);
  stroke-width: 1.8;
}
text {
  font: 13px var(--sans);
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--cloth);
  stroke-width: 3px;
}
</style>
