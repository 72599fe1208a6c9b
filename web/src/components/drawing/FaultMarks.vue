<script setup lang="ts">
/** Faults of a piece, ringed where they are. */
import type { Fault } from '@/api/types'

defineProps<{ faults: readonly Fault[] }>()
</script>

<template>
  <g v-for="(fault, index) in faults" :key="index" class="fault">
    <circle :cx="fault.at.x" :cy="fault.at.y" r="11" />
    <circle :cx="fault.at.x" :cy="fault.at.y" r="2" />
    <title>{{ fault.says }}</title>
  </g>
</template>

<style scoped>
.fault circle {
  fill: var(--madder-tint);
  fill-opacity: 0.5;
  stroke: var(--madder);
  stroke-width: 2;
}
</style>
