<script setup lang="ts">
/**
 * Pieces true to scale: before thin and dashed, now in ink, what moved tinted, hinges ringed. Zooms by
 * wheel, buttons and keys; a length is read by pointing at a seam; an amount is dragged at its handle.
 */
import { computed, ref, useTemplateRef } from 'vue'
import type { Handle, MovedArea, PieceDrawing, Stage } from '@/api/types'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{
  pieces: readonly PieceDrawing[]
  /** Drawn thin and dashed below. */
  before?: readonly PieceDrawing[]
  moved?: readonly MovedArea[]
  handle?: Handle | null
  /** A stage of an alteration, drawn instead of the finished pieces. */
  stage?: Stage
  /** What the handle changes, for the ear. */
  handleName?: string
  handleText?: string
}>()
const emit = defineEmits<{
  /** The handle was moved by so many millimetres of amount since it was taken. */
  drag: [mm: number]
  /** It was let go. */
  dropped: []
  /** An arrow key: one step up or down. */
  nudge: [steps: number]
}>()

const GAP = 34
const MARGIN = 26
const { house, unit } = useHouse()
const svg = useTemplateRef<SVGSVGElement>('drawing')
const zoom = ref(1)
const centre = ref<{ x: number; y: number }>()
const reading = ref('')

interface Placed {
  piece: PieceDrawing
  before?: PieceDrawing
  dx: number
}

/** Pieces in a row, each with room for what it was before. */
const placed = computed<Placed[]>(() => {
  let right = 0
  return props.pieces.map((piece) => {
    const before = props.before?.find((old) => old.kind === piece.kind)
    const width = Math.max(
      piece.bounds.x + piece.bounds.width,
      before ? before.bounds.x + before.bounds.width : 0,
    )
    const dx = right
    right += width + GAP
    return { piece, before, dx }
  })
})
const spread = computed(() => {
  const tops = placed.value.flatMap(({ piece, before }) => [piece.bounds, ...(before ? [before.bounds] : [])])
  const last = placed.value.at(-1)
  const width = last
    ? last.dx +
      Math.max(
        last.piece.bounds.x + last.piece.bounds.width,
        last.before ? last.before.bounds.x + last.before.bounds.width : 0,
      )
    : 100
  const top = Math.min(0, ...tops.map((b) => b.y))
  const bottom = Math.max(100, ...tops.map((b) => b.y + b.height))
  return { x: -MARGIN, y: top - MARGIN, width: width + 2 * MARGIN, height: bottom - top + 2 * MARGIN + 16 }
})
/** The sheet as it lay when the handle was taken: a drawing that rescales would slip from the hand. */
const held = ref<{ x: number; y: number; width: number; height: number }>()
const whole = computed(() => held.value ?? spread.value)
const view = computed(() => {
  const { x, y, width, height } = whole.value
  const at = centre.value ?? { x: x + width / 2, y: y + height / 2 }
  const [w, h] = [width / zoom.value, height / zoom.value]
  return { x: at.x - w / 2, y: at.y - h / 2, width: w, height: h }
})

/** A ruler below the pieces, marked in the house's unit. */
const ruler = computed(() => {
  const step = house.value?.unit === 'inch' ? 25.4 : 10
  const each = house.value?.unit === 'inch' ? 2 : 5
  const { x, y, width, height } = whole.value
  const top = y + height - 14
  const count = Math.floor((width - 2 * MARGIN) / step)
  const ticks = Array.from({ length: count + 1 }, (_, index) => ({
    x: x + MARGIN + index * step,
    long: index % each === 0,
    word: index % each === 0 ? String(index) : '',
  }))
  return { top, ticks, end: x + MARGIN + count * step, start: x + MARGIN }
})

const offset = (kind: string) => placed.value.find(({ piece }) => piece.kind === kind)?.dx ?? 0
const stageOf = (kind: string) => props.stage?.drawings.find((drawing) => drawing.piece === kind)
const handleAt = computed(() => {
  const { handle } = props
  return handle && !props.stage ? { x: handle.at.x + offset(handle.piece), y: handle.at.y } : undefined
})

function inDrawing(event: PointerEvent | WheelEvent): DOMPoint | undefined {
  const matrix = svg.value?.getScreenCTM()
  return matrix ? new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse()) : undefined
}

let taken: { x: number; y: number } | undefined
let panned: { x: number; y: number } | undefined

