<script setup lang="ts">
/** Hem marks from the floor to a cutting line: any edge, any number of places. Nothing is kept. */
import { ElButton, ElInput } from 'element-plus'
import { reactive, shallowRef } from 'vue'
import { post, send } from '@/api/client'
import type { HemMarks, Problem } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHouse } from '@/composables/useHouse'

const { unit } = useHouse()
const entry = reactive({
  wanted: '',
  allowance: '',
  places: ['Front', 'Left', 'Back', 'Right'].map((name) => ({ name, height: '' })),
})
const marks = shallowRef<HemMarks>()
const problem = shallowRef<Problem>()

async function mark(): Promise<void> {
  const result = await send(post('/api/hem', { body: entry }))
  problem.value = result.ok ? undefined : result.problem
  marks.value = result.ok ? result.value : undefined
}
const found = (name: string) => marks.value?.places.find((each) => each.name === name)
</script>

<template>
  <form class="card stack" aria-labelledby="hem-title" @submit.prevent="mark">
    <h3 id="hem-title">Mark a hem from the floor</h3>
    <div class="wanted">
      <div class="field">
        <label for="hem-wanted">Finished hem above the floor, {{ unit }}</label>
        <ElInput id="hem-wanted" v-model="entry.wanted" autocomplete="off" />
      </div>
      <div class="field">
        <label for="hem-allowance">Turned up below it, {{ unit }}</label>
        <ElInput id="hem-allowance" v-model="entry.allowance" autocomplete="off" placeholder="nothing" />
      </div>
    </div>
    <table>
      <thead>
        <tr>
          <th scope="col">Place</th>
          <th scope="col">Edge above the floor</th>
          <th scope="col" class="num">Up to the hem</th>
          <th scope="col" class="num">Up to the cut</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(place, index) in entry.places" :key="index">
          <td>
            <input
              v-model="place.name"
              class="plain"
              type="text"
              maxlength="40"
              :aria-label="`Name of place ${index + 1}`"
            />
          </td>
          <td>
            <input
              v-model="place.height"
              class="plain figure"
              type="text"
              autocomplete="off"
              :aria-label="`Edge above the floor at ${place.name || `place ${index + 1}`}`"
              :aria-invalid="problem?.pointer === `/places/${index}/height`"
            />
          </td>
          <td class="num">{{ found(place.name)?.to_hem.text }}</td>
          <td class="num changed">{{ found(place.name)?.cut_off.text }}</td>
        </tr>
      </tbody>
    </table>
    <ProblemNote :problem="problem" />
    <p v-if="marks" role="status" :class="{ decide: !marks.reaches }">{{ marks.says }}</p>
    <div class="row">
      <ElButton native-type="submit">Find the cutting line</ElButton>
      <ElButton @click="entry.places.push({ name: '', height: '' })">One more place</ElButton>
    </div>
  </form>
</template>

<style scoped>
.wanted {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
  gap: 0.8rem;
}
</style>
