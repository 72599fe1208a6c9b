<script setup lang="ts">
/** A word of the trade with its meaning one hover, one tap or one Tab away. */
import { ElTooltip } from 'element-plus'
import { computed } from 'vue'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{
  /** Its code in the glossary. */
  term: string
}>()
const { craft } = useHouse()
const says = computed(() => craft.value?.glossary.find((each) => each.code === props.term)?.says)
</script>

<template>
  <ElTooltip
    v-if="says"
    :content="says"
    placement="top"
    :show-after="150"
    :trigger="['hover', 'focus', 'click']"
    popper-class="term-says"
  >
    <span class="term" tabindex="0" role="note" :aria-description="says"><slot /></span>
  </ElTooltip>
  <slot v-else />
</template>

<style scoped>
.term {
  border-bottom: 1px dotted var(--ink-soft);
  cursor: help;
}
</style>