function take(event: PointerEvent): void {
  held.value = { ...spread.value }
  taken = inDrawing(event)
  ;(event.target as Element).setPointerCapture(event.pointerId)
}

function pull(event: PointerEvent): void {
  const now = inDrawing(event)
  if (!taken || !now || !props.handle) return
  const { along } = props.handle
  emit('drag', (now.x - taken.x) * along.x + (now.y - taken.y) * along.y)
}

function drop(): void {
  if (!taken) return
  taken = undefined
  held.value = undefined
  emit('dropped')
}

function scale(by: number, about?: { x: number; y: number }): void {
  const before = view.value
  const next = Math.min(8, Math.max(1, zoom.value * by))
  const { x, y, width, height } = whole.value
  if (next === 1) {
    centre.value = undefined
  } else {
    const at = about ?? { x: before.x + before.width / 2, y: before.y + before.height / 2 }
    const share = { x: (at.x - before.x) / before.width, y: (at.y - before.y) / before.height }
    centre.value = {
      x: at.x + (0.5 - share.x) * (width / next),
      y: at.y + (0.5 - share.y) * (height / next),
    }
    centre.value.x = Math.min(x + width, Math.max(x, centre.value.x))
    centre.value.y = Math.min(y + height, Math.max(y, centre.value.y))
  }
  zoom.value = next
}

function wheel(event: WheelEvent): void {
  if (!event.ctrlKey && zoom.value === 1 && event.deltaY > 0) return
  event.preventDefault()
  scale(event.deltaY < 0 ? 1.2 : 1 / 1.2, inDrawing(event))
}

function pan(event: PointerEvent): void {
  if (event.type === 'pointerdown') {
    panned = zoom.value > 1 ? inDrawing(event) : undefined
    return
  }
  const now = inDrawing(event)
  if (!panned || !now || taken) return
  const { x, y, width, height } = view.value
  centre.value = { x: x + width / 2 + panned.x - now.x, y: y + height / 2 + panned.y - now.y }
}

function keyed(event: KeyboardEvent): void {
  if (event.key === '+' || event.key === '=') scale(1.25)
  else if (event.key === '-') scale(0.8)
  else if (event.key === '0') scale(0)
}

function nudged(event: KeyboardEvent): void {
  const steps = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 4, PageDown: -4 }[
    event.key
  ]
  if (steps === undefined) return
  event.preventDefault()
  emit('nudge', steps)
}
</script>

