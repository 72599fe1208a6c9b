<script setup lang="ts">
/**
 * A picture, or an outline, in which places are marked: a press places what is asked for, a mark that stands is dragged or moved by
 * the arrow keys, and a magnifier shows where. A finger that lies on the picture moves the place until it is lifted.
 */
import { useElementSize } from '@vueuse/core'
import { ElButton } from 'element-plus'
import { computed, ref, useTemplateRef } from 'vue'
import { crossAt, isCross, nameOf, same } from './marks'
import type { Place, Standing, Step } from './marks'
import { useDrawingView } from '@/composables/useDrawingView'
import type { Box } from '@/composables/useDrawingView'

const props = defineProps<{
  /** All there is to see. */
  whole: Box
  /** Every point that stands. */
  points: readonly Standing[]
  /** What a press places; nothing where all is there. */
  asked?: Step | undefined
  /** The point the keys move. */
  chosen?: Standing | undefined
  /** What an arrow key moves it by. */
  step: number
  /** How much the magnifier shows, across. */
  lens: number
  /** What the picture is of, for the ear. */
  name: string
  /** Marks that are asked about. */
  doubted?: readonly string[]
}>()
const emit = defineEmits<{
  /** What is asked for was placed. */
  place: [at: Place]
  /** A point that stands was moved. */
  move: [point: Standing, at: Place]
  /** A point that stands was chosen; none where the choice was given up. */
  choose: [point: Standing | undefined]
  /** The chosen point is to go. */
  remove: [point: Standing]
  /** The run is at its end: on to the next mark. */
  next: []
}>()
defineSlots<{
  /** What is marked: drawn once on the stage, and once under the magnifier. */
  ground: () => unknown
}>()

/** A press so near to a point takes hold of it, in pixels of the screen: where points are moved, and where a mouse draws one along. */
const NEAR = { moving: 16, placing: 6 }
/** A mouse that moved further has drawn the picture along, in pixels of the screen. */
const DRAWN = 5
/** Shift moves by so many steps. */
const FAR = 10

const svg = useTemplateRef<SVGSVGElement>('stage')
const { width: seenWidth, height: seenHeight } = useElementSize(svg)
const whole = computed(() => props.whole)
const { zoom, view, inDrawing, scale, shift, down, move, up, wheel } = useDrawingView(whole, svg)
/** Units of the picture that one pixel of the screen shows. */
const perPixel = computed(() =>
  Math.max(
    view.value.width / Math.max(1, seenWidth.value),
    view.value.height / Math.max(1, seenHeight.value),
  ),
)

/** Where the pointer is. */
const pointer = ref<Place>()
/** What is held: a point that stands, or one that is about to be placed. */
const held = ref<{ point?: Standing; at: Place; from: { x: number; y: number } }>()
const fingers = new Set<number>()
let isDrawing = false

const within = (at: { x: number; y: number }): Place => {
  const { x, y, width, height } = props.whole
  return [Math.min(x + width, Math.max(x, at.x)), Math.min(y + height, Math.max(y, at.y))]
}
const placeOf = (event: PointerEvent): Place | undefined => {
  const at = inDrawing(event)
  return at && within(at)
}
const apart = ([x, y]: Place, [u, v]: Place) => Math.hypot(x - u, y - v)

/** Points are moved, and none is placed: dots lie near each other, so that a press means the one or the other. */
const isMoving = ref(false)
const places = computed(() => props.asked !== undefined && !isMoving.value)

function nearest(at: Place, within: number): Standing | undefined {
  const reach = within * perPixel.value
  const near = props.points.filter((point) => apart(point.at, at) <= reach)
  return near.sort((one, other) => apart(one.at, at) - apart(other.at, at))[0]
}

function pressed(event: PointerEvent): void {
  fingers.add(event.pointerId)
  const at = placeOf(event)
  pointer.value = at
  if (fingers.size > 1 || event.button > 0) {
    // Two fingers draw the picture along, and nothing is placed.
    held.value = undefined
    down(event)
    return
  }
  down(event)
  if (!at) return
  const from = { x: event.clientX, y: event.clientY }
  const reach = places.value ? (event.pointerType === 'mouse' ? NEAR.placing : 0) : NEAR.moving
  held.value = { point: reach ? nearest(at, reach) : undefined, at, from }
  isDrawing = false
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}

