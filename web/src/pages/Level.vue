<script setup lang="ts">
/** Level lines on a form or a stand, and hem marks: the same sums as on a toile, nothing kept. */
import BalanceBench from '@/components/fit/BalanceBench.vue'
import HemBench from '@/components/fit/HemBench.vue'
import PageFrame from '@/components/PageFrame.vue'
</script>

<template>
  <PageFrame title="Level and hem">
    <template #lead>
      <p class="soft">
        To mark a form or level a hem: heights above the floor in, what to move out. Nothing of it is kept.
      </p>
    </template>
    <div class="two">
      <BalanceBench />
      <HemBench />
    </div>
  </PageFrame>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(24rem, 100%), 1fr));
  gap: 1.2rem;
  align-items: start;
}
</style>
