<script setup lang="ts">
/** Seams walked along each other: one piece turned over and laid on the other, from end to end. */
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { post, send } from '@/api/client'
import type { PieceDrawing, Problem, Recipe, Walk } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import StripField from '@/components/StripField.vue'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{ pattern: number; recipe: Recipe; pieces: readonly PieceDrawing[] }>()

const { unit } = useHouse()
const walks = shallowRef<Walk[]>([])
const problem = shallowRef<Problem>()
const name = ref<string>()
const at = ref(0)
const playing = ref(false)
let clock: ReturnType<typeof setInterval> | undefined

watch(
  () => [props.pattern, JSON.stringify(props.recipe)] as const,
  async ([pattern]) => {
    const result = await send(
      post('/api/patterns/{id}/walks', { params: { path: { id: pattern } }, body: { recipe: props.recipe } }),
    )
    problem.value = result.ok ? undefined : result.problem
    if (result.ok) walks.value = result.value
  },
  { immediate: true },
)

const animated = computed(() => walks.value.filter((walk) => walk.frames.length > 0))
const key = (walk: Walk) => `${walk.name} ${walk.one}`
const walk = computed(() => animated.value.find((each) => key(each) === name.value) ?? animated.value[0])
const frame = computed(() => walk.value?.frames[Math.min(at.value, walk.value.frames.length - 1)])
const one = computed(() => props.pieces.find((piece) => piece.kind === walk.value?.one))
const other = computed(() => props.pieces.find((piece) => piece.kind === walk.value?.other))
/** Room for the piece that is walked, wherever it lies: its own size around the other. */
const box = computed(() => {
  if (!one.value || !other.value) return '0 0 400 400'
  const { x, y, width, height } = other.value.bounds
  const room = Math.max(one.value.bounds.width, 60)
  return `${x - 40} ${y - 60} ${width + room + 90} ${height + 130}`
})

function stop(): void {
  playing.value = false
  clearInterval(clock)
}

function play(): void {
  if (playing.value) {
    stop()
    return
  }
  playing.value = true
  at.value = 0
  clock = setInterval(() => {
    const last = (walk.value?.frames.length ?? 1) - 1
    if (at.value >= last) stop()
    else at.value += 1
  }, 90)
}

function choose(next: Walk): void {
  stop()
  name.value = key(next)
  at.value = 0
}
onScopeDispose(stop)
</script>

<template>
  <section class="stack" aria-labelledby="walk-title">
    <h2 id="walk-title">Walk the seams</h2>
    <ProblemNote :problem="problem" />
    <ul>
      <li v-for="each in walks" :key="key(each)" :class="{ decide: !each.joins }">{{ each.says }}</li>
    </ul>
    <template v-if="walk && one && other && frame">
      <StripField
        :model-value="walk"
        label="Seams"
        :choices="animated.map((each) => ({ value: each, name: each.name }))"
        plays="Walk"
        :playing="playing"
        @play="play"
        @update:model-value="choose"
      />
      <div class="field">
        <label for="walked"
          >Walked {{ frame.along.text }} {{ unit }} of {{ walk.one_length.text }} {{ unit }}</label
        >
        <input id="walked" v-model.number="at" type="range" min="0" :max="walk.frames.length - 1" step="1" />
      </div>
      <svg :viewBox="box" role="img" :aria-label="`${one.name} laid on ${other.name} along the ${walk.name}`">
        <g class="other">
          <path :d="other.outline" />
          <path v-for="(notch, index) in other.notches" :key="index" :d="notch" class="notch" />
        </g>
        <g class="one" :transform="`matrix(${frame.matrix.join(' ')})`">
          <path :d="one.outline" />
          <path v-for="(notch, index) in one.notches" :key="index" :d="notch" class="notch" />
        </g>
      </svg>
    </template>
  </section>
</template>

<style scoped>
ul {
  margin: 0;
  padding-left: 1.1rem;
}
svg {
  display: block;
  width: 100%;
  max-height: 56vh;
  background: var(--cloth);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
}
path {
  stroke-width: 1.3;
  vector-effect: non-scaling-stroke;
}
.other path {
  fill: var(--sunk);
  fill-opacity: 0.7;
  stroke: var(--ink);
}
.one path {
  fill: var(--woad-tint);
  fill-opacity: 0.35;
  stroke: var(--woad);
}
path.notch {
  fill: none;
  stroke-width: 2;
}
input[type='range'] {
  width: 100%;
  accent-color: var(--ink);
}
</style>
