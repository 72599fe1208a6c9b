<script setup lang="ts">
/** Block and the client's own draft laid on each other at the neck side and the centre line. */
import { computed } from 'vue'
import type { PieceDrawing } from '@/api/types'

const props = defineProps<{ block: readonly PieceDrawing[]; own: readonly PieceDrawing[] }>()
const MARGIN = 14
const GAP = 30

const placed = computed(() => {
  let right = 0
  return props.block.map((piece) => {
    const own = props.own.find((each) => each.kind === piece.kind)
    const dx = right
    right += Math.max(piece.bounds.width, own?.bounds.width ?? 0) + GAP
    return { piece, own, dx, right }
  })
})
const box = computed(() => {
  const width = (placed.value.at(-1)?.right ?? 100) - GAP
  const all = [...props.block, ...props.own].map((piece) => piece.bounds)
  const top = Math.min(...all.map((b) => b.y))
  const bottom = Math.max(...all.map((b) => b.y + b.height))
  return `${-MARGIN} ${top - MARGIN} ${width + 2 * MARGIN} ${bottom - top + 2 * MARGIN}`
})
</script>

<template>
  <figure>
    <svg
      :viewBox="box"
      role="img"
      aria-label="The block in ink and her own draft in blue, laid on each other"
    >
      <g v-for="{ piece, own: hers, dx } in placed" :key="piece.kind" :transform="`translate(${dx} 0)`">
        <path :d="piece.outline" class="block" />
        <path v-if="hers" :d="hers.outline" class="own" />
        <path v-for="dart in hers?.darts" :key="dart.place" :d="dart.legs" class="own dart" />
      </g>
    </svg>
    <figcaption class="small">
      <span class="key ink" aria-hidden="true" /> block <span class="key blue" aria-hidden="true" /> her own
      draft, with the same ease; both at the neck side
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  max-height: 60vh;
  background: var(--cloth);
  border: 1px solid var(--rule);
}
.block {
  fill: var(--sunk);
  fill-opacity: 0.7;
  stroke: var(--ink);
  stroke-width: 1.4;
}
.own {
  fill: var(--woad-tint);
  stroke: var(--woad);
  stroke-width: 1.4;
}
.dart {
  fill: none;
  stroke-width: 0.8;
}
.key {
  display: inline-block;
  width: 1.4em;
  border-top: 3px solid var(--ink);
  vertical-align: middle;
  margin: 0 0.3em 0 0.6em;
}
.blue {
  border-color: var(--woad);
}
</style>
