<script setup lang="ts">
/** One fitting to practise on: what is seen, what to test, which cause, how much, what follows; then the truth. */
import { ElButton } from 'element-plus'
import { computed, nextTick, ref, shallowRef, useTemplateRef } from 'vue'
import { post, send } from '@/api/client'
import type { PracticeAnswers, PracticeFitting, PracticeVerdict, Problem } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import LengthField from '@/components/LengthField.vue'
import { fieldsRead } from '@/composables/usePendingFields'
import { useHouse } from '@/composables/useHouse'
import { useQuestionKeys } from '@/composables/useQuestionKeys'
import ChoiceList from './ChoiceList.vue'
import PracticeFigureDrawing from './PracticeFigureDrawing.vue'
import StepVerdictLine from './StepVerdictLine.vue'

const props = defineProps<{ fitting: PracticeFitting }>()
const emit = defineEmits<{
  /** Every step is answered. */
  done: []
  /** Another one is wanted. */
  next: []
}>()
const { unit } = useHouse()

type Step = 'sight' | 'test' | 'cause' | 'amount' | 'follows'
const ASKS: Record<Step, string> = {
  sight: 'What do you see at A?',
  test: 'What would you test first?',
  cause: 'Which cause is it?',
  amount: 'How much?',
  follows: 'What else must follow? Choose all of it, or nothing.',
}
const steps = computed<Step[]>(() => [
  'sight',
  'test',
  'cause',
  ...(props.fitting.amount ? (['amount'] as const) : []),
  'follows',
])
const answers = ref<PracticeAnswers>({
  sight: null,
  test: null,
  cause: null,
  amount: null,
  follows: null,
})
/** What is on its way to be judged. */
const trying = shallowRef<PracticeAnswers>()
const verdict = shallowRef<PracticeVerdict>()
const problem = shallowRef<Problem>()
const at = ref(0)
const amount = ref<number | null>(null)
const followed = ref<number[]>([])
const card = useTemplateRef<HTMLElement>('card')

const step = computed(() => steps.value[at.value] ?? 'follows')
const judged = computed(() => verdict.value?.[step.value] ?? undefined)
const choices = computed(
  () =>
    ({
      sight: props.fitting.sights,
      test: props.fitting.tests,
      cause: props.fitting.causes,
      amount: [] as string[],
      follows: props.fitting.follows,
    })[step.value],
)
const chosen = computed<number[]>(() => {
  if (step.value === 'follows') return followed.value
  const own = (trying.value ?? answers.value)[step.value]
  return typeof own === 'number' ? [own] : []
})
const isLast = computed(() => at.value === steps.value.length - 1)

/** Has one answer judged. One that could not be sent is no answer: it is given again. */
async function ask(answer: Partial<PracticeAnswers>): Promise<void> {
  if (trying.value || judged.value) return
  const given = (trying.value = { ...answers.value, ...answer })
  const { difficulty, seed } = props.fitting
  const result = await send(post('/api/practice/fitting', { body: { difficulty, seed, answers: given } }))
  trying.value = undefined
  problem.value = result.ok ? undefined : result.problem
  if (!result.ok) return
  answers.value = given
  verdict.value = result.value
  if (result.value.truth) emit('done')
}

function choose(which: number): void {
  if (step.value !== 'follows') void ask({ [step.value]: which })
  else if (!judged.value)
    followed.value = followed.value.includes(which)
      ? followed.value.filter((each) => each !== which)
      : [...followed.value, which]
}

async function confirm(): Promise<void> {
  if (judged.value) await goOn()
  else if (step.value === 'follows') await ask({ follows: [...followed.value] })
  else if (step.value === 'amount' && (await fieldsRead()) && amount.value !== null)
    await ask({ amount: amount.value })
}

async function goOn(): Promise<void> {
  if (isLast.value) {
    emit('next')
    return
  }
  at.value += 1
  await nextTick()
  // A thumb sees the question, a keyboard goes on where it is.
  card.value?.scrollIntoView({ block: 'nearest' })
}

useQuestionKeys(card, () => [step.value, judged.value], confirm)
</script>

