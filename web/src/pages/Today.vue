<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { get } from '@/api/client'
import type { OrderView } from '@/api/types'
import TodayVisits from '@/components/dates/TodayVisits.vue'
import WeekAhead from '@/components/dates/WeekAhead.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useHouse } from '@/composables/useHouse'
import { pageOf } from '@/composables/useOrder'
import { useResource } from '@/composables/useResource'
import { asDay, daysUntil } from '@/days'

const { house } = useHouse()
const { data: orders, problem } = useResource(get('/api/orders'))
const isDone = (order: OrderView) => order.standing.stage === 'done'
/** What is cancelled or in the archive is found with its client. */
const kept = computed(() => orders.value?.filter((order) => !order.put_away) ?? [])
const inHand = computed(() => kept.value.filter((order) => !isDone(order)))
/** So many that were handed over last; the others are found with their clients. */
const LATELY = 8
const finished = computed(() => {
  const done = kept.value.filter(isDone)
  return done.sort((a, b) => (b.finished_at ?? '').localeCompare(a.finished_at ?? '')).slice(0, LATELY)
})
const MARKS = ['measure', 'compare', 'alter', 'toile', 'fit', 'cut']

function wanted(order: OrderView): string {
  if (!order.wanted_on) return 'no date'
  const days = daysUntil(order.wanted_on)
  return days < 0 ? `${-days} days late` : `in ${days} days`
}
</script>

<template>
  <PageFrame :title="`Today in ${house?.name ?? 'the workroom'}`" :problem="problem">
    <template #actions
      ><p class="soft">{{ asDay(new Date().toISOString()) }}</p></template
    >
    <TodayVisits />
    <WeekAhead />
    <section class="stack" aria-labelledby="hand-title">
      <h2 id="hand-title">Garments in hand</h2>
      <p v-if="orders && !inHand.length" class="card">
        Nothing in hand. <RouterLink :to="{ name: 'clients' }">Add a client</RouterLink> and begin her
        garment.
      </p>
      <ul class="garments">
        <li v-for="order in inHand" :key="order.id">
          <RouterLink :to="pageOf(order)" class="card garment">
            <span class="stick" aria-hidden="true">
              <span
                v-for="(mark, index) in MARKS"
                :key="mark"
                :class="{
                  now: mark === order.standing.stage,
                  past: index < MARKS.indexOf(order.standing.stage),
                }"
              />
            </span>
            <span class="who">
              <strong>{{ order.client }}</strong>
              <span>{{ order.garment }}</span>
            </span>
            <span class="waits">
              <span class="stage">{{ order.standing.stage }}</span>
              {{ order.standing.waits_for }}
            </span>
            <span class="date">
              <span class="figure">{{ order.wanted_on ? asDay(order.wanted_on) : '' }}</span>
              <span
                class="small soft"
                :class="{ decide: order.wanted_on && daysUntil(order.wanted_on) < 14 }"
              >
                {{ wanted(order) }}
              </span>
            </span>
          </RouterLink>
        </li>
      </ul>
    </section>
    <section v-if="finished.length" class="stack" aria-labelledby="done-title">
      <h2 id="done-title">Handed over lately</h2>
      <ul class="plain-list">
        <li v-for="order in finished" :key="order.id">
          <RouterLink :to="pageOf(order)">{{ order.client }}, {{ order.garment }}</RouterLink>
          <span class="soft small when">{{ order.finished_at ? asDay(order.finished_at) : '' }}</span>
        </li>
      </ul>
    </section>
  </PageFrame>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.when {
  margin-left: 0.6rem;
}
.garments {
  display: grid;
  gap: 0.6rem;
}
.garment {
  display: grid;
  grid-template-columns: 84px minmax(10rem, 1.1fr) 2fr 7.5rem;
  gap: 1rem;
  align-items: center;
  text-decoration: none;
  padding: 0.75rem 1.1rem;
}
.garment:hover {
  border-color: var(--ink);
}
.stick {
  display: flex;
  align-items: flex-end;
  height: 26px;
  border: 1px solid var(--ink-soft);
  border-width: 1px 0;
  justify-content: space-between;
  padding: 0 4px;
}
.stick span {
  width: 2px;
  height: 9px;
  background: var(--rule);
}
.stick .past {
  background: var(--ink);
  height: 14px;
}
.stick .now {
  background: var(--madder);
  width: 5px;
  height: 24px;
}
.who {
  display: grid;
}
.who strong {
  font: 600 1.2rem var(--serif);
}
.stage {
  display: block;
  font-size: 0.82rem;
  font-weight: 700;
  color: var(--madder);
  text-transform: capitalize;
}
.date {
  display: grid;
  text-align: right;
}
@media (max-width: 700px) {
  .garment {
    grid-template-columns: 1fr auto;
    gap: 0.3rem 1rem;
  }
  .stick {
    display: none;
  }
  .waits {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>
