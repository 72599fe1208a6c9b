<script setup lang="ts">
/** Level lines on a form or a stand, and hem marks: the same sums as on a toile, nothing kept. */
import BalanceBench from '@/components/fit/BalanceBench.vue'
import HemBench from '@/components/fit/HemBench.vue'
</script>

<template>
  <main class="page stack" aria-labelledby="level-title">
    <div>
      <h1 id="level-title">Level and hem</h1>
      <p class="soft">
        To mark a form or level a hem: heights above the floor in, what to move out. Nothing of it is kept.
      </p>
    </div>
    <div class="two">
      <BalanceBench />
      <HemBench />
    </div>
  </main>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(24rem, 100%), 1fr));
  gap: 1.2rem;
  align-items: start;
}
</style>
