<script setup lang="ts">
/**
 * Her own figure and the pattern on it, to point at: a tap is a place, a line drawn with the finger is a drag or a
 * fold with its direction.
 */
import { computed, ref } from 'vue'
import FigureBody from '@/components/FigureBody.vue'
import type { Drawn, BodyDrawing, PieceDrawing, PlaceOnFigure, PlaceOnPiece, Pt } from '@/api/types'

export interface Pointed {
  place: string
  towards?: string
  drawn: Drawn
}

const props = defineProps<{
  front: BodyDrawing
  back: BodyDrawing
  side: BodyDrawing
  places: readonly PlaceOnFigure[]
  pieces: readonly PieceDrawing[]
  piecePlaces: readonly PlaceOnPiece[]
  /** The place that is chosen. */
  chosen: string
  /** What it points at. */
  towards?: string
  /** What was drawn. */
  drawn?: Drawn
}>()
const emit = defineEmits<{ pointed: [Pointed] }>()

/** A stroke shorter than this is a tap, in millimetres of the drawing. */
const TAP = 22
interface Spot {
  name: string
  at: Pt
}
interface Board {
  key: string
  name: string
  box: string
  spots: Spot[]
  on: Partial<Drawn>
}

const figures = computed(() => ({ front: props.front, back: props.back, side: props.side }))
const boards = computed<Board[]>(() => {
  const views = [
    ['front', 'Front'],
    ['back', 'Back'],
    ['side', 'Side'],
  ] as const
  const ofFigure = views.map(([view, name]) => {
    const own = props.places.filter((place) => place.view === view)
    const mirrored = own
      .filter((place) => place.paired)
      .map((place) => ({ name: place.name, at: { x: -place.at.x, y: place.at.y } }))
    const { x, y, width } = figures.value[view].upper
    const lowest = Math.max(...own.map((place) => place.at.y))
    return {
      key: view,
      name,
      box: `${x} ${y} ${width} ${lowest + 70 - y}`,
      spots: [...own, ...mirrored],
      on: { view },
    }
  })
  const ofPieces = props.pieces.map((piece) => {
    const { x, y, width, height } = piece.bounds
    const spots = props.piecePlaces.filter((place) => place.piece === piece.kind)
    const air = 24
    const box = `${x - air} ${y - air} ${width + 2 * air} ${height + 2 * air}`
    return { key: piece.kind, name: piece.name, box, spots, on: { piece: piece.kind } }
  })
  return [...ofFigure, ...ofPieces]
})
const key = ref('front')
const board = computed(() => boards.value.find((each) => each.key === key.value) ?? boards.value[0])
const figure = computed(
  () => figures.value[key.value as 'front' | 'back' | 'side'] as BodyDrawing | undefined,
)
const piece = computed(() => props.pieces.find((each) => each.kind === key.value))
const size = computed(() => (figure.value ? 1 : 0.55))

const svg = ref<SVGSVGElement>()
const from = ref<Pt>()
const to = ref<Pt>()
const shown = computed(() => {
  if (from.value && to.value) return { from: from.value, to: to.value }
  const drawn = props.drawn
  return drawn && (drawn.view ?? drawn.piece) === key.value ? drawn : undefined
})

function at(event: PointerEvent): Pt | undefined {
  const matrix = svg.value?.getScreenCTM()?.inverse()
  if (!matrix) return undefined
  const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix)
  return { x, y }
}

const apart = (a: Pt, b: Pt) => Math.hypot(a.x - b.x, a.y - b.y)

function nearest(point: Pt): string {
  const spots = board.value?.spots ?? []
  const sorted = [...spots].sort((a, b) => apart(a.at, point) - apart(b.at, point))
  return sorted[0]?.name ?? ''
}

function down(event: PointerEvent): void {
  from.value = to.value = at(event)
  svg.value?.setPointerCapture(event.pointerId)
}

function move(event: PointerEvent): void {
  if (from.value) to.value = at(event)
}

