<script setup lang="ts">
/** The paper it is printed on. */
import { useId } from 'vue'

export type Paper = 'a4' | 'letter'
const paper = defineModel<Paper>({ required: true })
const name = useId()
const PAPERS = { a4: 'A4', letter: 'Letter' } as const
</script>

<template>
  <fieldset class="chips">
    <legend class="legend">Paper</legend>
    <label v-for="(called, code) in PAPERS" :key="code" class="chip"
      ><input v-model="paper" type="radio" :name="name" :value="code" /><span>{{ called }}</span></label
    >
  </fieldset>
</template>
