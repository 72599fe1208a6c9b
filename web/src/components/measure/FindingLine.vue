<script setup lang="ts">
/** One doubt: what, why, what to do, and a repaired figure where there is one. */
import { ElButton } from 'element-plus'
import type { Finding } from '@/api/types'

defineProps<{ finding: Finding; quiet?: boolean }>()
defineEmits<{ repair: [finding: Finding] }>()
const GRADES = { stop: 'This cannot be', doubt: 'Doubtful', note: 'Note' } as const
</script>

<template>
  <p class="finding" :class="finding.grade">
    <strong>{{ GRADES[finding.grade] }}.</strong>
    {{ finding.says }} <span class="soft">To do: {{ finding.remedy }}.</span>
    <ElButton v-if="finding.repair && !quiet" size="small" @click="$emit('repair', finding)">
      {{
        finding.repair.exchange_with
          ? 'Exchange them'
          : finding.repair.school
            ? 'It was taken so'
            : `Take ${finding.repair.text}`
      }}
    </ElButton>
  </p>
</template>

<style scoped>
.finding {
  border-left: 4px solid var(--rule);
  padding: 0.2rem 0 0.2rem 0.7rem;
}
.finding.doubt,
.finding.stop {
  border-color: var(--madder);
}
.finding.doubt strong,
.finding.stop strong {
  color: var(--madder);
}
</style>
