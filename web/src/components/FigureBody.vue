<script setup lang="ts">
/** The figure itself, inside a drawing of its own. */
import type { BodyDrawing } from '@/api/types'

defineProps<{ figure: BodyDrawing }>()
</script>

<template>
  <g>
    <path v-for="(path, index) in figure.body" :key="`b${index}`" :d="path" class="body" />
    <path v-for="(path, index) in figure.lines" :key="`l${index}`" :d="path" class="line" />
  </g>
</template>

<style scoped>
.body {
  fill: var(--skin);
  stroke: var(--ink-soft);
  stroke-width: 2;
}
.line {
  fill: none;
  stroke: var(--ink-soft);
  stroke-width: 1.5;
  opacity: 0.55;
}
</style>
