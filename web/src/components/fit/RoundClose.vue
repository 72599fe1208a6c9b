<script setup lang="ts">
/** The end of a round: comfort, postures, pins counted back, and what it makes. */
import { ElButton, ElInput } from 'element-plus'
import { shallowRef } from 'vue'
import { RouterLink } from 'vue-router'
import { post } from '@/api/client'
import type { OrderView, Posture, Problem, RoundView } from '@/api/types'
import FootBar from '@/components/FootBar.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useKept } from '@/composables/useKept'

const props = defineProps<{
  round: RoundView
  order: OrderView
  undecided: number
  unmarked: number
  /** Sends what waits; resolves with how many entries are still not at the server. */
  flush: () => Promise<number>
  /** Keeps what is noted beside the observations. */
  aside: (change: Record<string, unknown>) => Promise<Problem | undefined>
}>()
const emit = defineEmits<{ closed: []; reopened: [] }>()
const { craft, may } = useHouse()
const problem = shallowRef<Problem>()
const text = (count?: number | null) => (count === undefined || count === null ? '' : String(count))
const { entry, touch, settle, begunFrom, goesOnFrom } = useKept(() => ({
  comfort: props.round.comfort,
  postures: [...props.round.postures] as Posture[],
  pins_out: text(props.round.pins_out),
  pins_back: text(props.round.pins_back),
}))

async function keep(key: keyof typeof entry, change: Record<string, unknown>): Promise<void> {
  const sent = entry[key]
  problem.value = await props.aside(change)
  if (!problem.value) settle(key, sent)
}

/** Her words: what somebody else wrote meanwhile is told, and both stay until they are one. */
async function keepComfort(): Promise<void> {
  const [words, was] = [entry.comfort, begunFrom('comfort')]
  goesOnFrom('comfort', words)
  await keep('comfort', { comfort: words, comfort_was: was })
  const theirs = problem.value?.current as unknown
  if (typeof theirs === 'string') goesOnFrom('comfort', theirs)
}

function keepPins(which: 'pins_out' | 'pins_back', typed: string): void {
  const count = Number(typed)
  if (typed.trim() === '' || !Number.isInteger(count) || count < 0) {
    problem.value = { type: '', title: 'Pins', status: 0, detail: 'count them in whole numbers, such as 24' }
    return
  }
  void keep(which, { [which]: count })
}

const {
  run: close,
  busy,
  problem: unclosed,
} = useAction(
  async () => {
    problem.value = undefined
    // What was typed a moment ago goes first.
    const waiting = await props.flush()
    if (waiting) {
      const detail = 'some entries wait for the line: close it when everything is at the server'
      problem.value = { type: '', title: 'Not yet', status: 0, detail }
      return undefined
    }
    return post('/api/rounds/{id}/close', { params: { path: { id: props.round.id } } })
  },
  () => emit('closed'),
)
const { run: reopen, problem: unopened } = useAction(
  () => post('/api/rounds/{id}/reopen', { params: { path: { id: props.round.id } } }),
  () => emit('reopened'),
  { repeats: true },
)
</script>

<template>
  <section class="card stack close" aria-labelledby="close-title">
    <h2 id="close-title">{{ round.closed_at ? 'Closed' : 'Close the round' }}</h2>
    <template v-if="!round.closed_at">
      <div class="field">
        <label for="comfort">Comfort, in her words</label>
        <ElInput
          id="comfort"
          v-model="entry.comfort"
          type="textarea"
          :rows="2"
          maxlength="1000"
          @input="touch('comfort')"
          @change="keepComfort"
        />
      </div>
      <fieldset class="chips">
        <legend class="legend">Postures tried</legend>
        <label v-for="each in craft?.postures" :key="each.posture" class="chip">
          <input
            v-model="entry.postures"
            type="checkbox"
            :value="each.posture"
            @change="(touch('postures'), keep('postures', { postures: [...entry.postures] }))"
          /><span>{{ each.name }}</span>
        </label>
      </fieldset>
      <div class="pins">
        <div class="field">
          <label for="pins-out">Pins put in</label>
          <input
            id="pins-out"
            v-model="entry.pins_out"
            class="plain figure"
            type="text"
            inputmode="numeric"
            autocomplete="off"
            @input="touch('pins_out')"
            @change="keepPins('pins_out', entry.pins_out)"
          />
        </div>
        <div class="field">
          <label for="pins-back">Pins taken out again</label>
          <input
            id="pins-back"
            v-model="entry.pins_back"
            class="plain figure"
            type="text"
            inputmode="numeric"
            autocomplete="off"
            @input="touch('pins_back')"
            @change="keepPins('pins_back', entry.pins_back)"
          />
        </div>
      </div>
      <p class="soft">
        <template v-if="unmarked">{{ unmarked }} from before still to mark. </template>
        <template v-if="undecided">{{ undecided }} still to decide. </template>
        Decided alterations become the next version of the pattern; what is left or watched stays in the
        story.
      </p>
      <ProblemNote :problem="problem ?? unclosed" />
      <FootBar>
        <ElButton type="primary" :aria-busy="busy" @click="close">Close round {{ round.number }}</ElButton>
      </FootBar>
    </template>
    <template v-else>
      <p v-if="round.comfort">“{{ round.comfort }}”</p>
      <p v-if="round.postures.length" class="small soft">
        Postures tried:
        {{
          craft?.postures
            .filter((each) => round.postures.includes(each.posture))
            .map((each) => each.name)
            .join(', ')
        }}.
      </p>
      <p v-if="round.made_version">
        It made version {{ round.made_version }} of the pattern.
        <RouterLink :to="{ name: 'toile', params: { id: order.id } }">Cut the next toile</RouterLink>.
      </p>
      <p v-else>Nothing was altered.</p>
      <p v-if="order.round_id === round.id" class="soft">
        Closed too soon? While nothing was done after it, it can be opened again; a version it made is
        withdrawn.
      </p>
      <ProblemNote :problem="unopened" />
      <div v-if="order.round_id === round.id && may('fitting')">
        <ElButton @click="reopen">Open round {{ round.number }} again</ElButton>
      </div>
    </template>
  </section>
</template>

<style scoped>
.close {
  max-width: 46rem;
}
.pins {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 11rem));
  gap: 0.8rem;
}
</style>