function moved(event: PointerEvent): void {
  const at = placeOf(event)
  pointer.value = at
  if (fingers.size > 1) {
    move(event)
    return
  }
  if (!held.value || !at) return
  const by = Math.hypot(event.clientX - held.value.from.x, event.clientY - held.value.from.y)
  // A mouse draws the picture along where it did not take hold of a point; a finger looks for its place.
  if (event.pointerType === 'mouse' && !held.value.point && (isDrawing || by > DRAWN)) {
    isDrawing = true
    move(event)
    return
  }
  if (event.pointerType !== 'mouse' || isDrawing || by > 1) held.value = { ...held.value, at }
}

function lifted(event: PointerEvent): void {
  fingers.delete(event.pointerId)
  up(event)
  const was = held.value
  held.value = undefined
  if (!was || isDrawing || fingers.size > 0) return
  const by = Math.hypot(event.clientX - was.from.x, event.clientY - was.from.y)
  if (was.point && (!places.value || by > DRAWN)) {
    emit('choose', was.point)
    if (by > 1) emit('move', was.point, was.at)
  } else if (places.value) emit('place', was.at)
}

function left(event: PointerEvent): void {
  if (event.pointerType === 'mouse' && !held.value) pointer.value = undefined
}

function gone(event: PointerEvent): void {
  fingers.delete(event.pointerId)
  held.value = undefined
  up(event)
}

const ARROWS: Record<string, Place> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
function keyed(event: KeyboardEvent): void {
  const by = ARROWS[event.key]
  const chosen = props.chosen
  if (by) {
    event.preventDefault()
    const step = props.step * (event.shiftKey ? FAR : 1)
    if (chosen) {
      const [x, y] = chosen.at
      pointer.value = undefined
      emit('move', chosen, within({ x: x + by[0] * step, y: y + by[1] * step }))
    } else shift(by[0] * 0.15, by[1] * 0.15)
  } else if (event.key === '+' || event.key === '=') scale(1.5, middle())
  else if (event.key === '-') scale(1 / 1.5, middle())
  else if (event.key === '0') scale(0)
  else if (event.key === 'Enter') {
    event.preventDefault()
    emit('next')
  } else if (event.key === ' ' && props.asked) {
    // Without a pointer it is placed in the middle of what is seen, and moved from there.
    event.preventDefault()
    const { x, y, width, height } = view.value
    emit('place', within({ x: x + width / 2, y: y + height / 2 }))
  } else if ((event.key === 'Delete' || event.key === 'Backspace') && chosen) {
    event.preventDefault()
    emit('remove', chosen)
  } else if (event.key === 'Escape') emit('choose', undefined)
}

/** What the picture grows about: the chosen point, or its middle. */
const middle = () => {
  const at = props.chosen?.at
  return at && { x: at[0], y: at[1] }
}

/** What the magnifier looks at: what is held, the pointer, or the chosen point. */
const looked = computed(() => held.value?.at ?? pointer.value ?? props.chosen?.at)
const lensBox = computed(() => {
  const at = looked.value
  if (!at) return undefined
  const half = props.lens / 2
  return { x: at[0] - half, y: at[1] - half }
})
/** It lies in the corner the hand is not in. */
const isRight = computed(() => {
  const { x, width } = view.value
  return (looked.value?.[0] ?? 0) < x + width / 2
})
/** The magnifier is about so wide, in pixels of the screen. */
const LENS = 200

const shown = computed(() =>
  props.points.map((point) => {
    const isHeld =
      held.value?.point && same(held.value.point.step, point.step) && held.value.point.index === point.index
    return { ...point, at: isHeld && held.value ? held.value.at : point.at }
  }),
)
const isChosen = (point: Standing) =>
  props.chosen !== undefined && same(props.chosen.step, point.step) && props.chosen.index === point.index
const isAsked = (point: Standing) => same(props.asked, point.step)
const isDoubted = (point: Standing) =>
  point.step.kind === 'mark' && (props.doubted ?? []).includes(point.step.wanted.mark)
</script>

