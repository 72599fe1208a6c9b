<script setup lang="ts">
/** Everything there is to mark on a piece, in one walk round it: what is there, what is asked for now, what is still missing. */
import { computed } from 'vue'
import { isRun, isThere, mostOf, nameOf, placesOf, same } from './marks'
import type { Step } from './marks'
import type { PieceInHand } from '@/api/types'

const props = defineProps<{
  piece: PieceInHand
  steps: readonly Step[]
  current?: Step | undefined
  /** Marks that are asked about. */
  doubted?: readonly string[]
}>()
const emit = defineEmits<{ choose: [step: Step] }>()

const rows = computed(() =>
  props.steps.map((step) => {
    const count = placesOf(props.piece, step).length
    const there = isThere(props.piece, step)
    const needed = step.kind === 'sheet' || (step.kind === 'mark' && step.wanted.need === 'needed')
    const amount =
      step.kind !== 'mark'
        ? `${count} of ${mostOf(step)}`
        : isRun(step.wanted)
          ? `${count} ${count === 1 ? 'dot' : 'dots'}${count && !there ? `, at least ${step.wanted.least_dots ?? 1}` : ''}`
          : ''
    return {
      step,
      there,
      needed,
      amount: count ? amount : '',
      need: step.kind === 'sheet' ? 'needed' : step.kind === 'tape' ? 'helps' : step.wanted.need,
      place:
        step.kind === 'sheet'
          ? 'its corners, one after the other round it'
          : step.kind === 'tape'
            ? 'two places on it, as far apart as you can read'
            : step.wanted.place,
      doubted: step.kind === 'mark' && (props.doubted ?? []).includes(step.wanted.mark),
    }
  }),
)
const missing = computed(() => rows.value.filter((row) => row.needed && !row.there).length)
const done = computed(() => rows.value.filter((row) => row.there).length)
</script>

<template>
  <div class="stack list">
    <p class="small" role="status">
      {{ done }} of {{ rows.length }} there<template v-if="missing"
        >,
        <strong class="decide"
          >{{ missing }} needed {{ missing === 1 ? 'is' : 'are' }} missing</strong
        ></template
      >.
    </p>
    <ol>
      <li
        v-for="row in rows"
        :key="nameOf(row.step)"
        :class="{ there: row.there, current: same(current, row.step) }"
      >
        <button
          type="button"
          :aria-current="same(current, row.step) ? 'step' : undefined"
          @click="emit('choose', row.step)"
        >
          <span class="tick" aria-hidden="true">{{ row.there ? '✓' : row.needed ? '+' : '·' }}</span>
          <span class="words">
            <span class="name"
              >{{ nameOf(row.step) }} <span v-if="row.doubted" class="decide small">asked about</span></span
            >
            <span class="small soft"
              >{{ row.place }}<template v-if="row.amount">: {{ row.amount }}</template
              ><template v-if="!row.there">. {{ row.need }}</template></span
            >
          </span>
        </button>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.list {
  gap: 0.4rem;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: min(66vh, 820px);
  overflow-y: auto;
  border-top: 1px solid var(--rule);
}
li {
  border-bottom: 1px solid var(--rule);
}
button {
  display: flex;
  gap: 0.5rem;
  width: 100%;
  padding: 0.35rem 0.3rem;
  font: inherit;
  text-align: left;
  color: inherit;
  background: none;
  border: 0;
  border-left: 3px solid transparent;
  cursor: pointer;
}
.tick {
  flex: 0 0 1rem;
  font-weight: 700;
  text-align: center;
}
.there .tick {
  color: var(--woad);
}
.words {
  display: grid;
  min-width: 0;
}
.name::first-letter {
  text-transform: uppercase;
}
.current button {
  background: var(--sunk);
  border-left-color: var(--madder);
}
</style>
