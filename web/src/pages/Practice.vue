<script setup lang="ts">
/** The practice room: figures with a hidden cause, tapes to read, and how far one is. Nothing of a client is in it. */
import { reactive, ref, watch } from 'vue'
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

const { data: practice, problem, reload } = useResource(get('/api/practice'))
type Next = NonNullable<typeof practice.value>['next_fitting']
/** The exercises in hand: whatever is done meanwhile, here or in another tab, they stay until other ones are asked for. */
const inHand = reactive<{ fitting: Next | undefined; tape: Next | undefined }>({
  fitting: undefined,
  tape: undefined,
})
watch(
  practice,
  (now) => {
    inHand.fitting ??= now?.next_fitting
    inHand.tape ??= now?.next_tape
  },
  { immediate: true },
)
async function another(kind: 'fitting' | 'tape'): Promise<void> {
  await reload()
  inHand[kind] = kind === 'fitting' ? practice.value?.next_fitting : practice.value?.next_tape
}
const { data: fitting, problem: noFitting } = useResource(() =>
  view.value === 'fitting' && inHand.fitting
    ? get('/api/practice/fitting', {
        params: { query: { difficulty: inHand.fitting.difficulty, seed: inHand.fitting.seed } },
      })
    : undefined,
)
const { data: tape, problem: noTape } = useResource(() =>
  view.value === 'tape' && inHand.tape?.tape
    ? get('/api/practice/tape', {
        params: {
          query: {
            kind: inHand.tape.tape,
            difficulty: inHand.tape.difficulty,
            seed: inHand.tape.seed,
          },
        },
      })
    : undefined,
)
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
      @done="reload"
      @next="another('fitting')"
    />
    <TapePractice
      v-if="view === 'tape' && tape && inHand.tape"
      :key="`${tape.kind} ${tape.seed} ${inHand.tape.difficulty}`"
      :exercise="tape"
      :difficulty="inHand.tape.difficulty"
      @done="reload"
      @next="another('tape')"
    />
    <PracticeStandings v-if="view === 'standing' && practice" :practice="practice" />
  </PageFrame>
</template>