function up(event: PointerEvent): void {
  const [start, end] = [from.value, at(event)]
  from.value = to.value = undefined
  if (!start || !end || !board.value) return
  const tapped = apart(start, end) < TAP * size.value
  const place = nearest(start)
  const aim = tapped ? undefined : nearest(end)
  const drawn = { ...board.value.on, from: start, to: tapped ? start : end }
  emit('pointed', { place, towards: aim === place ? undefined : aim, drawn })
}

/** Left and right of one place have different names: hers, so from the front her left is on the right. */
function nameOf(spot: Spot): string {
  const twins = board.value?.spots.filter((each) => each.name === spot.name) ?? []
  if (twins.length < 2 || !figure.value) return spot.name
  const onTheRight = spot.at.x > Math.min(...twins.map((each) => each.at.x))
  return `${spot.name}, her ${onTheRight === (board.value?.key !== 'back') ? 'left' : 'right'}`
}

function choose(spot: Spot): void {
  emit('pointed', { place: spot.name, drawn: { ...board.value?.on, from: spot.at, to: spot.at } })
}
</script>

<template>
  <div class="board">
    <div class="chips" role="group" aria-label="Point at">
      <button
        v-for="each in boards"
        :key="each.key"
        type="button"
        class="turn"
        :aria-pressed="each.key === key"
        @click="key = each.key"
      >
        {{ each.name }}
      </button>
    </div>
    <svg
      v-if="board"
      ref="svg"
      :viewBox="board.box"
      role="group"
      :aria-label="`Places, ${board.name.toLowerCase()}`"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="from = to = undefined"
    >
      <FigureBody v-if="figure" :figure="figure" />
      <g v-else-if="piece">
        <path :d="piece.outline" class="piece" />
        <path v-for="dart in piece.darts" :key="dart.place" :d="dart.legs" class="dart" />
      </g>
      <g
        v-for="(spot, index) in board.spots"
        :key="`${spot.name}-${index}`"
        role="button"
        tabindex="0"
        class="place"
        :class="{ chosen: chosen === spot.name, aim: towards === spot.name }"
        :aria-label="nameOf(spot)"
        :aria-pressed="chosen === spot.name"
        @keydown.enter.prevent="choose(spot)"
        @keydown.space.prevent="choose(spot)"
      >
        <title>{{ nameOf(spot) }}</title>
        <circle :cx="spot.at.x" :cy="spot.at.y" :r="24 * size" class="reach" />
        <circle :cx="spot.at.x" :cy="spot.at.y" :r="9 * size" class="mark" />
      </g>
      <g v-if="shown && apart(shown.from, shown.to) > 1" class="drawn">
        <line :x1="shown.from.x" :y1="shown.from.y" :x2="shown.to.x" :y2="shown.to.y" />
        <circle :cx="shown.to.x" :cy="shown.to.y" :r="7 * size" />
      </g>
    </svg>
    <p class="small soft">
      Tap the place. For a drag or a fold, draw it: from where it is to where it points.
    </p>
  </div>
</template>

<style scoped>
.board {
  display: grid;
  gap: 0.5rem;
}
svg {
  display: block;
  width: 100%;
  max-height: min(62vh, 560px);
  background: var(--raised);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  touch-action: none;
  cursor: crosshair;
}
.turn {
  font: inherit;
  color: inherit;
  background: var(--raised);
  border: 1px solid var(--ink-soft);
  border-radius: 999px;
  padding: 0.35rem 0.9rem;
  min-height: 2.4rem;
  cursor: pointer;
}
.turn[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
.piece {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.dart {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 1;
}
.reach {
  fill: transparent;
}
.mark {
  fill: var(--raised);
  stroke: var(--ink-soft);
  stroke-width: 3;
}
.chosen .mark {
  fill: var(--madder);
  stroke: var(--madder);
}
.aim .mark {
  stroke: var(--madder);
}
.place:focus-visible {
  outline: none;
}
.place:focus-visible .reach {
  stroke: var(--woad);
  stroke-width: 5;
}
.drawn {
  pointer-events: none;
}
/* A thumb must find a way past the figure to scroll. */
@media (max-width: 700px) {
  svg {
    max-height: 52vh;
  }
}
.drawn line {
  stroke: var(--madder);
  stroke-width: 6;
  stroke-linecap: round;
}
.drawn circle {
  fill: var(--madder);
}
</style>
