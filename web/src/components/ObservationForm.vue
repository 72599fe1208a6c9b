<script setup lang="ts">
/** One thing seen: where, what, how much. Made for one thumb. */
import { ElButton, ElInput } from 'element-plus'
import { reactive, ref, shallowRef } from 'vue'
import { post } from '@/api/client'
import type { FigureDrawing, PlaceOnFigure, Problem } from '@/api/types'
import FigurePlaces from '@/components/FigurePlaces.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{
  round: number
  front: FigureDrawing
  back: FigureDrawing
  places: readonly PlaceOnFigure[]
}>()
const emit = defineEmits<{ kept: [] }>()
const { craft, unit } = useHouse()
const problem = shallowRef<Problem>()
const busy = ref(false)
const fresh = () => ({
  place: '',
  kind: '',
  note: '',
  depth: '',
  pinned_as: 'pinch',
  pinned_on: 'both_sides',
})
const seen = reactive(fresh())

async function keep(): Promise<void> {
  if (!seen.place || !seen.kind) {
    const field = seen.place ? 'what it looks like' : 'where it is'
    problem.value = { type: '', title: 'Not yet', status: 0, detail: `choose ${field}` }
    return
  }
  busy.value = true
  const result = await post(`/api/rounds/${props.round}/observations`, seen)
  busy.value = false
  problem.value = result.ok ? undefined : result.problem
  if (!result.ok) return
  Object.assign(seen, fresh())
  emit('kept')
}
</script>

<template>
  <form class="card stack" @submit.prevent="keep">
    <FigurePlaces v-model="seen.place" :front="front" :back="back" :places="places" />
    <fieldset class="chips">
      <legend class="legend">Where</legend>
      <label v-for="place in craft?.places" :key="place" class="chip">
        <input v-model="seen.place" type="radio" name="place" :value="place" /><span>{{ place }}</span>
      </label>
    </fieldset>
    <fieldset class="chips">
      <legend class="legend">What</legend>
      <label v-for="kind in craft?.observation_kinds" :key="kind.kind" class="chip" :title="kind.looks">
        <input v-model="seen.kind" type="radio" name="kind" :value="kind.kind" /><span>{{ kind.name }}</span>
      </label>
    </fieldset>
    <div class="field">
      <label for="note">In words</label>
      <ElInput id="note" v-model="seen.note" maxlength="500" autocomplete="off" />
    </div>
    <div class="pins">
      <div class="field">
        <label for="depth">How much is pinned, {{ unit }}</label>
        <ElInput id="depth" v-model="seen.depth" autocomplete="off" placeholder="nothing" />
      </div>
      <fieldset class="chips">
        <legend class="legend">Measured as</legend>
        <label class="chip"
          ><input v-model="seen.pinned_as" type="radio" value="pinch" /><span
            >fold to its crease, twice</span
          ></label
        >
        <label class="chip"
          ><input v-model="seen.pinned_as" type="radio" value="tuck" /><span
            >tuck or opening, once</span
          ></label
        >
      </fieldset>
      <fieldset class="chips">
        <legend class="legend">Pinned on</legend>
        <label class="chip"
          ><input v-model="seen.pinned_on" type="radio" value="both_sides" /><span>both sides</span></label
        >
        <label class="chip"
          ><input v-model="seen.pinned_on" type="radio" value="one_side" /><span
            >one side, for both</span
          ></label
        >
      </fieldset>
    </div>
    <ProblemNote :problem="problem" />
    <ElButton type="primary" native-type="submit" :loading="busy">Keep this observation</ElButton>
  </form>
</template>

<style scoped>
.pins {
  display: grid;
  gap: 0.7rem;
}
</style>
