<script setup lang="ts">
/**
 * Pieces true to scale: before thin and dashed, now in ink, what moved tinted, hinges ringed. Zooms and pans by
 * wheel, pinch, buttons and keys; any two points can be measured; an amount is dragged at its handle. What else
 * belongs on a piece (faults, construction, the dots of a nest) is drawn into the slot `on`.
 */
import { computed, reactive, ref, useTemplateRef, watch } from 'vue'
import PieceLayers from './PieceLayers.vue'
import { LAYERS } from './layers'
import { GAP, inRows, rowsFor, sameIn } from './pieces'
import type { AlteredFor, DrawnPoint, Handle, MovedArea, PieceDrawing, Stage } from '@/api/types'
import { useDrawingView } from '@/composables/useDrawingView'
import type { Box } from '@/composables/useDrawingView'
import { useHouse } from '@/composables/useHouse'
import { usePointToPoint } from '@/composables/usePointToPoint'

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
  /** A point that a line is drawn through: it is dragged out and down. */
  point?: DrawnPoint | null
  /** The pieces are only hinted at: the slot draws what counts. @default false */
  ghost?: boolean
  /** Boxes, by piece, that must be seen too: what the slot draws beyond the piece. */
  room?: Readonly<Record<string, Box>>
  /** What the pieces are altered for, as their labels say. */
  alteredFor?: readonly AlteredFor[]
}>()
const emit = defineEmits<{
  /** The handle was moved by so many millimetres of amount since it was taken. */
  drag: [mm: number]
  /** It was let go. */
  dropped: []
  /** An arrow key: one step up or down. */
  nudge: [steps: number]
  /** The point was moved by so many millimetres out and down since it was taken. */
  place: [out: number, down: number]
  /** An arrow key on the point: so many steps out and down. */
  shift: [out: number, down: number]
  /** A seam of a piece was pointed at. */
  pick: [seam: string, name: string]
}>()
defineSlots<{
  /** Drawn over a piece, in its own coordinates. */
  on?: (given: { piece: PieceDrawing }) => unknown
}>()

const MARGIN = 26
const { house } = useHouse()
const svg = useTemplateRef<SVGSVGElement>('drawing')
const reading = ref('')
const layers = reactive({ darts: true, levels: true, points: true, before: true, folded: false })

interface Placed {
  piece: PieceDrawing
  before?: PieceDrawing
  dx: number
  dy: number
  box: Box
}

function around(boxes: readonly Box[]): Box {
  const left = Math.min(...boxes.map((b) => b.x))
  const top = Math.min(...boxes.map((b) => b.y))
  const right = Math.max(...boxes.map((b) => b.x + b.width))
  const bottom = Math.max(...boxes.map((b) => b.y + b.height))
  return { x: left, y: top, width: right - left, height: bottom - top }
}

/** The sheet as it lay when the handle was taken: a drawing that rescales would slip from the hand. */
const held = ref<Box>()

/** A stage is drawn on the pieces it was done on: those of before, where it or a later step divided them. */
const shown = computed(() => {
  const isHere = (kind: string) => props.pieces.some((piece) => piece.kind === kind)
  const divided = props.stage?.drawings.some((drawing) => !isHere(drawing.piece))
  return divided && props.before ? props.before : props.pieces
})

/** A waistband or a strip: so much longer than high that beside the others it would make them small. */
const isLong = ({ second_part: second, bounds }: PieceDrawing) => second && bounds.width > 4 * bounds.height

/** Each piece with room for what it was before. */
const given = computed(() =>
  shown.value
    .filter((piece) => !isLong(piece))
    .map((piece) => {
      const before = piece.second_part ? undefined : sameIn(props.before ?? [], piece.kind)
      const more = props.room?.[piece.kind]
      const box = around([piece.bounds, ...(before ? [before.bounds] : []), ...(more ? [more] : [])])
      return { piece, before, box }
    }),
)
/** While something is dragged the rows stay as they are. */
const heldRows = ref(1)
const rows = computed(() => (held.value ? heldRows.value : rowsFor(given.value)))
/** Pieces in rows; long ones under each other below that. */
const placed = computed<Placed[]>(() => {
  const { laid, foot: rowsEnd } = inRows(given.value, rows.value)
  let foot = rowsEnd
  const below = shown.value.filter(isLong).map((piece): Placed => {
    const box = piece.bounds
    const dy = foot - box.y
    foot += box.height + GAP
    return { piece, dx: -box.x, dy, box }
  })
  return [...laid, ...below]
})
const spread = computed<Box>(() => {
  if (!placed.value.length) return { x: -MARGIN, y: -MARGIN, width: 200, height: 200 }
  const all = around(placed.value.map(({ box, dx, dy }) => ({ ...box, x: box.x + dx, y: box.y + dy })))
  const x = Math.min(0, all.x) - MARGIN
  const y = Math.min(0, all.y) - MARGIN
  return {
    x,
    y,
    width: all.x + all.width + MARGIN - x,
    height: all.y + all.height + MARGIN + 16 - y,
  }
})
const whole = computed(() => held.value ?? spread.value)
const { zoom, view, inDrawing, scale, shift, down, move, up, wheel } = useDrawingView(whole, svg)

