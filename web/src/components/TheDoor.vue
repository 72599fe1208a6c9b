<script setup lang="ts">
/** What stands at the house's door, before anybody is signed in: one card on the measured ground. */
defineProps<{ title: string }>()
</script>

<template>
  <main class="door">
    <section class="card stack" aria-labelledby="door-title">
      <div>
        <h1 id="door-title">{{ title }}</h1>
        <p class="soft"><slot name="under" /></p>
      </div>
      <slot />
    </section>
  </main>
</template>

<style scoped>
.door {
  min-height: 100vh;
  display: grid;
  place-items: center;
  padding: 1rem;
  background:
    repeating-linear-gradient(to right, var(--rule) 0 1px, transparent 1px 25.4px) 0 100% / 100% 14px
      no-repeat,
    var(--paper);
}
.card {
  width: min(420px, 100%);
  padding: 1.8rem;
}
h1 {
  font-size: 2.6rem;
}
</style>
