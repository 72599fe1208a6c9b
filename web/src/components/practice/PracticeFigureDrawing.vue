<script setup lang="ts">
/** A figure from every side that something is seen on, with the folds, drags and level lines drawn, each with its letter. */
import { computed } from 'vue'
import type { PracticeFigure } from '@/api/types'
import FigureBody from '@/components/FigureBody.vue'

const props = defineProps<{ figure: PracticeFigure }>()
const NAMES = { front: 'Front', back: 'Back', side: 'Side' } as const

/** Below the hips only where something is seen there. */
const isWhole = computed(() =>
  props.figure.marks.some((mark) => {
    const upper = props.figure.views.find((view) => view.view === mark.view)?.upper
    return upper !== undefined && mark.at.y + 40 > upper.y + upper.height
  }),
)
const shown = computed(() =>
  props.figure.views
    .filter(({ view }) => view !== 'side' || props.figure.marks.some((mark) => mark.view === 'side'))
    .map((view) => ({
      view,
      box: isWhole.value ? view.bounds : view.upper,
      marks: props.figure.marks.filter((mark) => mark.view === view.view),
      level: props.figure.levels.find((level) => level.view === view.view),
    })),
)
const letter = (of: number) => String.fromCharCode(65 + of)
</script>

<template>
  <div class="views">
    <figure v-for="{ view, box, marks, level } in shown" :key="view.view">
      <svg
        :viewBox="`${box.x} ${box.y} ${box.width} ${box.height}`"
        role="img"
        :aria-label="`${NAMES[view.view]}: ${marks.length} marked`"
      >
        <FigureBody :figure="view" />
        <template v-if="level">
          <path :d="level.level" class="hangs" />
          <path :d="level.path" class="level" />
        </template>
        <g v-for="(mark, index) in marks" :key="index">
          <path v-for="(path, at) in mark.body" :key="`b${at}`" :d="path" class="own" />
          <path v-for="(path, at) in mark.cloth" :key="`c${at}`" :d="path" class="cloth" />
          <circle :cx="mark.at.x" :cy="mark.at.y" r="19" class="disc" />
          <text :x="mark.at.x" :y="mark.at.y + 10" text-anchor="middle">{{ letter(mark.of) }}</text>
        </g>
      </svg>
      <figcaption class="small soft">{{ NAMES[view.view] }}</figcaption>
    </figure>
  </div>
</template>

<style scoped>
.views {
  display: flex;
  gap: 0.8rem;
  justify-content: center;
}
figure {
  flex: 1 1 0;
  min-width: 0;
  margin: 0;
  text-align: center;
}
svg {
  display: block;
  width: 100%;
  max-height: 27rem;
}
.cloth {
  fill: none;
  stroke: var(--madder);
  stroke-width: 4;
  stroke-linecap: round;
}
.own,
.hangs {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 2.5;
  stroke-dasharray: 8 7;
}
.level {
  fill: none;
  stroke: var(--woad);
  stroke-width: 4;
}
.disc {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2;
}
text {
  font-size: 28px;
  font-weight: 700;
  fill: var(--ink);
}
</style>