/** Every end of a seam, point of a dart and bust point: what the pointer catches on. */
const corners = computed(() =>
  placed.value.flatMap(({ piece, dx, dy }) => {
    const ends = piece.seams.flatMap(({ path }) => {
      const numbers = path.match(/-?[\d.]+/g)?.map(Number) ?? []
      return [numbers.slice(0, 2), numbers.slice(-2)].flatMap(([x, y]) =>
        x === undefined || y === undefined ? [] : [{ x, y }],
      )
    })
    const points = [...ends, ...piece.darts.flatMap(({ pivot, point }) => [pivot, point])]
    if (piece.bust_point) points.push(piece.bust_point)
    return points.map(({ x, y }) => ({ x: x + dx, y: y + dy }))
  }),
)
const tape = usePointToPoint(
  () => corners.value,
  () => zoom.value,
)

function toggleTape(): void {
  if (tape.on.value) {
    tape.stop()
    return
  }
  const { x, y, width, height } = view.value
  tape.start({ x: x + width / 2, y: y + height / 2 })
  svg.value?.focus()
}

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

const offset = (kind: string) =>
  placed.value.find(({ piece }) => piece === sameIn(shown.value, kind)) ?? { dx: 0, dy: 0 }
const stageOf = (kind: string) => props.stage?.drawings.find((drawing) => drawing.piece === kind)
const movedOf = (kind: string) => (props.moved ?? []).filter((area) => area.piece === kind)
/** Where something that can be taken hold of lies; a stage shows what was done and is not changed. */
const lies = (on: { piece: string; at: { x: number; y: number } } | null | undefined) => {
  if (!on || props.stage) return undefined
  const { dx, dy } = offset(on.piece)
  return { x: on.at.x + dx, y: on.at.y + dy }
}
const handleAt = computed(() => lies(props.handle))
const pointAt = computed(() => lies(props.point))

let taken: { x: number; y: number } | undefined

function take(event: PointerEvent): void {
  heldRows.value = rows.value
  held.value = { ...spread.value }
  taken = inDrawing(event)
  ;(event.target as Element).setPointerCapture(event.pointerId)
}

/** How far the pointer is from where it took hold. */
function pulled(event: PointerEvent): { x: number; y: number } | undefined {
  const now = inDrawing(event)
  return taken && now && { x: now.x - taken.x, y: now.y - taken.y }
}

function pull(event: PointerEvent): void {
  const by = pulled(event)
  if (!by || !props.handle) return
  const { along } = props.handle
  emit('drag', by.x * along.x + by.y * along.y)
}

function pullPoint(event: PointerEvent): void {
  const by = pulled(event)
  if (by) emit('place', by.x, by.y)
}

// What is held may be drawn away, as where an amount is refused: then it is let go.
watch([handleAt, pointAt], ([handle, point]) => {
  if (!handle && !point) drop()
})

function drop(): void {
  if (!taken) return
  taken = undefined
  held.value = undefined
  emit('dropped')
}

function clicked(event: MouseEvent): void {
  const at = inDrawing(event)
  if (tape.on.value && at) void tape.mark({ x: at.x, y: at.y })
}

function keyed(event: KeyboardEvent): void {
  const step = (house.value?.step ?? 1) * (event.shiftKey ? 8 : 1)
  const pans = { ArrowLeft: [-0.15, 0], ArrowRight: [0.15, 0], ArrowUp: [0, -0.15], ArrowDown: [0, 0.15] }
  const pan = pans[event.key as keyof typeof pans]
  if (tape.keyed(event.key, step)) event.preventDefault()
  else if (event.key === '+' || event.key === '=') scale(1.25)
  else if (event.key === '-') scale(0.8)
  else if (event.key === '0') scale(0)
  else if (event.key === 'm') toggleTape()
  else if (pan && zoom.value > 1) {
    event.preventDefault()
    shift(pan[0] ?? 0, pan[1] ?? 0)
  }
}

function nudged(event: KeyboardEvent): void {
  const steps = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 4, PageDown: -4 }[
    event.key
  ]
  if (steps === undefined) return
  event.preventDefault()
  event.stopPropagation()
  emit('nudge', steps)
}

/** What everything has in common that can be taken hold of. */
const gripped = {
  role: 'slider',
  tabindex: 0,
  'aria-valuenow': 0,
  onPointerdown: (event: PointerEvent) => {
    event.stopPropagation()
    take(event)
  },
  onPointerup: drop,
  onPointercancel: drop,
}

