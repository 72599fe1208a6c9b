<script setup lang="ts">
/** Heights of one line on a body at four places: whether it is level, and what to move. Nothing is kept. */
import { ElButton } from 'element-plus'
import { reactive, shallowRef } from 'vue'
import { post, send } from '@/api/client'
import type { LevelCheck, Problem } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHouse } from '@/composables/useHouse'

const { unit } = useHouse()
const PLACES = ['left', 'right', 'front', 'back'] as const
const entry = reactive({ line: 'waist', left: '', right: '', front: '', back: '' })
const answer = shallowRef<LevelCheck | null>()
const problem = shallowRef<Problem>()

async function check(): Promise<void> {
  const result = await send(post('/api/level', { body: { ...entry } }))
  problem.value = result.ok ? undefined : result.problem
  answer.value = result.ok ? result.value : undefined
}
</script>

<template>
  <form class="stack" @submit.prevent="check">
    <p class="small soft">
      Heights of the tape above the floor, {{ unit }}: left and right, or front and back.
    </p>
    <div class="heights">
      <div v-for="place in PLACES" :key="place" class="field">
        <label :for="`level-${place}`">{{ place[0]?.toUpperCase() }}{{ place.slice(1) }}</label>
        <input :id="`level-${place}`" v-model="entry[place]" class="plain figure" type="text" />
      </div>
    </div>
    <div><ElButton native-type="submit">Is it level?</ElButton></div>
    <ProblemNote :problem="problem" />
    <div role="status">
      <p v-if="answer === null" class="soft">Give both of a pair: left and right, or front and back.</p>
      <p v-else-if="answer?.level">Level.</p>
      <p v-for="move in answer?.moves ?? []" :key="move" class="decide">{{ move }}</p>
    </div>
  </form>
</template>

<style scoped>
.heights {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 0.5rem;
}
</style>
