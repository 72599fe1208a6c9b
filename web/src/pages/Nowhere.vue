<script setup lang="ts">
import { RouterLink } from 'vue-router'
</script>

<template>
  <main class="page stack">
    <h1>There is nothing at this address</h1>
    <p><RouterLink :to="{ name: 'today' }">Back to today</RouterLink></p>
  </main>
</template>
