<script setup lang="ts">
/** Amounts and open observations by round: what is pinned should grow less. Drawn as it stands, with its figures. */
import { computed } from 'vue'
import type { GarmentStory } from '@/api/types'
import { useHouse } from '@/composables/useHouse'
import { useWritten } from '@/composables/useWritten'

const props = defineProps<{ story: GarmentStory }>()
const { unit } = useHouse()

const WIDTH = 860
const HEIGHT = 262
/** More open observations than this are told by their number alone. */
const MOST_DOTS = 12
const PAD = { left: 46, right: 290, top: 22, bottom: 56 }

const rounds = computed(() => props.story.rounds)
const courses = computed(() => props.story.courses)
/** Millimetres in one of the house's units. */
const one = computed(() => props.story.unit_mm)
const amounts = computed(() =>
  courses.value.flatMap((course) => course.points.map((point) => point.mm / one.value)),
)
const top = computed(() => Math.max(0.1, ...amounts.value) * 1.1)
const bottom = computed(() => Math.min(0, ...amounts.value) * 1.1)

function x(round: number): number {
  const span = Math.max(1, rounds.value.length - 1)
  return PAD.left + ((round - 1) / span) * (WIDTH - PAD.left - PAD.right)
}
function y(value: number): number {
  const share = (top.value - value) / (top.value - bottom.value)
  return PAD.top + share * (HEIGHT - PAD.top - PAD.bottom)
}

const lines = computed(() => {
  const drawn = courses.value.map((course) => {
    const points = course.points.map((point) => ({ x: x(point.round), y: y(point.mm / one.value) }))
    const last = points.at(-1) ?? { x: 0, y: 0 }
    return { said: course.said, wrong: Boolean(course.warning), points, last, label: last.y }
  })
  // Names that would lie on each other step apart.
  const sorted = [...drawn].sort((a, b) => a.label - b.label)
  sorted.forEach((line, index) => {
    const above = sorted[index - 1]
    if (above && line.label - above.label < 15) line.label = above.label + 15
  })
  return drawn
})
const path = (points: readonly { x: number; y: number }[]) => points.map((at) => `${at.x},${at.y}`).join(' ')
const grid = computed(() => {
  const raw = (top.value - bottom.value) / 4
  const steps = [0.0625, 0.125, 0.25, 0.5, 1, 2, 5, 10, 20, 50]
  const step = steps.find((each) => each >= raw) ?? 100
  const from = Math.ceil(bottom.value / step)
  const count = Math.floor(top.value / step) - from
  return Array.from({ length: count + 1 }, (_, index) => (from + index) * step)
})
const { length: gridLength } = useWritten(() => ({
  lengths: grid.value.map((value) => Math.abs(value) * one.value),
}))
const short = (said: string) => (said.length > 44 ? `${said.slice(0, 43)}…` : said)
</script>

<template>
  <div class="stack">
    <div class="wide" tabindex="0" role="region" aria-label="Amounts from round to round">
      <svg
        v-if="courses.length"
        :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
        role="img"
        :aria-label="`What was pinned per half by round, in ${unit}: ${courses.map((course) => course.said).join('; ')}`"
      >
        <text :x="PAD.left" y="12" class="axis">
          per half, {{ unit }}; above nought too much, below it wanting
        </text>
        <g v-for="(value, index) in grid" :key="value">
          <line
            class="rule"
            :class="{ nought: value === 0 }"
            :x1="PAD.left"
            :x2="WIDTH - PAD.right"
            :y1="y(value)"
            :y2="y(value)"
          />
          <text :x="PAD.left - 8" :y="y(value) + 4" text-anchor="end" class="axis">
            {{ gridLength(index) }}
          </text>
        </g>
        <g v-for="round in rounds" :key="round.id">
          <text :x="x(round.number)" :y="HEIGHT - 32" text-anchor="middle" class="axis">
            round {{ round.number }}
          </text>
          <!-- A dot for each observation that is still open after the round. -->
          <circle
            v-for="dot in Math.min(round.open, MOST_DOTS)"
            :key="dot"
            class="open"
            r="3.5"
            :cx="x(round.number) + (dot - (Math.min(round.open, MOST_DOTS) + 1) / 2) * 10"
            :cy="HEIGHT - 20"
          />
          <text :x="x(round.number)" :y="HEIGHT - 3" text-anchor="middle" class="axis">
            {{ round.open }} open
          </text>
        </g>
        <g v-for="line in lines" :key="line.said" :class="{ wrong: line.wrong }" class="course">
          <title>{{ line.said }}</title>
          <polyline :points="path(line.points)" />
          <circle v-for="(at, index) in line.points" :key="index" :cx="at.x" :cy="at.y" r="4.5" />
          <text :x="line.last.x + 10" :y="line.label + 4">{{ short(line.said) }}</text>
        </g>
      </svg>
    </div>
    <table>
      <thead>
        <tr>
          <th scope="col">Round</th>
          <th v-for="round in rounds" :key="round.id" scope="col" class="num">{{ round.number }}</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <th scope="row">Still open after it</th>
          <td v-for="round in rounds" :key="round.id" class="num">{{ round.open }}</td>
        </tr>
        <tr>
          <th scope="row">Pinned in all, per half, {{ unit }}</th>
          <td v-for="round in rounds" :key="round.id" class="num">{{ round.pinned.text }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  min-width: 640px;
  max-width: 860px;
}
.wide {
  overflow-x: auto;
}
.rule {
  stroke: var(--rule);
}
.nought {
  stroke: var(--ink);
}
.open {
  fill: var(--madder);
}
.axis {
  font: 13px var(--sans);
  fill: var(--ink-soft);
}
.course polyline {
  fill: none;
  stroke: var(--woad);
  stroke-width: 2;
}
.course circle {
  fill: var(--woad);
}
.course text {
  font: 13px var(--sans);
  fill: var(--ink);
}
.wrong polyline {
  stroke: var(--madder);
}
.wrong circle {
  fill: var(--madder);
}
.wrong text {
  fill: var(--madder);
  font-weight: 700;
}
table {
  max-width: 34rem;
}
</style>
