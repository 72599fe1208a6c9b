<script setup lang="ts">
/** The sheets a version is printed on, before it is printed: how many, and where the pieces lie on them. */
import type { PagesView } from '@/api/types'

const { pages } = defineProps<{ pages: PagesView }>()
</script>

<template>
  <figure>
    <svg :viewBox="`-4 -4 ${pages.width + 8} ${pages.height + 8}`" aria-hidden="true">
      <g v-for="sheet in pages.sheets" :key="sheet.name" class="sheet">
        <rect :x="sheet.x" :y="sheet.y" :width="sheet.width" :height="sheet.height" />
        <text :x="sheet.x + 10" :y="sheet.y + 42">{{ sheet.name }}</text>
      </g>
      <path v-for="piece in pages.pieces" :key="piece.name" :d="piece.cutting" />
    </svg>
    <figcaption class="small">
      <b
        >{{ pages.sheets.length }} {{ pages.sheets.length === 1 ? 'sheet' : 'sheets' }} of
        {{ pages.paper }}</b
      >, and one before them with this map and the test squares.
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  max-height: 18rem;
}
rect,
path {
  fill: none;
  stroke: var(--rule);
  vector-effect: non-scaling-stroke;
}
path {
  stroke: var(--ink);
  stroke-width: 1.4;
}
text {
  font: 34px var(--sans);
  fill: var(--ink-soft);
}
</style>
