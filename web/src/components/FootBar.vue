<script setup lang="ts">
/** The next step of a page at the foot of the window: in sight wherever one reads, and in its place at the page's end. */
</script>

<template>
  <div class="foot no-print"><slot /></div>
</template>

<style scoped>
.foot {
  position: sticky;
  bottom: 0;
  z-index: 2;
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 0.8rem;
  align-items: center;
  padding: 0.55rem 0;
  background: var(--paper);
  border-top: 1px solid var(--rule);
}
/* On a raised sheet it is a part of the sheet. */
.card .foot {
  background: var(--raised);
}
.foot :deep(.field) {
  flex: 1 1 9rem;
}
</style>