<template>
  <div class="exercise">
    <section class="stack on-her" aria-label="What is on her">
      <p class="soft">She has {{ fitting.worn }} on. Number {{ fitting.seed }}, {{ fitting.difficulty }}.</p>
      <PracticeFigureDrawing :figure="fitting.figure" />
      <p v-if="fitting.figure.levels.length" class="small soft">
        In blue a level line, drawn three times as steep as it hangs; dashed where it would hang level.
        {{
          fitting.figure.heights
            .filter(({ off }) => off.mm !== 0)
            .map(({ at: where, off }) => `${where} ${off.text} ${unit}`)
            .join('; ') || 'It hangs level.'
        }}
      </p>
      <ul v-if="verdict?.sight" class="seen">
        <li v-for="(says, index) in fitting.seen" :key="says">
          <strong>{{ String.fromCharCode(65 + index) }}</strong> {{ says }}
        </li>
      </ul>
    </section>
    <section
      ref="card"
      class="card stack asked"
      tabindex="-1"
      :aria-label="`Step ${at + 1} of ${steps.length}`"
    >
      <p class="small soft">Step {{ at + 1 }} of {{ steps.length }}</p>
      <h2>{{ ASKS[step] }}</h2>
      <LengthField
        v-if="step === 'amount' && !judged"
        v-model="amount"
        :label="fitting.amount ?? ''"
        optional
      />
      <p v-if="step === 'amount'" class="small soft">More is plus, less is minus.</p>
      <ChoiceList v-else :choices="choices" :chosen="chosen" :done="judged !== undefined" @choose="choose" />
      <StepVerdictLine v-if="judged" :verdict="judged" />
      <ProblemNote :problem="problem" />
      <div v-if="verdict?.truth && isLast" class="stack truth">
        <h3>What it was</h3>
        <p v-for="says in verdict.truth.causes" :key="says">
          <strong>{{ says }}</strong>
        </p>
        <p>{{ verdict.truth.why }}</p>
        <p v-if="verdict.truth.speaks_for.length" class="small">
          For it: {{ verdict.truth.speaks_for.join('; ') }}.
        </p>
        <p v-if="verdict.truth.against_yours.length" class="small">
          Against what you named: {{ verdict.truth.against_yours.join('; ') }}
        </p>
        <p class="small"><strong>How to tell it.</strong> {{ verdict.truth.test }}</p>
        <p v-if="verdict.truth.misread" class="small">{{ verdict.truth.misread }}</p>
        <p>
          <strong>{{ Math.round(verdict.score * 100) }} %</strong> of it was right.
        </p>
      </div>
      <div v-if="judged || step === 'amount' || step === 'follows'" class="row">
        <ElButton type="primary" @click="confirm">{{
          judged ? (isLast ? 'Another one' : 'On') : step === 'amount' ? 'That much' : 'That is all'
        }}</ElButton>
        <span class="small soft">Enter</span>
      </div>
    </section>
    <section v-if="fitting.readings.length" class="readings" aria-label="Her figures">
      <details v-if="fitting.readings.length" open>
        <summary>Her figures, with ease, against the pattern</summary>
        <table>
          <thead>
            <tr>
              <th scope="col">Figure</th>
              <th scope="col" class="num">Hers</th>
              <th scope="col" class="num">Pattern</th>
              <th scope="col" class="num">Off</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in fitting.readings" :key="row.figure">
              <th scope="row">{{ row.name }}</th>
              <td class="num">{{ row.hers.text }}</td>
              <td class="num">{{ row.pattern.text }}</td>
              <td class="num">{{ row.off.text }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="fitting.difficulty !== 'easy'" class="small soft">One of them may have been read wrong.</p>
      </details>
    </section>
  </div>
</template>

<style scoped>
.exercise {
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: 1.6rem;
  grid-template-areas: 'figure asked' 'readings asked';
  grid-template-rows: auto 1fr;
  align-items: start;
}
.on-her {
  grid-area: figure;
}
.readings {
  grid-area: readings;
}
.asked {
  grid-area: asked;
  position: sticky;
  top: 1rem;
}
.asked:focus {
  outline: none;
}
.asked p,
.asked h2 {
  margin: 0;
}
.seen {
  list-style: none;
  margin: 0;
  padding: 0;
}
summary {
  cursor: pointer;
  font-weight: 700;
}
.truth {
  border-top: 1px solid var(--rule);
  padding-top: 0.8rem;
}
.truth h3 {
  margin: 0;
}
@media (max-width: 900px) {
  .exercise {
    grid-template-columns: minmax(0, 1fr);
    grid-template-areas: 'figure' 'asked' 'readings';
    grid-template-rows: auto;
  }
  .asked {
    position: static;
  }
}
</style>