<template>
  <figure class="drawing">
    <svg
      ref="drawing"
      :viewBox="`${view.x} ${view.y} ${view.width} ${view.height}`"
      role="group"
      :aria-label="`Pattern drawing: ${pieces.map((piece) => piece.name).join(' and ')}`"
      tabindex="0"
      @wheel="wheel"
      @keydown="keyed"
      @pointerdown="pan"
      @pointermove="pan"
      @pointerup="panned = undefined"
    >
      <defs>
        <marker
          id="grain-end"
          viewBox="0 0 8 8"
          refX="7"
          refY="4"
          markerWidth="9"
          markerHeight="9"
          orient="auto-start-reverse"
        >
          <path d="M1 1 7 4 1 7" class="arrow" />
        </marker>
      </defs>
      <g v-for="{ piece, before: old, dx } in placed" :key="piece.kind" :transform="`translate(${dx} 0)`">
        <template v-if="stageOf(piece.kind)">
          <path v-if="stageOf(piece.kind)?.outline" :d="stageOf(piece.kind)?.outline" class="piece" />
          <path
            v-for="(path, index) in stageOf(piece.kind)?.still"
            :key="`s${index}`"
            :d="path"
            class="still"
          />
          <path
            v-for="(path, index) in stageOf(piece.kind)?.moving"
            :key="`m${index}`"
            :d="path"
            class="moving"
          />
          <path
            v-for="(path, index) in stageOf(piece.kind)?.lines"
            :key="`l${index}`"
            :d="path"
            class="ruled"
          />
          <circle
            v-for="(hinge, index) in stageOf(piece.kind)?.hinges"
            :key="`h${index}`"
            :cx="hinge.x"
            :cy="hinge.y"
            r="5"
            class="hinge"
          />
        </template>
        <template v-else>
          <path :d="piece.outline" class="piece" />
          <path v-if="old" :d="old.outline" class="before" />
          <path
            v-for="(area, index) in (moved ?? []).filter((area) => area.piece === piece.kind)"
            :key="`a${index}`"
            :d="area.path"
            class="moved"
          />
          <path v-for="level in piece.levels" :key="level.name" :d="level.path" class="level">
            <title>{{ level.name }}</title>
          </path>
          <path :d="piece.grain" class="grain" marker-start="url(#grain-end)" marker-end="url(#grain-end)">
            <title>grain</title>
          </path>
          <g v-for="dart in piece.darts" :key="dart.place" class="dart">
            <path :d="dart.legs" />
            <path :d="dart.fold" class="fold" />
            <title>{{ dart.name }}, {{ dart.intake.text }} {{ unit }} at the seam</title>
          </g>
          <path v-for="(notch, index) in piece.notches" :key="`n${index}`" :d="notch" class="notch" />
          <circle
            v-if="piece.bust_point"
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
            @pointerenter="
              reading = `${piece.name}, ${seam.name}${seam.fold ? ' on the fold' : ''}: ${seam.length.text} ${unit}`
            "
          />
          <text
            :x="piece.bounds.x + piece.bounds.width * 0.24"
            :y="piece.bounds.y + piece.bounds.height * 0.5"
            class="label"
          >
            {{ piece.name }}
          </text>
          <text
            :x="piece.bounds.x + piece.bounds.width * 0.24"
            :y="piece.bounds.y + piece.bounds.height * 0.5 + 14"
            class="cut"
          >
            {{ piece.cut }}
          </text>
        </template>
      </g>
      <g class="ruler" aria-hidden="true">
        <line :x1="ruler.start" :x2="ruler.end" :y1="ruler.top" :y2="ruler.top" />
        <template v-for="tick in ruler.ticks" :key="tick.x">
          <line :x1="tick.x" :x2="tick.x" :y1="ruler.top" :y2="ruler.top + (tick.long ? 6 : 3)" />
          <text v-if="tick.word" :x="tick.x" :y="ruler.top + 13">{{ tick.word }}</text>
        </template>
      </g>
      <g v-if="handleAt">
        <line
          v-if="handle"
          :x1="handleAt.x - handle.along.x * 26"
          :y1="handleAt.y - handle.along.y * 26"
          :x2="handleAt.x + handle.along.x * 26"
          :y2="handleAt.y + handle.along.y * 26"
          class="way"
        />
        <circle
          :cx="handleAt.x"
          :cy="handleAt.y"
          r="8"
          class="handle"
          role="slider"
          tabindex="0"
          :aria-label="handleName ?? 'Amount'"
          aria-valuenow="0"
          :aria-valuetext="handleText"
          @pointerdown.stop="take"
          @pointermove="pull"
          @pointerup="drop"
          @pointercancel="drop"
          @keydown="nudged"
        />
      </g>
    </svg>
    <div class="foot">
      <figcaption class="small soft" aria-live="polite">
        {{ reading || 'Point at a seam to read its length.' }}
      </figcaption>
      <div class="tools no-print">
        <button type="button" aria-label="Zoom in" @click="scale(1.25)">+</button>
        <button type="button" aria-label="Zoom out" @click="scale(0.8)">−</button>
        <button type="button" @click="scale(0)">Whole</button>
      </div>
    </div>
  </figure>
</template>

<style scoped>
.drawing {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  max-height: 66vh;
  touch-action: pan-y;
  background:
    linear-gradient(var(--rule) 1px, transparent 1px) 0 0 / 100% 24px,
    var(--cloth);
  background-blend-mode: soft-light;
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
.foot {
  display: flex;
  justify-content: space-between;
  gap: 0.8rem;
  padding-top: 0.35rem;
}
.tools {
  display: flex;
  gap: 0.25rem;
  flex: none;
}
.tools button {
  font: inherit;
  font-size: 0.9rem;
  min-width: 2rem;
  min-height: 2rem;
  color: var(--ink);
  background: var(--raised);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  cursor: pointer;
}
figcaption {
  min-height: 1.8rem;
}
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
.ruler line {
  stroke: var(--ink-soft);
  stroke-width: 0.7;
}
.ruler text {
  font: 8px var(--sans);
  fill: var(--ink-soft);
  text-anchor: middle;
}
.way {
  stroke: var(--woad);
  stroke-width: 2;
}
.handle {
  fill: var(--woad);
  stroke: var(--raised);
  stroke-width: 2.5;
  cursor: grab;
  touch-action: none;
}
</style>
