<script setup lang="ts">
/** How far a piece of long work is, in a line, and a button that gives it up. */
import { ElButton, ElProgress } from 'element-plus'
import { computed } from 'vue'
import type { JobView } from '@/api/types'
import { isInHand } from '@/composables/useJob'

const props = defineProps<{ job: JobView }>()
defineEmits<{ stop: [] }>()

/** There is something to give up. */
const goesOn = computed(() => isInHand(props.job) && props.job.state !== 'stopping')
const share = computed(() => (props.job.total ? Math.round((100 * props.job.done) / props.job.total) : 0))
const words = computed(() => {
  const { state, done, total, says } = props.job
  if (state === 'waiting') return 'It waits for its turn.'
  if (state === 'stopping') return 'It is being given up.'
  if (state === 'done') return 'Done.'
  if (state === 'given_up') return 'Given up: nothing of it is left.'
  if (state === 'failed') return `It failed: ${says ?? ''}`
  return total ? `${done} of ${total}` : 'It has begun.'
})
</script>

<template>
  <div class="line">
    <span role="status">{{ words }}</span>
    <ElProgress
      v-if="goesOn"
      :percentage="share"
      :show-text="false"
      :stroke-width="8"
      aria-label="How far it is"
    />
    <ElButton v-if="goesOn" size="small" @click="$emit('stop')">Give it up</ElButton>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.4rem 0.9rem;
}
.line > .el-progress {
  flex: 1 1 8rem;
}
</style>
