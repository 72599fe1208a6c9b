<script setup lang="ts">
/** When the house was backed up last, and one more where this server was told where to put it. */
import { ElButton } from 'element-plus'
import { ref } from 'vue'
import { get, post } from '@/api/client'
import JobLine from '@/components/JobLine.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useJob } from '@/composables/useJob'
import { useResource } from '@/composables/useResource'
import { asMoment } from '@/days'

const emit = defineEmits<{ asked: [] }>()

const { data: last, reload } = useResource(get('/api/house/backup'))
const asked = ref<number>()
const {
  run: take,
  busy,
  problem,
} = useAction(
  () => post('/api/house/backup'),
  ({ id }) => {
    asked.value = id
    emit('asked')
  },
  { repeats: true },
)
const { job, inHand, problem: untold, stop } = useJob(asked, reload)

/** A size as people write it: bytes of a file, in thousands. */
function asSize(bytes: number): string {
  const [kilobytes, megabytes] = [bytes / 1000, bytes / 1_000_000]
  if (megabytes >= 1) return `${megabytes.toFixed(megabytes < 10 ? 1 : 0)} MB`
  return `${Math.max(1, Math.round(kilobytes))} kB`
}
</script>

<template>
  <section v-if="last" class="card stack" aria-labelledby="backup-title">
    <h2 id="backup-title">Backups</h2>
    <p v-if="last.taken_at">
      The last one was taken on {{ asMoment(last.taken_at) }}: {{ asSize(last.bytes) }},
      {{ last.encrypted ? 'encrypted' : 'not encrypted' }},
      {{ last.second_place ? 'with a copy in a second place' : 'in one place only' }}.
      <strong v-if="last.overdue" class="decide">That is longer ago than a week.</strong>
    </p>
    <p v-else>
      This house was never backed up. <strong class="decide">Nothing could be brought back.</strong>
    </p>
    <ProblemNote :problem="problem ?? untold" />
    <JobLine v-if="job" :job="job" @stop="stop" />
    <div v-if="last.can_take && !inHand">
      <ElButton :aria-busy="busy" @click="take()">Take one now</ElButton>
    </div>
    <p class="small soft">
      Backups are taken on the machine Yardwand runs on, by <code>yardwand backup</code>: every night, if its
      timer is switched on. Each is read again before it counts.
    </p>
  </section>
</template>

<style scoped>
code {
  font-size: 0.85em;
}
</style>
