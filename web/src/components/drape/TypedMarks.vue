<script setup lang="ts">
/**
 * Marks typed from two lines: over from the centre and down from the neck, one after the other by the keyboard alone, while the
 * drawing grows.
 */
import { ElButton } from 'element-plus'
import { computed, nextTick, reactive, useTemplateRef, watch } from 'vue'
import ByDistances from './ByDistances.vue'
import { crossAt, isCross, isDotted, nameOf, placesOf, putPlaces, roundThe, same, standing } from './marks'
import type { Place, Step } from './marks'
import type { PieceInHand } from '@/api/types'
import LengthField from '@/components/LengthField.vue'

const props = defineProps<{
  piece: PieceInHand
  steps: readonly Step[]
  current?: Step | undefined
}>()
const emit = defineEmits<{
  change: [make: (piece: PieceInHand) => void]
  choose: [step: Step]
}>()

/** Millimetres round what is drawn. */
const AIR = 30
const EMPTY = (): Half => ({ over: null, down: null })
const rowsAt = useTemplateRef<HTMLElement>('rows')

/** A place as far as it is typed. */
interface Half {
  over: number | null
  down: number | null
}
/**
 * What is typed, by mark: a place of which only one of the two is there yet, and a dot that is begun. Keys are faster than their
 * figures are read, so that rows stand here before their places do.
 */
const typed = reactive<Record<string, Half[]>>({})

const whole = (halves: readonly Half[]): Place[] =>
  halves.flatMap(({ over, down }): Place[] => (over === null || down === null ? [] : [[over, down]]))

// What is kept comes in where it is another than what is typed here: another way of marking, or what was taken back.
watch(
  () => [props.piece.marks, props.steps] as const,
  () => {
    for (const step of props.steps) {
      const name = nameOf(step)
      const kept = placesOf(props.piece, step)
      if (JSON.stringify(whole(typed[name] ?? [])) === JSON.stringify(kept) && typed[name]) continue
      typed[name] = [
        ...kept.map(([over, down]): Half => ({ over, down })),
        ...(isCross(step) && kept.length ? [] : [EMPTY()]),
      ]
    }
  },
  { immediate: true, deep: true },
)

interface Row extends Half {
  key: string
  step: Step
  index: number
  /** The first of its mark. */
  isFirst: boolean
  /** The last of a run: another dot is begun below it. */
  isLast: boolean
}
const rows = computed<Row[]>(() =>
  props.steps.flatMap((step) => {
    const halves = typed[nameOf(step)] ?? []
    return halves.map((half, index) => ({
      ...half,
      key: `${nameOf(step)} ${index}`,
      step,
      index,
      isFirst: index === 0,
      isLast: index === halves.length - 1,
    }))
  }),
)

/** Another dot below the last one of a run. */
function roomFor(step: Step): void {
  const halves = typed[nameOf(step)]
  const last = halves?.at(-1)
  if (halves && !isCross(step) && last && last.over !== null && last.down !== null) halves.push(EMPTY())
}

function keep(step: Step): void {
  const places = whole(typed[nameOf(step)] ?? [])
  if (JSON.stringify(places) !== JSON.stringify(placesOf(props.piece, step)))
    emit('change', (piece) => putPlaces(piece, step, places))
}

function take(row: Row, part: 'over' | 'down', mm: number | null): void {
  const half = typed[nameOf(row.step)]?.[row.index]
  if (!half) return
  half[part] = mm
  roomFor(row.step)
  keep(row.step)
}

function drop(row: Row): void {
  const halves = typed[nameOf(row.step)]
  halves?.splice(row.index, 1)
  if (halves && !halves.length) halves.push(EMPTY())
  keep(row.step)
}

/** Enter goes to the next field at once, whatever it is of: over, down, over. In the last dot of a run it begins another. */
async function onwards(event: KeyboardEvent): Promise<void> {
  const at = event.target as HTMLInputElement
  const fields = () => [...(rowsAt.value?.querySelectorAll<HTMLInputElement>('input') ?? [])]
  const place = fields().indexOf(at)
  const row = rows.value[Math.floor(place / 2)]
  const isDown = place % 2 === 1
  if (row && isDown && row.isLast && !isCross(row.step) && at.value.trim() !== '')
    typed[nameOf(row.step)]?.push(EMPTY())
  await nextTick()
  // An empty dot ends its run: on to the next mark.
  const isEnd = row && !isDown && row.isLast && !row.isFirst && at.value.trim() === ''
  const next = fields()[place + (isEnd ? 2 : 1)]
  next?.focus()
  next?.select()
}

/** A cross that was found by its distances. */
function placed(at: Place): void {
  const step = props.current
  if (step) emit('change', (piece) => putPlaces(piece, step, [at]))
}

