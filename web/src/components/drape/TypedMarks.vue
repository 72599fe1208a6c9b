<script setup lang="ts">
/**
 * Marks typed from two lines: over from the centre and down from the neck, one after the other by the keyboard alone, while the
 * drawing grows.
 */
import { ElButton } from 'element-plus'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import ByDistances from './ByDistances.vue'
import { isRun, nameOf, placesOf, putPlaces, roundThe, same, standing } from './marks'
import type { Place, Step } from './marks'
import type { PieceInHand } from '@/api/types'
import LengthField from '@/components/LengthField.vue'
import { fieldsRead } from '@/composables/usePendingFields'

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
const rowsAt = useTemplateRef<HTMLElement>('rows')

/** A place of which only one of the two is typed yet. */
const half = ref<Record<string, { over: number | null; down: number | null }>>({})

interface Row {
  key: string
  step: Step
  index: number
  over: number | null
  down: number | null
  /** The first of its mark. */
  isFirst: boolean
  /** The last of a run: another dot is begun below it. */
  isLast: boolean
}
const rows = computed<Row[]>(() =>
  props.steps.flatMap((step) => {
    const places = placesOf(props.piece, step)
    const count = step.kind === 'mark' && isRun(step.wanted) ? places.length + 1 : 1
    return Array.from({ length: count }, (_, index) => {
      const key = `${nameOf(step)} ${index}`
      const [over, down] = places[index] ?? [half.value[key]?.over ?? null, half.value[key]?.down ?? null]
      return { key, step, index, over, down, isFirst: index === 0, isLast: index === count - 1 }
    })
  }),
)

function typed(row: Row, part: 'over' | 'down', mm: number | null): void {
  const over = part === 'over' ? mm : row.over
  const down = part === 'down' ? mm : row.down
  if (over === null || down === null) {
    half.value = { ...half.value, [row.key]: { over, down } }
    // A place of which a half is taken out is no place any more.
    if (over === null && down === null) drop(row)
    return
  }
  const { [row.key]: _, ...others } = half.value
  half.value = others
  emit('change', (piece) => {
    const places = placesOf(piece, row.step)
    const now: Place = [over, down]
    putPlaces(piece, row.step, [...places.slice(0, row.index), now, ...places.slice(row.index + 1)])
  })
}

/** A cross that was found by its distances. */
function placed(at: Place): void {
  const step = props.current
  if (step) emit('change', (piece) => putPlaces(piece, step, [at]))
}

function drop(row: Row): void {
  emit('change', (piece) => {
    const places = placesOf(piece, row.step)
    putPlaces(
      piece,
      row.step,
      places.filter((_, at) => at !== row.index),
    )
  })
}

/** Enter goes to the next field, whatever it is of: over, down, over. */
async function onwards(event: KeyboardEvent): Promise<void> {
  const at = event.target as HTMLElement
  // What was typed is read first, and may make room for another dot.
  if (!(await fieldsRead())) return
  await nextTick()
  const fields = [...(rowsAt.value?.querySelectorAll<HTMLInputElement>('input') ?? [])]
  const next = fields[fields.indexOf(at as HTMLInputElement) + 1]
  next?.focus()
  next?.select()
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
const isCross = (step: Step) => step.kind === 'mark' && !isRun(step.wanted)
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
          :label="`${nameOf(row.step)}${row.step.kind === 'mark' && isRun(row.step.wanted) ? `, dot ${row.index + 1}` : ''}: over`"
          unseen
          hint="over"
          :model-value="row.over"
          optional
          exactly
          @update:model-value="typed(row, 'over', $event)"
        />
        <LengthField
          :label="`${nameOf(row.step)}${row.step.kind === 'mark' && isRun(row.step.wanted) ? `, dot ${row.index + 1}` : ''}: down`"
          unseen
          hint="down"
          :model-value="row.down"
          optional
          exactly
          @update:model-value="typed(row, 'down', $event)"
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
          <path
            v-if="isCross(point.step)"
            :d="`M${point.at[0] - 5} ${point.at[1]}h10M${point.at[0]} ${point.at[1] - 5}v10`"
          />
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