const SHIFTS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
function shifted(event: KeyboardEvent): void {
  const by = SHIFTS[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  emit('shift', ...by)
}
</script>

<template>
  <figure class="drawing">
    <svg
      ref="drawing"
      :viewBox="`${view.x} ${view.y} ${view.width} ${view.height}`"
      role="group"
      :aria-label="`Pattern drawing: ${pieces.map((piece) => piece.name).join(' and ')}. Plus and minus zoom, arrows move, m measures.`"
      tabindex="0"
      :class="{ measuring: tape.on.value }"
      @wheel="wheel"
      @keydown="keyed"
      @click="clicked"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="up"
      @pointerleave="up"
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
      <g
        v-for="{ piece, before: old, dx, dy } in placed"
        :key="piece.kind"
        :transform="`translate(${dx} ${dy})`"
      >
        <g :class="{ ghost }">
          <PieceLayers
            :piece="piece"
            :old="old"
            :moved="movedOf(piece.kind)"
            :stage="stageOf(piece.kind)"
            :layers="layers"
            :altered-for="alteredFor?.find((each) => each.piece === piece.kind)?.names"
            @read="reading = $event"
            @pick="(seam, name) => tape.on.value || emit('pick', seam, name)"
          />
        </g>
        <slot name="on" :piece="piece" />
      </g>
      <g class="ruler" aria-hidden="true">
        <line :x1="ruler.start" :x2="ruler.end" :y1="ruler.top" :y2="ruler.top" />
        <template v-for="tick in ruler.ticks" :key="tick.x">
          <line :x1="tick.x" :x2="tick.x" :y1="ruler.top" :y2="ruler.top + (tick.long ? 6 : 3)" />
          <text v-if="tick.word" :x="tick.x" :y="ruler.top + 13">{{ tick.word }}</text>
        </template>
      </g>
      <g v-if="tape.on.value" class="tape" aria-hidden="true">
        <line
          v-if="tape.line.value"
          :x1="tape.line.value.from.x"
          :y1="tape.line.value.from.y"
          :x2="tape.line.value.to.x"
          :y2="tape.line.value.to.y"
        />
        <circle v-if="tape.from.value" :cx="tape.from.value.x" :cy="tape.from.value.y" :r="4 / zoom" />
        <circle v-if="tape.line.value" :cx="tape.line.value.to.x" :cy="tape.line.value.to.y" :r="4 / zoom" />
        <path
          v-if="tape.cross.value"
          :d="`M${tape.cross.value.x - 9 / zoom} ${tape.cross.value.y}h${18 / zoom}M${tape.cross.value.x} ${tape.cross.value.y - 9 / zoom}v${18 / zoom}`"
        />
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
          v-bind="gripped"
          :cx="handleAt.x"
          :cy="handleAt.y"
          r="8"
          class="handle"
          :aria-label="handleName ?? 'Amount'"
          :aria-valuetext="handleText"
          @pointermove="pull"
          @keydown="nudged"
        />
      </g>
      <path
        v-if="pointAt"
        v-bind="gripped"
        :transform="`translate(${pointAt.x} ${pointAt.y})`"
        d="M0-10 10 0 0 10-10 0Z"
        class="handle point"
        aria-label="Point of the line: drag or use the arrow keys"
        :aria-valuetext="point?.says"
        @pointermove="pullPoint"
        @keydown="shifted"
      />
    </svg>
    <div class="foot">
      <figcaption class="small soft" aria-live="polite">
        {{ tape.says.value || reading || 'Point at a seam to read its length.' }}
      </figcaption>
      <div class="tools no-print">
        <details>
          <summary>Layers</summary>
          <div class="layers">
            <label v-for="layer in LAYERS" :key="layer.key">
              <input v-model="layers[layer.key]" type="checkbox" /> {{ layer.name }}
            </label>
          </div>
        </details>
        <button type="button" :aria-pressed="tape.on.value" @click="toggleTape">Measure</button>
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
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: flex-start;
  gap: 0.3rem 0.8rem;
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
.tools button[aria-pressed='true'] {
  background: var(--woad);
  color: var(--paper);
}
.tools details {
  position: relative;
}
.tools summary {
  font-size: 0.9rem;
  line-height: 2rem;
  padding: 0 0.5rem;
  background: var(--raised);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  cursor: pointer;
}
.layers {
  position: absolute;
  right: 0;
  bottom: 2.3rem;
  z-index: 2;
  display: grid;
  gap: 0.2rem;
  padding: 0.6rem 0.9rem;
  background: var(--raised);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  box-shadow: var(--shadow);
  white-space: nowrap;
}
.ghost {
  opacity: 0.16;
}
.measuring {
  cursor: crosshair;
}
.tape line,
.tape circle,
.tape path {
  fill: none;
  stroke: var(--madder);
  stroke-width: 1.2;
  vector-effect: non-scaling-stroke;
}
.arrow {
  fill: none;
  stroke: var(--ink);
  stroke-width: 0.9;
}
</style>