const points = computed(() => standing(props.piece, props.steps))
const box = computed(() => {
  const at = points.value.map((point) => point.at)
  if (!at.length) return '-40 -40 320 480'
  const [xs, ys] = [at.map(([x]) => x), at.map(([, y]) => y)]
  const [left, top] = [Math.min(...xs, 0) - AIR, Math.min(...ys, 0) - AIR]
  const [width, height] = [Math.max(...xs, 120) + AIR - left, Math.max(...ys, 160) + AIR - top]
  return `${left} ${top} ${width} ${height}`
})
const outline = computed(() => roundThe(props.piece, props.steps))
</script>

<template>
  <div class="typed">
    <div
      ref="rows"
      class="rows"
      role="group"
      aria-label="Marks, over and down"
      @keydown.enter.prevent="onwards"
    >
      <div
        v-for="row in rows"
        :key="row.key"
        class="row"
        :class="{ current: same(current, row.step), first: row.isFirst }"
        @focusin="emit('choose', row.step)"
      >
        <p class="what">
          <template v-if="row.isFirst"
            ><span class="name">{{ nameOf(row.step) }}</span>
            <span v-if="row.step.kind === 'mark'" class="small soft">{{
              row.step.wanted.place
            }}</span></template
          >
          <span v-else class="small soft"
            >dot {{ row.index + 1 }}{{ row.isLast ? ', if there is another' : '' }}</span
          >
        </p>
        <LengthField
          :label="`${nameOf(row.step)}${isDotted(row.step) ? `, dot ${row.index + 1}` : ''}: over`"
          unseen
          hint="over"
          :model-value="row.over"
          optional
          exactly
          @update:model-value="take(row, 'over', $event)"
        />
        <LengthField
          :label="`${nameOf(row.step)}${isDotted(row.step) ? `, dot ${row.index + 1}` : ''}: down`"
          unseen
          hint="down"
          :model-value="row.down"
          optional
          exactly
          @update:model-value="take(row, 'down', $event)"
        />
        <ElButton
          v-if="row.over !== null && row.down !== null"
          text
          size="small"
          :aria-label="`Take out ${nameOf(row.step)}${row.index ? `, dot ${row.index + 1}` : ''}`"
          @click="drop(row)"
          >out</ElButton
        >
      </div>
    </div>
    <figure class="grown">
      <svg :viewBox="box" role="img" aria-label="The piece as far as it is typed">
        <path class="line" d="M0 -1000V2000M-1000 0H2000" />
        <path class="round" :d="outline" />
        <g v-for="(point, at) in points" :key="at" :class="{ current: same(current, point.step) }">
          <path v-if="isCross(point.step)" :d="crossAt(...point.at, 5)" />
          <circle v-else :cx="point.at[0]" :cy="point.at[1]" r="2.2" />
        </g>
      </svg>
      <figcaption class="small soft">
        Over is measured from the centre towards the side, down from one level line, such as the neck side's.
        The piece may lie anywhere and be turned: the centre line straightens it.
      </figcaption>
      <ByDistances
        v-if="current && isCross(current)"
        :piece="piece"
        :steps="steps"
        :step="current"
        @place="placed"
      />
    </figure>
  </div>
</template>

<style scoped>
.typed {
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr);
  gap: 1.2rem;
  align-items: start;
}
.rows {
  display: grid;
  max-height: min(72vh, 900px);
  overflow-y: auto;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 8.6rem 8.6rem 3rem;
  gap: 0.5rem;
  align-items: start;
  padding: 0.2rem 0.4rem;
  border-left: 3px solid transparent;
}
.row.first {
  border-top: 1px solid var(--rule);
  padding-top: 0.4rem;
}
.row.current {
  background: var(--sunk);
  border-left-color: var(--madder);
}
.what {
  display: grid;
}
.name::first-letter {
  text-transform: uppercase;
}
.grown {
  margin: 0;
  position: sticky;
  top: 4rem;
}
svg {
  display: block;
  width: 100%;
  max-height: min(64vh, 760px);
  background: var(--sunk);
  border: 1px solid var(--rule);
}
svg path,
svg circle {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
  vector-effect: non-scaling-stroke;
}
svg .line {
  stroke: var(--rule);
}
svg .round {
  stroke: var(--ink-soft);
  stroke-width: 1;
  stroke-dasharray: 3 3;
}
svg .current > * {
  stroke: var(--madder);
  stroke-width: 2.4;
}
@media (max-width: 900px) {
  .typed {
    grid-template-columns: minmax(0, 1fr);
  }
  .grown {
    position: static;
    order: -1;
  }
  svg {
    max-height: 40vh;
  }
  .row {
    grid-template-columns: 1fr 1fr auto;
  }
  .what {
    grid-column: 1 / -1;
  }
}
</style>
