<script setup lang="ts">
/**
 * Heights of one level line at four stations: its tilt, where it rises or sinks, and what levels it. In a round the
 * heights are kept as they are typed; without one (a form, a skirt on a stand) nothing is kept.
 */
import { ElButton, ElInput } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { post, put, send } from '@/api/client'
import type { Balance, BalanceLine, Levelling, Problem, RoundView, Station } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import StripField from '@/components/StripField.vue'
import { useHouse } from '@/composables/useHouse'
import { useKept } from '@/composables/useKept'
import type { UseOutboxReturn } from '@/composables/useOutbox'
import BalanceDrawing from './BalanceDrawing.vue'
import { decidedFor } from './decided'

const props = defineProps<{
  round?: RoundView
  closed?: boolean
  /** Sends a write of the round; resolves with why it was turned down. */
  write?: UseOutboxReturn['send']
}>()
const { unit } = useHouse()

const LINES: { value: BalanceLine; name: string }[] = [
  { value: 'bust', name: 'Bust line' },
  { value: 'waist', name: 'Waist line' },
  { value: 'hip', name: 'Hip line' },
  { value: 'hem', name: 'Hem' },
]
const STATIONS: { key: 'front' | 'left' | 'right' | 'back'; station: Station; name: string }[] = [
  { key: 'front', station: 'centre_front', name: 'Centre front' },
  { key: 'left', station: 'left', name: 'Her left' },
  { key: 'right', station: 'right', name: 'Her right' },
  { key: 'back', station: 'centre_back', name: 'Centre back' },
]
const KEYS = [...STATIONS.map((each) => each.key), 'caught'] as const
const line = ref<BalanceLine>('waist')
const read = shallowRef<Balance | null>()
const problem = shallowRef<Problem>()
const busy = ref(false)

const kept = computed(() => props.round?.lines.find((each) => each.line === line.value))
const { entry, touch, settle, reset } = useKept(() => {
  const [front = '', left = '', right = '', back = ''] = kept.value?.texts ?? []
  return { front, left, right, back, caught: [...(kept.value?.caught ?? [])] as Station[] }
})
watch(line, () => {
  reset()
  problem.value = undefined
})
watch([line, () => kept.value?.read], () => (read.value = kept.value?.read ?? undefined), { immediate: true })

async function change(): Promise<void> {
  const asked = { ...entry, caught: [...entry.caught] }
  const of = line.value
  // Into the outbox before anything is waited for: what was typed later is sent later.
  const sending =
    props.round &&
    props.write?.(
      put('/api/rounds/{id}/lines/{line}', {
        params: { path: { id: props.round.id, line: of } },
        body: asked,
      }),
    )
  const result = await send(post('/api/balance', { body: asked }))
  const unread = result.ok || result.problem.status === 0 ? undefined : result.problem
  const refused = sending ? await sending : unread
  if (of !== line.value) return
  if (result.ok) read.value = result.value
  problem.value = refused
  if (!refused) for (const key of KEYS) settle(key, asked[key])
}

async function take(solution: Levelling): Promise<void> {
  if (!props.round || !props.write) return
  busy.value = true
  const params = { path: { id: props.round.id, line: line.value } }
  const { station } = solution
  problem.value = await props.write(
    post('/api/rounds/{id}/lines/{line}/levelling', { params, body: { station } }),
  )
  busy.value = false
}
/** A levelling that is already in the round's decisions. */
const isTaken = (solution: Levelling) =>
  Boolean(props.round && decidedFor(props.round.observations, solution, solution.alteration))
</script>

<template>
  <div class="card stack">
    <StripField v-model="line" label="Which line" :choices="LINES" />
    <div class="bench" :class="{ alone: !round }">
      <div class="stack">
        <p class="small soft">Height of the line above the floor at each station, {{ unit }}.</p>
        <div class="heights">
          <div v-for="each in STATIONS" :key="each.key" class="station">
            <div class="field">
              <label :for="`height-${each.key}`">{{ each.name }}</label>
              <ElInput
                :id="`height-${each.key}`"
                v-model="entry[each.key]"
                :disabled="closed"
                autocomplete="off"
                @input="touch(each.key)"
                @change="change"
              />
            </div>
            <label class="small caught"
              ><input
                v-model="entry.caught"
                type="checkbox"
                :value="each.station"
                :disabled="closed"
                @change="(touch('caught'), change())"
              />
              caught<span class="visually-hidden"> at the {{ each.name.toLowerCase() }}</span></label
            >
          </div>
        </div>
        <ProblemNote :problem="problem" />
        <div role="status" class="stack said">
          <p v-if="!read" class="soft">Give the line at two stations at least.</p>
          <template v-else>
            <p v-if="read.level">Level.</p>
            <p v-for="says in read.says" :key="says">{{ says }}</p>
            <p v-if="read.tilt_front_back || read.tilt_left_right" class="small soft">
              <span v-if="read.tilt_front_back"
                >Front less back <b class="figure">{{ read.tilt_front_back.text }}</b> {{ unit }}</span
              ><span v-if="read.tilt_left_right"
                >{{ read.tilt_front_back ? ', left' : 'Left' }} less right
                <b class="figure">{{ read.tilt_left_right.text }}</b> {{ unit }}</span
              >.
            </p>
          </template>
        </div>
        <ol v-if="round && read?.solutions.length && line !== 'hem'" class="solutions">
          <li v-for="solution in read.solutions" :key="solution.says">
            <p>
              {{ solution.says }}
              <span class="soft small"
                >Left then: <b class="figure">{{ solution.residual.text }}</b> {{ unit }}.</span
              >
            </p>
            <ElButton v-if="!closed" :disabled="busy || isTaken(solution)" @click="take(solution)">
              {{ isTaken(solution) ? 'Taken' : `Take ${solution.alteration_name.toLowerCase()}` }}
            </ElButton>
          </li>
        </ol>
        <p v-if="line === 'hem' && read && !read.level" class="small soft">
          A hem is levelled by marking it: see below.
        </p>
      </div>
      <BalanceDrawing v-if="round" :round="round" :line="line" :read="read ?? undefined" />
    </div>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 1.4rem;
  align-items: start;
}
.bench.alone {
  grid-template-columns: minmax(0, 1fr);
}
.heights {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0.8rem;
}
.caught {
  display: flex;
  gap: 0.4rem;
  align-items: center;
  min-height: 2.2rem;
}
.said {
  gap: 0.3rem;
}
.solutions {
  list-style: none;
  margin: 0;
  padding: 0;
}
.solutions li {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1rem;
  justify-content: space-between;
  align-items: center;
  border-top: 1px solid var(--rule);
  padding: 0.5rem 0;
}
.solutions p {
  flex: 1 1 14rem;
}
@media (max-width: 900px) {
  .bench {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
