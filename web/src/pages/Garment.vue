<script setup lang="ts">
import { watchEffect } from 'vue'
import { RouterLink, RouterView, useRoute, useRouter } from 'vue-router'
import GarmentMenu from '@/components/garment/GarmentMenu.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import TheWand from '@/components/TheWand.vue'
import { pageOf, provideOrder } from '@/composables/useOrder'

const props = defineProps<{ id: number }>()
const route = useRoute()
const router = useRouter()
const PUT_AWAY = {
  cancelled: 'Cancelled: bring it back to go on with it.',
  archived: 'Handed over, and in the archive.',
}
const { data: order, problem, reload } = provideOrder(() => props.id)
// Asked for without a stage, it opens where it stands.
watchEffect(() => {
  if (order.value && route.matched.length === 1) void router.replace(pageOf(order.value))
})
</script>

<template>
  <div class="garment">
    <ProblemNote :problem="problem" />
    <template v-if="order">
      <div class="head">
        <p class="names">
          <RouterLink :to="{ name: 'client', params: { id: order.client_id } }">{{
            order.client
          }}</RouterLink>
          <span aria-hidden="true"> · </span>{{ order.garment }}
        </p>
        <p class="soft">{{ order.put_away ? PUT_AWAY[order.put_away] : order.standing.waits_for }}</p>
        <span class="menu no-print"><GarmentMenu :order="order" @changed="reload" /></span>
      </div>
      <div class="bench">
        <TheWand :order="order" />
        <RouterView :key="route.path" />
      </div>
    </template>
  </div>
</template>

<style scoped>
.garment {
  padding: 0.9rem 1.4rem 3rem;
  max-width: 1500px;
  margin: 0 auto;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 0.1rem 1.4rem;
  align-items: baseline;
  margin-bottom: 0.7rem;
}
.names {
  font: 600 1.35rem var(--serif);
}
.names a {
  text-decoration: none;
}
.names a:hover {
  text-decoration: underline;
}
.menu {
  margin-left: auto;
}
.bench {
  display: grid;
  grid-template-columns: 132px minmax(0, 1fr);
  gap: 1.4rem;
  align-items: start;
}
@media (max-width: 700px) {
  .names {
    flex: 1 1 0;
  }
  .head > .soft {
    order: 1;
    flex-basis: 100%;
  }
}
@media (max-width: 900px) {
  .garment {
    padding: 0.7rem 0.9rem 3rem;
  }
  .bench {
    grid-template-columns: minmax(0, 1fr);
    gap: 0.6rem;
  }
}
</style>
