<script setup lang="ts">
/** The practice room: figures with a hidden cause, tapes to read, and how far one is. Nothing of a client is in it. */
import { computed, ref } from 'vue'
import { get } from '@/api/client'
import FittingExercise from '@/components/practice/FittingExercise.vue'
import PracticeStandings from '@/components/practice/PracticeStandings.vue'
import TapePractice from '@/components/practice/TapePractice.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useResource } from '@/composables/useResource'

const VIEWS = [
  { code: 'fitting', name: 'A fitting' },
  { code: 'tape', name: 'A tape' },
  { code: 'standing', name: 'How far you are' },
] as const
const view = ref<(typeof VIEWS)[number]['code']>('fitting')

// What is done changes what comes next: an exercise in hand stays until another one is asked for.
const { data: practice, problem, reload } = useResource(get('/api/practice'))
type Wanted = NonNullable<typeof practice.value>['next_fitting']
const fittingInHand = ref<Wanted>()
const tapeInHand = ref<Wanted>()
const nextFitting = computed(() => fittingInHand.value ?? practice.value?.next_fitting)
const nextTape = computed(() => tapeInHand.value ?? practice.value?.next_tape)
const { data: fitting, problem: noFitting } = useResource(() =>
  view.value === 'fitting' && nextFitting.value
    ? get('/api/practice/fitting', {
        params: { query: { difficulty: nextFitting.value.difficulty, seed: nextFitting.value.seed } },
      })
    : undefined,
)
const { data: tape, problem: noTape } = useResource(() =>
  view.value === 'tape' && nextTape.value?.tape
    ? get('/api/practice/tape', {
        params: {
          query: {
            kind: nextTape.value.tape,
            difficulty: nextTape.value.difficulty,
            seed: nextTape.value.seed,
          },
        },
      })
    : undefined,
)

/** The exercise in hand is kept while what came of it is read. */
async function doneFitting(): Promise<void> {
  fittingInHand.value = nextFitting.value
  await reload()
}
async function doneTape(): Promise<void> {
  tapeInHand.value = nextTape.value
  await reload()
}
</script>

<template>
  <PageFrame title="Practice" width="wide" :problem="problem ?? noFitting ?? noTape" :reading="!practice">
    <template #lead>
      <p class="soft">Made-up figures with a hidden cause, and tapes to read. No client is in it.</p>
    </template>
    <fieldset class="chips">
      <legend class="visually-hidden">What is practised</legend>
      <label v-for="each in VIEWS" :key="each.code" class="chip">
        <input v-model="view" type="radio" name="practice" :value="each.code" />
        <span>{{ each.name }}</span>
      </label>
    </fieldset>
    <FittingExercise
      v-if="view === 'fitting' && fitting"
      :key="`${fitting.difficulty} ${fitting.seed}`"
      :fitting="fitting"
      @done="doneFitting"
      @next="fittingInHand = undefined"
    />
    <TapePractice
      v-if="view === 'tape' && tape && nextTape"
      :key="`${tape.kind} ${tape.seed} ${nextTape.difficulty}`"
      :exercise="tape"
      :difficulty="nextTape.difficulty"
      @done="doneTape"
      @next="tapeInHand = undefined"
    />
    <PracticeStandings v-if="view === 'standing' && practice" :practice="practice" />
  </PageFrame>
</template>
