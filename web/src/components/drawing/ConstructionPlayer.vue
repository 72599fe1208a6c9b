<script setup lang="ts">
/** A draft told step by step: forwards, backwards, or played; each step with its formula and figures. */
import { ElButton } from 'element-plus'
import { computed, onScopeDispose, ref, watch } from 'vue'
import PatternDrawing from './PatternDrawing.vue'
import type { DraftStepView, PieceDrawing } from '@/api/types'

const props = defineProps<{ steps: readonly DraftStepView[]; pieces: readonly PieceDrawing[] }>()
/** From step to step when it is played, in milliseconds. */
const PACE = 1400

const at = ref(0)
const playing = ref(false)
let timer: ReturnType<typeof setInterval> | undefined

const step = computed(() => props.steps[at.value])
const onPiece = (kind: string) =>
  props.steps.flatMap((each, index) => (each.piece === kind && index <= at.value ? [{ each, index }] : []))

watch(
  () => props.steps.length,
  (count) => (at.value = Math.min(at.value, Math.max(0, count - 1))),
)

function go(to: number): void {
  at.value = Math.min(props.steps.length - 1, Math.max(0, to))
}

function stop(): void {
  clearInterval(timer)
  playing.value = false
}

function play(): void {
  if (playing.value) {
    stop()
    return
  }
  if (at.value === props.steps.length - 1) at.value = 0
  playing.value = true
  timer = setInterval(() => {
    if (at.value >= props.steps.length - 1) stop()
    else at.value += 1
  }, PACE)
}
onScopeDispose(stop)
</script>

<template>
  <div v-if="step" class="player">
    <PatternDrawing :pieces="pieces" ghost>
      <template #on="{ piece }">
        <g v-for="{ each, index } in onPiece(piece.kind)" :key="index" :class="index === at ? 'now' : 'done'">
          <path v-for="(path, line) in each.paths" :key="line" :d="path" />
          <g v-for="point in each.points" :key="point.name" class="mark">
            <circle :cx="point.at.x" :cy="point.at.y" r="2.6" />
            <text :x="point.at.x + 5" :y="point.at.y - 4">{{ point.name }}</text>
          </g>
        </g>
      </template>
    </PatternDrawing>
    <section class="stack words" aria-label="Construction">
      <div class="row">
        <ElButton size="small" :disabled="at === 0" @click="go(at - 1)">Back</ElButton>
        <ElButton size="small" type="primary" @click="play">{{ playing ? 'Hold' : 'Play' }}</ElButton>
        <ElButton size="small" :disabled="at === steps.length - 1" @click="go(at + 1)">Next step</ElButton>
      </div>
      <label class="slider">
        <span class="visually-hidden">Step</span>
        <input v-model.number="at" type="range" min="0" :max="steps.length - 1" />
        <span class="figure">{{ at + 1 }} of {{ steps.length }}</span>
      </label>
      <div aria-live="polite" class="stack">
        <h3>{{ step.piece_name }}</h3>
        <p>{{ step.title }}</p>
        <dl v-for="line in step.lines" :key="line.name">
          <dt>
            {{ line.name }} <strong class="figure">{{ line.rounded }}</strong>
            <span class="soft figure small"> exactly {{ line.exact }}</span>
          </dt>
          <dd class="small">
            {{ line.formula }}<br /><span class="soft">{{ line.put_in }}</span>
          </dd>
        </dl>
      </div>
    </section>
  </div>
</template>

<style scoped>
.player {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 22rem;
  gap: 1.4rem;
  align-items: start;
}
.done path,
.now path {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 0.8;
}
.now path {
  stroke: var(--woad);
  stroke-width: 2.2;
}
.mark circle {
  fill: var(--cloth);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.now .mark circle {
  fill: var(--woad);
  stroke: var(--woad);
}
.mark text {
  font: 10px var(--sans);
  fill: var(--ink);
}
.now .mark text {
  font-weight: 700;
}
.slider {
  display: flex;
  gap: 0.7rem;
  align-items: center;
}
.slider input {
  flex: 1;
  accent-color: var(--ink);
}
dl {
  margin: 0;
  border-top: 1px solid var(--rule);
  padding-top: 0.4rem;
}
dd {
  margin: 0;
  line-height: 1.35;
}
@media (max-width: 900px) {
  .player {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
