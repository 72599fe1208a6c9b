<script setup lang="ts">
/** A small drawing a block, a pattern or a version is recognised by. Its name stands beside it. */
defineProps<{ of: 'blocks' | 'patterns' | 'versions'; id: number }>()
</script>

<template>
  <img :src="`/api/${of}/${id}/picture`" alt="" width="88" height="60" loading="lazy" class="small-drawing" />
</template>

<style scoped>
.small-drawing {
  display: block;
  flex: none;
  width: 5.5rem;
  height: 3.75rem;
  object-fit: contain;
}
:root[data-theme='dark'] .small-drawing {
  /* The picture is drawn for the day: ink on cloth. */
  filter: invert(0.9) hue-rotate(180deg);
}
</style>
