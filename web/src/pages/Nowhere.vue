<script setup lang="ts">
import { RouterLink } from 'vue-router'
import PageFrame from '@/components/PageFrame.vue'
</script>

<template>
  <PageFrame title="There is nothing at this address">
    <p><RouterLink :to="{ name: 'today' }">Back to today</RouterLink></p>
  </PageFrame>
</template>
