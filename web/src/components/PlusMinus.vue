<script setup lang="ts">
/** How sure the figure before it is: its spread behind a plus-minus sign, exactly one hover away. */
import type { Shown } from '@/api/types'
import { useHouse } from '@/composables/useHouse'

defineProps<{ spread: Shown | null | undefined }>()
const { unit } = useHouse()
</script>

<template>
  <span v-if="spread" class="spread" :title="`± ${spread.exact} ${unit}`">± {{ spread.text }}</span>
</template>

<style scoped>
.spread {
  margin-left: 0.35em;
  font-size: 0.85em;
  color: var(--ink-soft);
  white-space: nowrap;
}
</style>
