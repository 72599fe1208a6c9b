<script setup lang="ts">
/** The pages of one client. */
import { RouterLink } from 'vue-router'

defineProps<{ id: number }>()
</script>

<template>
  <nav class="tabs" aria-label="Client">
    <RouterLink :to="{ name: 'client', params: { id } }">Garments and story</RouterLink>
    <RouterLink :to="{ name: 'profile', params: { id } }">Figures</RouterLink>
    <RouterLink :to="{ name: 'history', params: { id } }">History</RouterLink>
  </nav>
</template>

<style scoped>
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 0 1.4rem;
  border-bottom: 1px solid var(--rule);
}
.tabs a {
  text-decoration: none;
  padding: 0.45rem 0;
  border-bottom: 3px solid transparent;
}
.tabs a.router-link-exact-active {
  border-color: var(--madder);
  font-weight: 700;
}
</style>
