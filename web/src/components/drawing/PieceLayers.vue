<script setup lang="ts">
/** One piece in its own coordinates: net line and seams always, the other layers as they are wanted. */
import { computed } from 'vue'
import type { Layers } from './layers'
import type { MovedArea, PieceDrawing, StageDrawing } from '@/api/types'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{
  piece: PieceDrawing
  /** Drawn thin and dashed below. */
  old?: PieceDrawing
  moved: readonly MovedArea[]
  /** A stage of an alteration, drawn instead of the finished piece. */
  stage?: StageDrawing
  layers: Layers
  /** What the piece is altered for, as its label says. */
  alteredFor?: readonly string[]
}>()
const emit = defineEmits<{
  read: [says: string]
  /** A seam was pointed at: its code and the trade's words. */
  pick: [seam: string, name: string]
}>()
const { unit } = useHouse()
/** A label is narrow: one name a line, the first led by what they are. */
const labelLines = computed(() =>
  (props.alteredFor ?? []).map((name, index) => (index === 0 ? `altered for ${name}` : name)),
)
/** Letters of the name and of the lines under it are about so wide, in millimetres. */
const NAME_LETTER = 7.2
const LETTER = 5.4
/** It is written smaller where the piece is narrow, and no smaller than can be read. */
const labelSize = computed(() => {
  const { name, cut, label_room: room } = props.piece
  const lines = [cut, ...labelLines.value].map((line) => line.length * LETTER)
  return Math.min(1, Math.max(0.5, room / Math.max(name.length * NAME_LETTER, ...lines)))
})
</script>

<template>
  <template v-if="stage">
    <path v-if="stage?.outline" :d="stage?.outline" class="piece" />
    <path v-for="(path, index) in stage?.still" :key="`s${index}`" :d="path" class="still" />
    <path v-for="(path, index) in stage?.moving" :key="`m${index}`" :d="path" class="moving" />
    <path v-for="(path, index) in stage?.lines" :key="`l${index}`" :d="path" class="ruled" />
    <circle
      v-for="(hinge, index) in stage?.hinges"
      :key="`h${index}`"
      :cx="hinge.x"
      :cy="hinge.y"
      r="5"
      class="hinge"
    />
    <text
      v-for="(each, index) in stage?.names"
      :key="`n${index}`"
      :x="each.at.x + 4"
      :y="each.at.y - 4"
      class="named"
    >
      {{ each.name }}
    </text>
  </template>
  <template v-else>
    <path :d="piece.outline" class="piece" />
    <path v-if="old && layers.before" :d="old.outline" class="before" />
    <path v-for="(area, index) in moved" :key="`a${index}`" :d="area.path" class="moved" />
    <path v-for="level in layers.levels ? piece.levels : []" :key="level.name" :d="level.path" class="level">
      <title>{{ level.name }}</title>
    </path>
    <path :d="piece.grain" class="grain" marker-start="url(#grain-end)" marker-end="url(#grain-end)">
      <title>grain</title>
    </path>
    <g
      v-for="(dart, index) in layers.darts ? piece.darts : []"
      :key="`d${index}`"
      class="dart"
      @click="emit('pick', 'dart_leg', dart.name)"
    >
      <path :d="dart.legs" />
      <path :d="dart.fold" class="fold" />
      <path v-if="layers.folded && dart.folded" :d="dart.folded" class="folded" />
      <title>{{ dart.name }}, {{ dart.intake.text }} {{ unit }} at the seam</title>
    </g>
    <path
      v-for="(notch, index) in layers.points ? piece.notches : []"
      :key="`n${index}`"
      :d="notch"
      class="notch"
    />
    <circle
      v-if="piece.bust_point && layers.points"
      :cx="piece.bust_point.x"
      :cy="piece.bust_point.y"
      r="3.5"
      class="bust"
    >
      <title>bust point</title>
    </circle>
    <path
      v-for="(seam, index) in piece.seams"
      :key="`e${index}`"
      :d="seam.path"
      class="seam"
      :class="{ onfold: seam.fold }"
      role="img"
      :aria-label="`${piece.name}, ${seam.name}${seam.fold ? ' on the fold' : ''}: ${seam.length.text} ${unit}`"
      @click="emit('pick', seam.seam, seam.name)"
      @pointerenter="
        emit(
          'read',
          `${piece.name}, ${seam.name}${seam.fold ? ' on the fold' : ''}: ${seam.length.text} ${unit}`,
        )
      "
    />
    <g :transform="`translate(${piece.label_at.x} ${piece.label_at.y}) scale(${labelSize})`">
      <text class="label">{{ piece.name }}</text>
      <text y="14" class="cut">{{ piece.cut }}</text>
      <text v-for="(line, index) in labelLines" :key="line" :y="26 + index * 11" class="cut">{{ line }}</text>
    </g>
  </template>
</template>

<style scoped>
.piece {
  fill: var(--sunk);
  fill-opacity: 0.65;
  stroke: var(--ink);
  stroke-width: 1.2;
}
.before {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 0.9;
  stroke-dasharray: 5 3;
  opacity: 0.8;
}
.moved,
.moving {
  fill: var(--woad-tint);
  stroke: var(--woad);
  stroke-width: 0.5;
}
.moving {
  stroke-width: 1.1;
}
.still {
  fill: var(--sunk);
  stroke: var(--ink);
  stroke-width: 1.1;
}
.ruled {
  fill: none;
  stroke: var(--madder);
  stroke-width: 1.2;
  stroke-dasharray: 7 3;
}
.hinge {
  fill: var(--raised);
  stroke: var(--madder);
  stroke-width: 2;
}
.level {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 0.6;
  stroke-dasharray: 2 3;
}
.grain {
  stroke: var(--ink);
  stroke-width: 0.9;
  fill: none;
}
.arrow {
  fill: none;
  stroke: var(--ink);
  stroke-width: 0.9;
}
.dart path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 0.9;
}
.dart .fold {
  stroke-width: 0.5;
  stroke-dasharray: 3 3;
}
.notch {
  stroke: var(--ink);
  stroke-width: 1.4;
}
.bust {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1;
}
.seam {
  fill: none;
  stroke: transparent;
  stroke-width: 9;
  cursor: help;
}
.seam.onfold {
  stroke: var(--ink);
  stroke-width: 2.4;
  stroke-dasharray: 1 5;
}
.seam:hover {
  stroke: var(--woad);
  stroke-width: 3;
  stroke-dasharray: none;
}
.label {
  font: 600 14px var(--serif);
  fill: var(--ink);
}
.cut {
  font: 10.5px var(--sans);
  fill: var(--ink-soft);
}
path.folded {
  fill: none;
  stroke: var(--woad);
  stroke-width: 1.4;
  stroke-dasharray: 5 3;
}
.named {
  fill: var(--ink);
  /* Readable where it lies on a line. */
  paint-order: stroke;
  stroke: var(--sunk);
  stroke-width: 3;
  stroke-linejoin: round;
}
</style>
