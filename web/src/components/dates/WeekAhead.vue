<script setup lang="ts">
/** What is late, and what the next seven days hold. */
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { get } from '@/api/client'
import ProblemNote from '@/components/ProblemNote.vue'
import { useResource } from '@/composables/useResource'
import { asDay, asWeekday, daysUntil } from '@/days'

const { data: week, problem } = useResource(get('/api/week'))
const late = (day: string) => {
  const days = -daysUntil(day)
  return days === 1 ? 'a day late' : `${days} days late`
}
const isLate = computed(() => Boolean(week.value?.late.length || week.value?.overdue.length))
</script>

<template>
  <ProblemNote v-if="!week" :problem="problem" />
  <div v-if="week && (isLate || week.coming.length)" class="two">
    <section v-if="isLate" class="stack" aria-labelledby="late-title">
      <h2 id="late-title">Late</h2>
      <ul>
        <li v-for="each in week.overdue" :key="`wanted-${each.id}`">
          <RouterLink :to="{ name: 'dates', params: { id: each.id } }">{{ each.client }}</RouterLink>,
          {{ each.garment }}: wanted for {{ asDay(each.wanted_on ?? '') }},
          <b class="decide">{{ late(each.wanted_on ?? '') }}</b>
        </li>
        <li v-for="each in week.late" :key="each.id">
          <RouterLink :to="{ name: 'dates', params: { id: each.order_id } }">{{ each.client }}</RouterLink>,
          {{ each.garment }}: {{ each.name }}, <b class="decide">{{ late(each.on) }}</b>
        </li>
      </ul>
    </section>
    <section v-if="week.coming.length" class="stack" aria-labelledby="week-title">
      <h2 id="week-title">The next seven days</h2>
      <ul>
        <li v-for="each in week.coming" :key="each.id">
          <b class="figure">{{ asWeekday(each.on) }}</b>:
          <RouterLink :to="{ name: 'dates', params: { id: each.order_id } }">{{ each.client }}</RouterLink>,
          {{ each.name }}, {{ each.garment }}
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
  gap: 1rem 2rem;
  align-items: start;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.35rem;
}
</style>
