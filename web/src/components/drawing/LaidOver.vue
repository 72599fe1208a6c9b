<script setup lang="ts">
/** Two states laid on each other, at the neck side or at centre and waist. */
import { computed } from 'vue'
import PatternDrawing from './PatternDrawing.vue'
import { sameIn } from './pieces'
import type { PieceDrawing } from '@/api/types'

const props = defineProps<{
  block: readonly PieceDrawing[]
  own: readonly PieceDrawing[]
  anchor: 'neck' | 'waist'
  /** What is drawn in ink. @default 'block' */
  ink?: string
  /** What is drawn in blue. @default 'her own draft, with the same ease' */
  blue?: string
}>()

/** How far hers is moved down on this piece so that both lie at the anchor. */
function down(piece: PieceDrawing): number {
  const hers = sameIn(props.own, piece.kind)
  if (props.anchor === 'neck' || !hers?.centre_waist || !piece.centre_waist) return 0
  return piece.centre_waist.y - hers.centre_waist.y
}
const room = computed(() =>
  Object.fromEntries(
    props.block.flatMap((piece) => {
      const hers = sameIn(props.own, piece.kind)
      return hers ? [[piece.kind, { ...hers.bounds, y: hers.bounds.y + down(piece) }]] : []
    }),
  ),
)
</script>

<template>
  <div>
    <PatternDrawing :pieces="block" :room="room">
      <template #on="{ piece }">
        <g
          v-for="hers in [sameIn(own, piece.kind)].filter((each) => each !== undefined)"
          :key="hers.kind"
          :transform="`translate(0 ${down(piece)})`"
        >
          <path :d="hers.outline" class="own" />
          <path v-for="(dart, index) in hers.darts" :key="index" :d="dart.legs" class="own dart" />
        </g>
      </template>
    </PatternDrawing>
    <p class="small">
      <span class="key ink" aria-hidden="true" /> {{ ink ?? 'block' }}
      <span class="key blue" aria-hidden="true" /> {{ blue ?? 'her own draft, with the same ease' }}
    </p>
  </div>
</template>

<style scoped>
.own {
  fill: none;
  stroke: var(--woad);
  stroke-width: 1.6;
  pointer-events: none;
}
.dart {
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
