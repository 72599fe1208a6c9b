<script setup lang="ts">
/** One tape exercise: a mark to read, a tape that lies wrong, or a figure in the wrong unit. */
import { ElButton } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { post, send } from '@/api/client'
import type { Difficulty, Problem, TapeAnswer, TapeExercise, TapeVerdict } from '@/api/types'
import FigureBody from '@/components/FigureBody.vue'
import LengthField from '@/components/LengthField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHouse } from '@/composables/useHouse'
import { useQuestionKeys } from '@/composables/useQuestionKeys'
import { fieldsRead } from '@/composables/usePendingFields'
import ChoiceList from './ChoiceList.vue'
import StepVerdictLine from './StepVerdictLine.vue'

const props = defineProps<{ exercise: TapeExercise; difficulty: Difficulty }>()
const emit = defineEmits<{ done: []; next: [] }>()
const { unit } = useHouse()
const read = ref<number | null>(null)
const chosen = ref<number>()
const verdict = shallowRef<TapeVerdict>()
const problem = shallowRef<Problem>()
const card = useTemplateRef<HTMLElement>('card')

const choices = computed(() =>
  props.exercise.placed.length
    ? props.exercise.placed.map(({ name }) => name)
    : props.exercise.column.map(({ name, written }) => `${name}: ${written} ${unit.value}`),
)
const box = computed(() => {
  const figure = props.exercise.figure
  if (!figure) return ''
  const { x, y, width, height } = figure.upper
  return `${x} ${y} ${width} ${height}`
})

let asked = false
async function answer(given: TapeAnswer): Promise<void> {
  if (asked) return
  asked = true
  const { kind, seed } = props.exercise
  const result = await send(
    post('/api/practice/tape', { body: { kind, seed, difficulty: props.difficulty, answer: given } }),
  )
  problem.value = result.ok ? undefined : result.problem
  asked = result.ok
  if (!result.ok) return
  verdict.value = result.value
  emit('done')
}

function choose(at: number): void {
  if (asked) return
  chosen.value = at
  void answer({ which: at })
}

async function confirm(): Promise<void> {
  if (verdict.value) {
    emit('next')
    return
  }
  if (!props.exercise.tape || !(await fieldsRead()) || read.value === null) return
  await answer({ reads: read.value })
}

useQuestionKeys(card, () => verdict.value, confirm)
</script>

<template>
  <div class="exercise">
    <section v-if="exercise.tape || exercise.figure" aria-label="The tape">
      <svg
        v-if="exercise.tape"
        :viewBox="`0 0 ${exercise.tape.width} 30`"
        class="tape"
        role="img"
        aria-label="A tape with a pin"
      >
        <rect x="0" y="6" :width="exercise.tape.width" height="22" class="band" />
        <template v-for="mark in exercise.tape.marks" :key="mark.x">
          <line :x1="mark.x" :x2="mark.x" y1="28" :y2="28 - 9 * mark.long" class="mark" />
          <text v-if="mark.number" :x="mark.x + 0.8" y="16" class="number">{{ mark.number }}</text>
        </template>
        <line :x1="exercise.tape.at" :x2="exercise.tape.at" y1="0" y2="28" class="pin" />
        <circle :cx="exercise.tape.at" cy="1.6" r="1.6" class="head" />
      </svg>
      <svg v-else-if="exercise.figure" :viewBox="box" class="body" role="img" aria-label="Tapes on a figure">
        <FigureBody :figure="exercise.figure" />
        <g v-for="(placed, at) in exercise.placed" :key="placed.name">
          <path :d="placed.line.path" class="laid" />
          <circle
            :cx="(placed.line.points.at(-1)?.x ?? 0) + 24"
            :cy="placed.line.points.at(-1)?.y"
            r="17"
            class="disc"
          />
          <text
            :x="(placed.line.points.at(-1)?.x ?? 0) + 24"
            :y="(placed.line.points.at(-1)?.y ?? 0) + 9"
            text-anchor="middle"
            class="which"
          >
            {{ at + 1 }}
          </text>
        </g>
      </svg>
    </section>
    <section ref="card" class="card stack asked" tabindex="-1" aria-label="The question">
      <h2>{{ exercise.asks }}</h2>
      <LengthField v-if="exercise.tape && !verdict" v-model="read" label="The tape says" optional />
      <ChoiceList
        v-if="!exercise.tape"
        :choices="choices"
        :chosen="chosen === undefined ? [] : [chosen]"
        :done="verdict !== undefined"
        @choose="choose"
      />
      <StepVerdictLine v-if="verdict" :verdict="verdict.verdict" />
      <ProblemNote :problem="problem" />
      <div v-if="verdict || exercise.tape" class="row">
        <ElButton type="primary" @click="confirm">{{ verdict ? 'Another one' : 'That is it' }}</ElButton>
        <span class="small soft">Enter</span>
      </div>
    </section>
  </div>
</template>

<style scoped>
.exercise {
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: 1.6rem;
  align-items: start;
}
.tape,
.body {
  display: block;
  width: 100%;
}
.body {
  max-height: 34rem;
}
.band {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 0.25;
}
.mark {
  stroke: var(--ink);
  stroke-width: 0.3;
}
.number {
  font-size: 5px;
  fill: var(--ink);
}
.pin {
  stroke: var(--madder);
  stroke-width: 0.35;
}
.head {
  fill: var(--madder);
}
.laid {
  fill: none;
  stroke: var(--woad);
  stroke-width: 5;
}
.disc {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2;
}
.which {
  font-size: 26px;
  font-weight: 700;
  fill: var(--ink);
}
.asked:focus {
  outline: none;
}
h2 {
  margin: 0;
}
@media (max-width: 900px) {
  .exercise {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