<template>
  <div class="frame">
    <svg
      ref="stage"
      class="stage"
      :class="{ fine: places }"
      :viewBox="`${view.x} ${view.y} ${view.width} ${view.height}`"
      tabindex="0"
      role="application"
      :aria-label="`${name}. ${asked ? `A press places: ${nameOf(asked)}.` : 'Everything is there.'} Space places it in the middle of what is seen, arrows move the chosen point, Enter goes on, plus and minus enlarge.`"
      @pointerdown="pressed"
      @pointermove="moved"
      @pointerup="lifted"
      @pointercancel="gone"
      @pointerleave="left"
      @contextmenu.prevent
      @wheel="wheel"
      @keydown="keyed"
    >
      <slot name="ground" />
      <g
        v-for="(point, at) in shown"
        :key="at"
        class="point"
        :class="{ chosen: isChosen(point), asked: isAsked(point), doubted: isDoubted(point) }"
      >
        <path v-if="isCross(point.step)" :d="crossAt(...point.at, 9 * perPixel)" />
        <circle v-else :cx="point.at[0]" :cy="point.at[1]" :r="3.5 * perPixel" />
        <circle v-if="isChosen(point)" class="ring" :cx="point.at[0]" :cy="point.at[1]" :r="13 * perPixel" />
      </g>
      <path v-if="held && !held.point" class="point asked" :d="crossAt(...held.at, 9 * perPixel)" />
    </svg>
    <svg
      v-if="lensBox"
      class="lens"
      :class="{ right: isRight }"
      :viewBox="`${lensBox.x} ${lensBox.y} ${lens} ${lens}`"
      aria-hidden="true"
    >
      <slot name="ground" />
      <g
        v-for="(point, at) in shown"
        :key="at"
        class="point"
        :class="{ chosen: isChosen(point), doubted: isDoubted(point) }"
      >
        <path v-if="isCross(point.step)" :d="crossAt(...point.at, (9 * lens) / LENS)" />
        <circle v-else :cx="point.at[0]" :cy="point.at[1]" :r="(3 * lens) / LENS" />
      </g>
      <path
        class="hair"
        :d="`M${lensBox.x} ${lensBox.y + lens / 2}h${lens * 0.46}m${lens * 0.08} 0h${lens * 0.46}M${lensBox.x + lens / 2} ${lensBox.y}v${lens * 0.46}m0 ${lens * 0.08}v${lens * 0.46}`"
      />
    </svg>
    <div class="zoom">
      <ElButton size="small" aria-label="Larger" @click="scale(1.5, middle())">+</ElButton>
      <ElButton size="small" aria-label="Smaller" :disabled="zoom === 1" @click="scale(1 / 1.5, middle())"
        >−</ElButton
      >
      <ElButton size="small" :disabled="zoom === 1" @click="scale(0)">Whole</ElButton>
      <ElButton v-if="asked" size="small" :aria-pressed="isMoving" @click="isMoving = !isMoving">{{
        isMoving ? 'Go on placing' : 'Move points'
      }}</ElButton>
    </div>
  </div>
</template>

<style scoped>
.frame {
  position: relative;
  min-width: 0;
}
.stage {
  display: block;
  width: 100%;
  max-height: min(64vh, 900px);
  background: var(--sunk);
  border: 1px solid var(--rule);
  touch-action: none;
  user-select: none;
  cursor: grab;
}
.stage.fine {
  cursor: crosshair;
}
.point {
  fill: none;
  stroke: var(--woad);
  stroke-width: 2;
}
.point * {
  fill: none;
  stroke: inherit;
  stroke-width: inherit;
  vector-effect: non-scaling-stroke;
}
path.point {
  vector-effect: non-scaling-stroke;
}
/* Dark on light cloth and light on a dark table: every point has an edge of the other. */
.point path,
.point circle,
path.point {
  filter: drop-shadow(0 0 1px #fff) drop-shadow(0 0 1px #fff);
}
.point.asked {
  stroke: var(--madder);
}
.point.doubted {
  stroke: var(--madder);
  stroke-width: 3;
}
.point.chosen {
  stroke: var(--madder);
  stroke-width: 2.5;
}
.ring {
  stroke-dasharray: 4 3;
}
.lens {
  position: absolute;
  top: 8px;
  left: 8px;
  width: clamp(130px, 24%, 220px);
  aspect-ratio: 1;
  background: var(--sunk);
  border: 2px solid var(--ink);
  border-radius: 50%;
  pointer-events: none;
}
.lens.right {
  left: auto;
  right: 8px;
}
.hair {
  fill: none;
  stroke: var(--madder);
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.zoom {
  display: flex;
  gap: 0.35rem;
  padding-top: 0.4rem;
}
</style>
