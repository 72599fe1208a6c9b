<script setup lang="ts">
/** Lengths taken by tape across a piece: what is marked is held against them, and a photograph's scale too. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { isRun } from './marks'
import type { ControlLength, MarkWanted, PieceInHand } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import LengthField from '@/components/LengthField.vue'

const props = defineProps<{
  piece: PieceInHand
  wanted: readonly MarkWanted[]
}>()
const emit = defineEmits<{ change: [make: (piece: PieceInHand) => void] }>()

/** The two that are always taken: down the centre, and down the side. */
const USUAL = [
  ['centre_top', 'centre_waist'],
  ['underarm', 'side_waist'],
] as const
/** So many fit. */
const MOST = 6

type Cross = ControlLength['from']
const crosses = computed(() =>
  props.wanted
    .filter((each) => !isRun(each))
    .map(({ mark, name }) => ({ value: mark as Cross, label: name })),
)
const lengths = computed(() => props.piece.controls ?? [])
const nameOf = (mark: string) => crosses.value.find((each) => each.value === mark)?.label ?? mark
/** The usual ones first, taken or not; then the others. */
const usual = computed(() =>
  USUAL.map(([from, to]) => {
    const at = lengths.value.findIndex((each) => each.from === from && each.to === to)
    return { from, to, at, mm: lengths.value[at]?.mm ?? null }
  }),
)
const others = computed(() =>
  lengths.value.flatMap((each, at) => (usual.value.some((one) => one.at === at) ? [] : [{ ...each, at }])),
)

function put(at: number, length: ControlLength | undefined): void {
  emit('change', (piece) => {
    const now = [...(piece.controls ?? [])]
    if (length) now.splice(at < 0 ? now.length : at, at < 0 ? 0 : 1, length)
    else if (at >= 0) now.splice(at, 1)
    piece.controls = now
  })
}
function typed({ from, to, at }: { from: Cross; to: Cross; at: number }, mm: number | null): void {
  put(at, mm === null ? undefined : { from, to, mm })
}
function another(): void {
  put(-1, { from: 'neck_side', to: 'centre_waist', mm: 0 })
}
</script>

<template>
  <details class="controls" :open="!usual.some((each) => each.mm !== null)">
    <summary>Lengths by tape</summary>
    <p class="small soft">
      Two are always taken: they find a wrong click, and a photograph that lies about its scale.
    </p>
    <div class="fields">
      <LengthField
        v-for="each in usual"
        :key="each.from"
        :label="`${nameOf(each.from)} to ${nameOf(each.to)}`"
        :model-value="each.mm"
        optional
        exactly
        @update:model-value="typed(each, $event)"
      />
      <div v-for="each in others" :key="each.at" class="other">
        <ChoiceField
          :id="`control-from-${each.at}`"
          label="From"
          :choices="crosses"
          :model-value="each.from"
          @update:model-value="$event && put(each.at, { from: $event, to: each.to, mm: each.mm })"
        />
        <ChoiceField
          :id="`control-to-${each.at}`"
          label="to"
          :choices="crosses"
          :model-value="each.to"
          @update:model-value="$event && put(each.at, { from: each.from, to: $event, mm: each.mm })"
        />
        <LengthField
          label="by tape"
          :model-value="each.mm || null"
          optional
          exactly
          @update:model-value="typed(each, $event)"
        />
      </div>
    </div>
    <ElButton v-if="lengths.length < MOST" size="small" @click="another">Another length</ElButton>
  </details>
</template>

<style scoped>
.controls {
  display: grid;
  gap: 0.5rem;
}
summary {
  cursor: pointer;
  font-weight: 700;
}
.fields {
  display: grid;
  gap: 0.5rem;
  padding: 0.4rem 0;
}
.other {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(8rem, 1fr));
  gap: 0.5rem;
}
</style>
