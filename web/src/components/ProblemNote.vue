<script setup lang="ts">
import type { Problem } from '@/api/types'

defineProps<{ problem?: Problem }>()
</script>

<template>
  <p v-if="problem" role="alert" class="note">
    <strong>{{ problem.title }}.</strong> {{ problem.detail.charAt(0).toUpperCase() + problem.detail.slice(1)
    }}{{ problem.detail.endsWith('.') ? '' : '.' }}
    <slot />
  </p>
</template>

<style scoped>
.note {
  background: var(--madder-tint);
  border-left: 4px solid var(--madder);
  padding: 0.6rem 0.9rem;
}
</style>
