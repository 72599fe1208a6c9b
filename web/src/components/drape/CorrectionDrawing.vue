<script setup lang="ts">
/** One correction, large: the line as it is drawn, where it was marked, and where it went. */
import { computed } from 'vue'
import { crossAt } from './marks'
import type { DrapeCorrection, DrapeDot, PieceDrawing } from '@/api/types'

const props = defineProps<{
  correction: DrapeCorrection
  piece: PieceDrawing
  /** What was clicked of the piece. */
  dots: readonly DrapeDot[]
}>()

/** What is shown across at least, in millimetres. */
const ACROSS = 46
const own = computed(() => props.dots.filter((dot) => props.correction.marks.includes(dot.mark)))
/** Round what moved; where nothing has a place of its own, round the marks it is about. */
const box = computed(() => {
  const { at, was } = props.correction
  const moved = [at, was].flatMap((place) => (place ? [place] : []))
  const places = moved.length ? moved : own.value.map((dot) => dot.at)
  if (!places.length) {
    const { x, y, width, height } = props.piece.bounds
    return { x, y, width, height }
  }
  const [xs, ys] = [places.map(({ x }) => x), places.map(({ y }) => y)]
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  const across = Math.max(ACROSS, right - left + 24, bottom - top + 24)
  return { x: (left + right - across) / 2, y: (top + bottom - across) / 2, width: across, height: across }
})
const cross = ({ x, y }: { x: number; y: number }) => crossAt(x, y, box.value.width / 18)
</script>

<template>
  <svg
    :viewBox="`${box.x} ${box.y} ${box.width} ${box.height}`"
    role="img"
    :aria-label="`${correction.what}: ${correction.before} before, ${correction.after} after`"
  >
    <path class="net" :d="piece.outline" />
    <path v-for="dart in piece.darts" :key="dart.legs" class="net thin" :d="dart.legs" />
    <path v-for="(dot, at) in own" :key="at" class="clicked" :d="cross(dot.at)" />
    <template v-if="correction.at && correction.was">
      <path class="clicked" :d="cross(correction.was)" />
      <path
        class="moved"
        :d="`M${correction.was.x} ${correction.was.y}L${correction.at.x} ${correction.at.y}`"
      />
      <circle class="now" :cx="correction.at.x" :cy="correction.at.y" :r="box.width / 40" />
    </template>
  </svg>
</template>

<style scoped>
svg {
  width: 9rem;
  height: 9rem;
  background: var(--sunk);
  border: 1px solid var(--rule);
}
path,
circle {
  fill: none;
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
.net {
  stroke: var(--ink);
}
.thin {
  stroke-width: 1;
}
.clicked {
  stroke: var(--madder);
}
.moved {
  stroke: var(--madder);
  stroke-dasharray: 3 2;
}
.now {
  stroke: var(--ink);
  fill: var(--ink);
}
</style>
