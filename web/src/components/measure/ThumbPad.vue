<script setup lang="ts">
/** Digits and fractions under the thumb, so that a phone needs no keyboard of its own. */
import { ElButton } from 'element-plus'
import type { Unit } from '@/api/types'

defineProps<{ unit: Unit }>()
const text = defineModel<string>({ required: true })
const DIGITS = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '0']
const FRACTIONS = ['1/8', '1/4', '3/8', '1/2', '5/8', '3/4', '7/8']

/** A digit typed after a fraction begins anew; a second fraction takes the place of the first. */
function add(digit: string): void {
  text.value = text.value.includes('/') ? digit : `${text.value}${digit}`
}
function addFraction(fraction: string): void {
  const [whole = ''] = text.value.trim().split(' ')
  text.value = `${whole.includes('/') ? '' : whole} ${fraction}`.trim()
}
</script>

<template>
  <div class="pad" role="group" aria-label="Digits and fractions">
    <div v-if="unit === 'inch'" class="fractions">
      <ElButton v-for="fraction in FRACTIONS" :key="fraction" @click="addFraction(fraction)">{{
        fraction
      }}</ElButton>
    </div>
    <ElButton v-for="digit in DIGITS" :key="digit" @click="add(digit)">{{ digit }}</ElButton>
    <ElButton aria-label="Take one back" @click="text = text.slice(0, -1).trimEnd()">⌫</ElButton>
  </div>
</template>

<style scoped>
.pad {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 0.3rem;
}
.fractions {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: repeat(7, 1fr);
  gap: 0.25rem;
}
.pad .el-button {
  padding: 0;
  font-size: 1.1rem;
}
</style>
