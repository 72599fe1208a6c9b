<script setup lang="ts">
/** A figure traced between the sizes of a nest: the dots it passed, the others crossed out, the shoulder hers. */
import { ElButton, ElInput } from 'element-plus'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { get, post, send } from '@/api/client'
import type { Garment, Problem, TraceAsk, TracePreview } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import BlockSheet from '@/components/drawing/BlockSheet.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ blockId: number; garment: Garment }>()
/** The girths that a nest of each garment is traced by. */
const GIRTHS: Record<Garment, { value: NonNullable<TraceAsk['by']>; label: string }[]> = {
  bodice: [
    { value: 'upper_bust', label: 'upper bust' },
    { value: 'bust', label: 'bust' },
  ],
  skirt: [{ value: 'hip', label: 'hip' }],
  // A card has no lines to trace between.
  trousers: [],
}
const router = useRouter()
const { units } = useHouse()
const entry = reactive({
  client: undefined as number | undefined,
  by: (props.garment === 'skirt' ? 'hip' : 'upper_bust') as NonNullable<TraceAsk['by']>,
  girth: '',
  shoulder: true,
  why: '',
})
const { data: clients } = useResource(get('/api/clients'))
const trace = shallowRef<TracePreview>()
const problem = shallowRef<Problem>()
const keeping = ref(false)

const ask = computed(() => ({
  by: entry.by,
  girth: entry.girth.trim() || null,
  client: entry.client ?? null,
  shoulder: entry.shoulder && entry.client !== undefined && props.garment === 'bodice',
}))
const ready = computed(() => ask.value.girth !== null || ask.value.client !== null)

let running: AbortController | undefined
watch(
  ask,
  async (wanted) => {
    running?.abort()
    if (!ready.value) {
      trace.value = undefined
      problem.value = undefined
      return
    }
    const { signal } = (running = new AbortController())
    const result = await send(
      post('/api/blocks/{id}/trace', { params: { path: { id: props.blockId } }, body: wanted }),
      { signal },
    )
    if (signal.aborted) return
    problem.value = result.ok ? undefined : result.problem
    trace.value = result.ok ? result.value : undefined
  },
  { immediate: true },
)

/** Room for every dot: a larger size reaches beyond the trace. */
const room = computed(() => {
  const boxes: Record<string, { x: number; y: number; width: number; height: number }> = {}
  for (const { piece } of trace.value?.dots ?? []) {
    if (boxes[piece]) continue
    const at = trace.value?.dots.filter((dot) => dot.piece === piece).map((dot) => dot.at) ?? []
    const [xs, ys] = [at.map(({ x }) => x), at.map(({ y }) => y)]
    const [x, y] = [Math.min(...xs), Math.min(...ys)]
    boxes[piece] = { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y }
  }
  return boxes
})

const {
  run: keep,
  busy,
  problem: unkept,
} = useAction(
  () =>
    post('/api/blocks/{id}/traces', {
      params: { path: { id: props.blockId } },
      body: { ...ask.value, why: entry.why },
    }),
  (made) => router.push({ name: 'block', params: { id: made.id } }),
)
</script>

<template>
  <section class="stack" aria-labelledby="trace-title">
    <h2 id="trace-title">Trace between the sizes</h2>
    <form class="card controls" @submit.prevent="keeping ? keep() : (keeping = true)">
      <ChoiceField
        id="trace-client"
        v-model="entry.client"
        label="For"
        none="the house, no client"
        :choices="clients?.items.map(({ id, name }) => ({ value: id, label: name })) ?? []"
      />
      <ChoiceField id="trace-by" v-model="entry.by" label="By" :choices="GIRTHS[garment]" />
      <div class="field">
        <label for="trace-girth">At, in {{ units }}</label>
        <input
          id="trace-girth"
          v-model.lazy="entry.girth"
          class="plain figure"
          type="text"
          autocomplete="off"
          :placeholder="entry.client ? 'hers' : ''"
        />
      </div>
      <label v-if="entry.client && garment === 'bodice'" class="tick"
        ><input v-model="entry.shoulder" type="checkbox" /> shoulder set to hers</label
      >
      <template v-if="trace">
        <div v-if="keeping" class="field why">
          <label for="trace-why">Why it is traced</label>
          <ElInput id="trace-why" v-model="entry.why" maxlength="400" />
        </div>
        <ElButton native-type="submit" type="primary" :aria-busy="busy">Keep the trace</ElButton>
      </template>
    </form>
    <ProblemNote :problem="problem ?? unkept" />
    <p v-if="!ready" class="soft">Choose a client, or type a girth, and the nest is traced at once.</p>
    <template v-if="trace">
      <p>{{ trace.says }} <span class="soft">The master stays as it is.</span></p>
      <BlockSheet :drawn="trace.drawn" :room="room">
        <template #on="{ piece }">
          <g class="nest" aria-hidden="true">
            <template v-for="size in trace.around" :key="size.size">
              <template v-for="around in size.pieces" :key="around.kind">
                <path v-if="around.kind === piece.kind" :d="around.outline" class="around" />
              </template>
            </template>
            <path
              v-for="(line, index) in trace.lines.filter((each) => each.piece === piece.kind)"
              :key="`l${index}`"
              :d="line.path"
              class="grade"
            />
            <template
              v-for="(dot, index) in trace.dots.filter((each) => each.piece === piece.kind)"
              :key="`d${index}`"
            >
              <circle v-if="dot.used" :cx="dot.at.x" :cy="dot.at.y" r="2.2" class="used">
                <title>size {{ dot.size }}</title>
              </circle>
              <path v-else :d="`M${dot.at.x - 2} ${dot.at.y - 2}l4 4m0 -4l-4 4`" class="crossed" />
            </template>
          </g>
        </template>
      </BlockSheet>
    </template>
  </section>
</template>

<style scoped>
.controls {
  display: flex;
  flex-wrap: wrap;
  gap: 0.7rem 1.1rem;
  align-items: end;
}
.controls .field {
  flex: 1 1 10rem;
}
.controls .why {
  flex-basis: 20rem;
}
.tick {
  min-height: 2.2rem;
  display: flex;
  gap: 0.4rem;
  align-items: center;
}
.tick input {
  width: 1.1rem;
  height: 1.1rem;
  accent-color: var(--ink);
}
.around {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 0.7;
  stroke-dasharray: 4 3;
}
.grade {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 0.4;
}
.used {
  fill: var(--woad);
}
.crossed {
  fill: none;
  stroke: var(--madder);
  stroke-width: 0.7;
}
</style>
