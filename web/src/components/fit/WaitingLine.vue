<script setup lang="ts">
/** What is not at the server yet, and what it turned down: nothing of it is lost. */
import { ElButton } from 'element-plus'
import type { Returned } from '@/composables/useRound'

defineProps<{ waiting: number; returned: readonly Returned[] }>()
defineEmits<{ takeUp: [key: string, entry: Record<string, unknown>]; letGo: [key: string] }>()
const isObservation = (each: Returned) => each.entry.path.endsWith('/observations')
</script>

<template>
  <div v-if="waiting || returned.length" class="stack lines">
    <p v-if="waiting" role="status" class="waits">
      {{ waiting === 1 ? 'One entry waits' : `${waiting} entries wait` }} for the line: kept on this device,
      sent once when it is back.
    </p>
    <div v-for="each in returned" :key="each.entry.key" role="alert" class="back">
      <p>
        <strong>{{ each.problem.title }}.</strong> {{ each.problem.detail }}
      </p>
      <div class="row">
        <ElButton
          v-if="isObservation(each)"
          size="small"
          @click="$emit('takeUp', each.entry.key, each.entry.body)"
          >Take it up again</ElButton
        >
        <ElButton size="small" @click="$emit('letGo', each.entry.key)">Let it go</ElButton>
      </div>
    </div>
  </div>
</template>

<style scoped>
/* At the foot of the screen: what comes and goes there moves nothing that is about to be tapped. */
.lines {
  gap: 0.5rem;
  position: sticky;
  bottom: 0.5rem;
  z-index: 4;
  background: var(--paper);
}
.waits {
  border-left: 4px solid var(--woad);
  background: var(--woad-tint);
  padding: 0.5rem 0.9rem;
}
.back {
  border-left: 4px solid var(--madder);
  background: var(--madder-tint);
  padding: 0.5rem 0.9rem;
}
</style>
