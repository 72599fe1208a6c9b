<script setup lang="ts">
/** Who comes today, and what to prepare for each. */
import { RouterLink } from 'vue-router'
import { get } from '@/api/client'
import ProblemNote from '@/components/ProblemNote.vue'
import { useResource } from '@/composables/useResource'

const { data: today, problem } = useResource(get('/api/today'))
const PAGE: Record<string, string> = {
  measuring: 'measure',
  cutting: 'toile',
  toile: 'fit',
  cloth_fitting: 'fit',
  final_fitting: 'fit',
  delivery: 'cut',
}
</script>

<template>
  <ProblemNote v-if="!today" :problem="problem" />
  <section v-if="today?.length" class="stack" aria-labelledby="comes-title">
    <h2 id="comes-title">Who comes</h2>
    <ul class="visits">
      <li v-for="each in today" :key="each.visit.id" class="card visit">
        <div>
          <RouterLink :to="{ name: PAGE[each.visit.visit.kind], params: { id: each.visit.order_id } }">
            <strong>{{ each.visit.client }}</strong>
          </RouterLink>
          <p class="what">{{ each.visit.name }}, {{ each.visit.garment }}</p>
        </div>
        <ul class="prepare">
          <li v-for="line in each.prepare" :key="line">{{ line }}</li>
        </ul>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.visits {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.6rem;
}
.visit {
  display: grid;
  grid-template-columns: minmax(12rem, 1fr) 2.4fr;
  gap: 0.4rem 1rem;
  border-left: 4px solid var(--madder);
}
.visit strong {
  font: 600 1.2rem var(--serif);
}
.what::first-letter {
  text-transform: uppercase;
}
.prepare {
  margin: 0;
  padding-left: 1.1rem;
}
@media (max-width: 700px) {
  .visit {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
