<script setup lang="ts">
/** The sheets of known size that a photograph shows: two, one on either side, or one rectangle round it all. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { A4 } from './marks'
import type { PieceInHand } from '@/api/types'
import LengthField from '@/components/LengthField.vue'

const props = defineProps<{ piece: PieceInHand }>()
const emit = defineEmits<{ change: [make: (piece: PieceInHand) => void] }>()

/** So many sheets a photograph shows at most. */
const MOST = 4
const sheets = computed(() => props.piece.sheets ?? [])
const isA4 = (sheet: { width: number; height: number }) =>
  sheet.width === A4.width && sheet.height === A4.height
/** Said in a line as long as all of them are the usual ones. */
const usual = computed(() => sheets.value.every(isA4))

function size(at: number, side: 'width' | 'height', mm: number | null): void {
  if (mm === null) return
  emit('change', (piece) => {
    const sheet = piece.sheets?.[at]
    if (sheet) sheet[side] = mm
  })
}
function add(): void {
  emit('change', (piece) => {
    piece.sheets = [...(piece.sheets ?? []), { ...A4 }]
  })
}
function tape(mm: number | null): void {
  emit('change', (piece) => {
    piece.tape = { ends_px: mm === null ? [] : (piece.tape?.ends_px ?? []), mm: mm ?? 0 }
  })
}
function leaveOut(at: number): void {
  emit('change', (piece) => {
    piece.sheets = (piece.sheets ?? []).filter((_, index) => index !== at)
  })
}
</script>

<template>
  <details>
    <summary>
      Sheets of known size
      <span class="small soft">{{
        usual ? `${sheets.length} of A4` : `${sheets.length}, of your sizes`
      }}</span>
    </summary>
    <div v-for="(sheet, at) in sheets" :key="at" class="sheet">
      <LengthField
        :label="`Sheet ${at + 1}, one side`"
        :model-value="sheet.width"
        :least="50"
        :most="3000"
        exactly
        @update:model-value="size(at, 'width', $event)"
      />
      <LengthField
        label="the other"
        :model-value="sheet.height"
        :least="50"
        :most="3000"
        exactly
        @update:model-value="size(at, 'height', $event)"
      />
      <ElButton
        v-if="sheets.length > 1"
        size="small"
        :aria-label="`Leave out sheet ${at + 1}`"
        @click="leaveOut(at)"
        >Leave it out</ElButton
      >
    </div>
    <LengthField
      label="A tape lies in the picture: so much of it is clicked"
      :model-value="piece.tape?.mm || null"
      optional
      exactly
      @update:model-value="tape($event)"
    />
    <p class="small soft">
      A cutting mat or a ruled frame round the whole toile is one sheet of its own size. One small sheet alone
      leaves the scale half as certain: take a length by tape too.
    </p>
    <ElButton v-if="sheets.length < MOST" size="small" @click="add">Another sheet</ElButton>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  font-weight: 700;
}
.sheet {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: end;
  padding: 0.4rem 0;
}
.sheet .field {
  flex: 1 1 7rem;
}
</style>
