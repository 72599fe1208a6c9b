<script setup lang="ts">
/** Long work in hand, whoever asked for it and whichever server does it; and what ended last. */
import { useIntervalFn } from '@vueuse/core'
import { computed } from 'vue'
import { get, post } from '@/api/client'
import type { JobView } from '@/api/types'
import JobLine from '@/components/JobLine.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { isInHand } from '@/composables/useJob'
import { useResource } from '@/composables/useResource'
import { asMoment } from '@/days'

/** So many are shown. */
const SHOWN = 5
/** How often what is in hand is looked at, in milliseconds. */
const LOOK = 2000

const { data: jobs, problem, reload } = useResource(get('/api/jobs'))
const shown = computed(() => jobs.value?.slice(0, SHOWN) ?? [])
useIntervalFn(() => void (shown.value.some(isInHand) && reload()), LOOK)
defineExpose({ reload })

const { run: stop, problem: goesOn } = useAction(
  (id: number) => post('/api/jobs/{id}/stop', { params: { path: { id } } }),
  () => reload(),
  { repeats: true },
)

function what(job: JobView): string {
  if (job.kind === 'backup') return 'A backup'
  return job.kind === 'import' ? `Readings from ${job.about}` : `All of ${job.about}’s as one file`
}
</script>

<template>
  <section v-if="shown.length" class="card stack" aria-labelledby="jobs-title">
    <h2 id="jobs-title">Long work</h2>
    <ProblemNote :problem="problem ?? goesOn" />
    <ul>
      <li v-for="job in shown" :key="job.id">
        <div class="told">
          <strong>{{ what(job) }}</strong>
          <span class="small soft">{{ job.asked_by }}, {{ asMoment(job.asked_at) }}</span>
        </div>
        <JobLine :job="job" @stop="stop(job.id)" />
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.7rem;
}
.told {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 0.7rem;
}
</style>
