<script setup lang="ts">
/** A drawing program's file: which of its outlines is the piece, and how large it is. */
import { ElButton } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import { post, send } from '@/api/client'
import type { FileOutline, FileOutlines, PieceInHand, Problem } from '@/api/types'
import FileField from '@/components/FileField.vue'
import LengthField from '@/components/LengthField.vue'
import ProblemNote from '@/components/ProblemNote.vue'

const props = defineProps<{
  /** Which piece, in a word. */
  name: string
}>()
const emit = defineEmits<{ change: [make: (piece: PieceInHand) => void] }>()

/** A test square is usually so large, in millimetres. */
const SQUARE = 100
const text = ref('')
const found = shallowRef<FileOutlines>()
const problem = shallowRef<Problem>()
const chosen = ref<number>()
const square = ref<number>()
const side = ref<number | null>(SQUARE)
const unit = ref<number | null>(null)

async function read(file: File): Promise<void> {
  text.value = await file.text()
  chosen.value = square.value = undefined
  await ask()
  if (found.value?.outlines.length === 1) chosen.value = 0
}
async function ask(): Promise<void> {
  const of = square.value
  const body = {
    file: text.value,
    square: of === undefined || side.value === null ? null : { outline: of, side_mm: side.value },
  }
  const answer = await send(post('/api/drape-outlines', { body }))
  problem.value = answer.ok ? undefined : answer.problem
  if (answer.ok) {
    found.value = answer.value
    unit.value = answer.value.mm_per_unit ?? unit.value
  }
}
async function takeSquare(at: number | undefined, mm = side.value): Promise<void> {
  square.value = at
  side.value = mm
  if (at !== undefined) await ask()
}

const box = ({ bounds }: FileOutline) => {
  const [x = 0, y = 0, width = 1, height = 1] = bounds
  const air = Math.max(width, height) * 0.06
  return `${x - air} ${y - air} ${width + 2 * air} ${height + 2 * air}`
}
const size = ({ bounds }: FileOutline) => {
  const [, , width = 0, height = 0] = bounds
  return `${width.toFixed(1)} × ${height.toFixed(1)} units`
}
const isReady = computed(() => chosen.value !== undefined && unit.value !== null)

function take(): void {
  const outline = found.value?.outlines[chosen.value ?? -1]
  if (!outline || unit.value === null) return
  const mm = unit.value
  emit('change', (piece) => {
    piece.by = 'path'
    piece.marks = {}
    piece.path = outline.path
    piece.mm_per_unit = mm
  })
}
</script>

<template>
  <div class="stack">
    <FileField
      :id="`path-${props.name}`"
      :label="`A drawing with the outline of the ${name}, as SVG`"
      accept=".svg,image/svg+xml"
      @file="read"
    />
    <ProblemNote :problem="problem" />
    <template v-if="found">
      <fieldset class="chips">
        <legend class="legend">Which outline is the {{ name }}</legend>
        <label v-for="(outline, at) in found.outlines" :key="at" class="outline">
          <input v-model="chosen" type="radio" :name="`outline-${name}`" :value="at" />
          <svg :viewBox="box(outline)" aria-hidden="true"><path :d="outline.path" /></svg>
          <span class="small">{{ outline.name || `outline ${at + 1}` }}</span>
          <span class="small soft">{{ size(outline) }}</span>
        </label>
      </fieldset>
      <p v-for="each in found.unread" :key="each" class="small soft">Not read: {{ each }}.</p>
      <div class="row scale">
        <p v-if="found.mm_per_unit && square === undefined" class="soft">The file states its own scale.</p>
        <p v-else-if="square === undefined" class="soft">
          The file states no scale: choose a test square, or say how long one unit is.
        </p>
        <div class="field">
          <label :for="`square-${name}`" class="legend">Test square</label>
          <select
            :id="`square-${name}`"
            :value="square ?? ''"
            @change="
              takeSquare(
                ($event.target as HTMLSelectElement).value === ''
                  ? undefined
                  : Number(($event.target as HTMLSelectElement).value),
              )
            "
          >
            <option value="">none</option>
            <option v-for="(outline, at) in found.outlines" :key="at" :value="at">
              {{ outline.name || `outline ${at + 1}` }}
            </option>
          </select>
        </div>
        <LengthField
          v-if="square !== undefined"
          label="Its side"
          :model-value="side"
          :least="5"
          :most="1000"
          exactly
          @update:model-value="takeSquare(square, $event)"
        />
        <LengthField
          v-else
          label="One unit is"
          :model-value="unit"
          optional
          exactly
          @update:model-value="unit = $event"
        />
      </div>
      <div class="row">
        <ElButton type="primary" :disabled="!isReady" @click="take">Trace this outline</ElButton>
      </div>
    </template>
  </div>
</template>

<style scoped>
.outline {
  position: relative;
  display: grid;
  justify-items: center;
  padding: 0.4rem;
  border: 1px solid var(--rule);
  background: var(--raised);
  cursor: pointer;
}
.outline input {
  position: absolute;
  opacity: 0;
}
.outline:has(input:checked) {
  border-color: var(--ink);
  box-shadow: inset 0 0 0 2px var(--ink);
}
.outline:has(input:focus-visible) {
  outline: 2px solid var(--woad);
}
svg {
  width: 7rem;
  height: 7rem;
}
path {
  fill: var(--cloth);
  stroke: var(--ink);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.scale {
  align-items: end;
}
</style>
