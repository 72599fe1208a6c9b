<script setup lang="ts">
/**
 * A photograph, large, with the lines and arrows drawn on it. Drawn with a finger, a pen or the mouse: from where it is
 * pressed to where it is let go. The picture itself stays as it was taken.
 */
import { ElButton } from 'element-plus'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { put } from '@/api/client'
import type { PhotographView, PhotographStroke } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'

const props = defineProps<{
  photograph: PhotographView
  /** It can be drawn on. @default false */
  drawable?: boolean
}>()
const emit = defineEmits<{ drawn: [] }>()

const strokes = ref<PhotographStroke[]>([])
watch(
  () => props.photograph.strokes,
  (now) => (strokes.value = [...now]),
  { immediate: true },
)
const tool = ref<'arrow' | 'line'>()
const drawing = ref<PhotographStroke>()
const changed = computed(() => JSON.stringify(strokes.value) !== JSON.stringify(props.photograph.strokes))
const shown = computed(() => (drawing.value ? [...strokes.value, drawing.value] : strokes.value))

const svg = useTemplateRef<SVGSVGElement>('svg')
/** Where on the picture, in parts of its width and height. */
function at(event: PointerEvent): PhotographStroke['from'] {
  const box = svg.value?.getBoundingClientRect()
  if (!box?.width || !box.height) return { x: 0, y: 0 }
  const part = (here: number, from: number, size: number) =>
    Math.round(Math.min(1, Math.max(0, (here - from) / size)) * 10000) / 10000
  return { x: part(event.clientX, box.left, box.width), y: part(event.clientY, box.top, box.height) }
}
function begin(event: PointerEvent): void {
  if (!tool.value) return
  event.preventDefault()
  svg.value?.setPointerCapture(event.pointerId)
  const from = at(event)
  drawing.value = { from, to: from, arrow: tool.value === 'arrow' }
}
function draw(event: PointerEvent): void {
  if (drawing.value) drawing.value = { ...drawing.value, to: at(event) }
}
/** A tap is no line. */
const LEAST = 0.02
function end(): void {
  const now = drawing.value
  drawing.value = undefined
  if (!now) return
  if (Math.hypot(now.to.x - now.from.x, now.to.y - now.from.y) >= LEAST) strokes.value.push(now)
}

const {
  run: keep,
  busy,
  problem,
} = useAction(
  () =>
    put('/api/photographs/{id}/strokes', {
      params: { path: { id: props.photograph.id } },
      body: { strokes: strokes.value },
    }),
  () => {
    tool.value = undefined
    emit('drawn')
  },
)

/** The line in the picture's own measure. */
const line = ({ from, to }: PhotographStroke) => ({
  x1: from.x * props.photograph.width,
  y1: from.y * props.photograph.height,
  x2: to.x * props.photograph.width,
  y2: to.y * props.photograph.height,
})
const thick = computed(() => Math.max(props.photograph.width, props.photograph.height) / 160)
/** The point of an arrow: two short lines back from its end. */
function point(stroke: PhotographStroke): string {
  const { x1, y1, x2, y2 } = line(stroke)
  const turn = Math.atan2(y2 - y1, x2 - x1)
  const long = thick.value * 6
  const corner = (by: number) => `${x2 - long * Math.cos(turn + by)},${y2 - long * Math.sin(turn + by)}`
  return `${corner(0.45)} ${x2},${y2} ${corner(-0.45)}`
}
const says = computed(() => {
  const arrows = props.photograph.strokes.filter((each) => each.arrow).length
  const lines = props.photograph.strokes.length - arrows
  const count = (many: number, name: string) => (many ? [`${many} ${name}${many === 1 ? '' : 's'}`] : [])
  return ['The photograph, large', ...count(arrows, 'arrow'), ...count(lines, 'line')].join(', ')
})
</script>

<template>
  <figure>
    <div class="picture" :class="{ drawing: tool }">
      <img
        :src="`/api/photographs/${photograph.id}`"
        :width="photograph.width"
        :height="photograph.height"
        :alt="says"
      />
      <svg
        ref="svg"
        aria-hidden="true"
        :viewBox="`0 0 ${photograph.width} ${photograph.height}`"
        preserveAspectRatio="none"
        @pointerdown="begin"
        @pointermove="draw"
        @pointerup="end"
        @pointercancel="drawing = undefined"
      >
        <g v-for="(stroke, index) in shown" :key="index">
          <line v-bind="line(stroke)" class="under" :stroke-width="thick * 2" />
          <polyline v-if="stroke.arrow" :points="point(stroke)" class="under" :stroke-width="thick * 2" />
          <line v-bind="line(stroke)" :stroke-width="thick" />
          <polyline v-if="stroke.arrow" :points="point(stroke)" :stroke-width="thick" />
        </g>
      </svg>
    </div>
    <ProblemNote :problem="problem" />
    <figcaption class="row">
      <slot />
      <template v-if="drawable">
        <div class="row" role="group" aria-label="Draw on it">
          <ElButton
            size="small"
            :aria-pressed="tool === 'arrow'"
            @click="tool = tool === 'arrow' ? undefined : 'arrow'"
            >Arrow</ElButton
          >
          <ElButton
            size="small"
            :aria-pressed="tool === 'line'"
            @click="tool = tool === 'line' ? undefined : 'line'"
            >Line</ElButton
          >
          <ElButton v-if="strokes.length" size="small" @click="strokes.pop()">Take the last off</ElButton>
        </div>
        <ElButton v-if="changed" size="small" type="primary" :aria-busy="busy" @click="keep"
          >Keep what is drawn</ElButton
        >
      </template>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  display: grid;
  gap: 0.5rem;
  justify-items: start;
}
.picture {
  position: relative;
  display: inline-block;
  max-width: 100%;
}
.picture img {
  display: block;
  max-width: 100%;
  width: auto;
  height: auto;
  max-height: 70vh;
}
.picture svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.drawing svg {
  pointer-events: auto;
  cursor: crosshair;
  touch-action: none;
}
line,
polyline {
  stroke: #c8202a;
  fill: none;
  stroke-linecap: round;
  stroke-linejoin: round;
}
/* A light edge, so that it is seen on dark cloth too. */
.under {
  stroke: rgb(255 253 248 / 75%);
}
</style>
