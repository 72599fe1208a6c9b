<script setup lang="ts">
/** The workroom's calendar, four weeks at a time: who comes, when the house is closed, what a day holds. */
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { get } from '@/api/client'
import type { VisitView } from '@/api/types'
import MoveVisit from '@/components/dates/MoveVisit.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { asDay, mondayOf, plusDays, today } from '@/days'

const { house, may } = useHouse()
const WEEKS = 4
const from = ref(mondayOf(today()))
const to = computed(() => plusDays(from.value, WEEKS * 7 - 1))
const {
  data: visits,
  problem,
  reload,
} = useResource(() => get('/api/calendar', { params: { query: { from: from.value, to: to.value } } }))

const NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
interface Day {
  day: string
  number: string
  visits: VisitView[]
  closed?: string
  full: boolean
}
const days = computed<Day[]>(() =>
  Array.from({ length: WEEKS * 7 }, (_, index) => {
    const day = plusDays(from.value, index)
    const own = visits.value?.filter((visit) => visit.on === day) ?? []
    const calendar = house.value?.calendar
    const shut = calendar?.closed.find((each) => each.from <= day && day <= each.to)
    const closed = shut ? shut.why || 'closed' : calendar?.open[index % 7] === false ? 'closed' : undefined
    const coming = own.filter((visit) => visit.needs_client).length
    const number = asDay(day).replace(/ \d{4}$/, '')
    return { day, number, visits: own, closed, full: coming >= (calendar?.a_day ?? Infinity) }
  }),
)

/** The visit in hand, and the day it is held over. */
const carried = ref<VisitView>()
const over = ref<string>()
const moving = ref<{ visit: VisitView; to: string }>()

function hold(event: DragEvent, day: string): void {
  if (!carried.value) return
  event.preventDefault()
  over.value = day
}
function drop(day: string): void {
  const visit = carried.value
  carried.value = over.value = undefined
  if (visit && visit.on !== day) moving.value = { visit, to: day }
}
const STEPS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 }
function carry(event: KeyboardEvent, visit: VisitView): void {
  const by = STEPS[event.key]
  if (by === undefined || !may('dates')) return
  event.preventDefault()
  moving.value = { visit, to: plusDays(visit.on, by) }
}
</script>

<template>
  <PageFrame title="Calendar" class="calendar" :problem="problem" :reading="!visits">
    <template #actions>
      <RouterLink :to="{ name: 'letters' }">Reminders</RouterLink>
      <a class="el-button" href="/api/calendar.ics">iCalendar file</a>
    </template>
    <div class="between">
      <p class="soft">{{ asDay(from) }} to {{ asDay(to) }}</p>
      <div class="row" role="group" aria-label="Weeks">
        <ElButton @click="from = plusDays(from, -7 * WEEKS)">Earlier</ElButton>
        <ElButton @click="from = mondayOf(today())">This week</ElButton>
        <ElButton @click="from = plusDays(from, 7 * WEEKS)">Later</ElButton>
      </div>
    </div>
    <p v-if="visits && !visits.length" class="card">
      Nothing in these weeks. Dates are planned with each garment: open one on
      <RouterLink :to="{ name: 'today' }">Today</RouterLink> and choose Dates.
    </p>
    <ol class="days">
      <li
        v-for="(day, index) in days"
        :key="day.day"
        :class="{
          closed: day.closed,
          today: day.day === today(),
          empty: !day.visits.length,
          over: over === day.day,
        }"
        @dragover="hold($event, day.day)"
        @drop.prevent="drop(day.day)"
      >
        <p class="small head">
          <span class="weekday">{{ NAMES[index % 7] }}</span>
          <b class="figure">{{ day.number }}</b>
          <span v-if="day.day === today()" class="decide">today</span>
          <span v-if="day.closed" class="soft">{{ day.closed }}</span>
          <span v-if="day.full" class="decide">full</span>
        </p>
        <RouterLink
          v-for="visit in day.visits"
          :key="visit.id"
          :to="{ name: 'dates', params: { id: visit.order_id } }"
          class="visit"
          :class="{ quiet: !visit.needs_client }"
          :draggable="may('dates')"
          aria-keyshortcuts="Alt+ArrowLeft Alt+ArrowRight Alt+ArrowUp Alt+ArrowDown"
          @dragstart="carried = visit"
          @dragend="((carried = undefined), (over = undefined))"
          @keydown.alt="carry($event, visit)"
        >
          <b>{{ visit.needs_client ? visit.client : visit.name }}</b>
          <span class="small">{{ visit.needs_client ? visit.name : visit.client }}, {{ visit.garment }}</span>
        </RouterLink>
      </li>
    </ol>
    <p class="small soft">
      A visit is moved by dragging it to another day, or with Alt and an arrow key; what moves along is said
      first.
    </p>
    <MoveVisit :moving="moving" @close="moving = undefined" @moved="reload" />
  </PageFrame>
</template>

<style scoped>
.calendar {
  max-width: 1400px;
}
.days {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr)) repeat(2, minmax(0, 0.55fr));
  gap: 1px;
  background: var(--rule);
  border: 1px solid var(--rule);
}
.days > li {
  background: var(--raised);
  min-height: 7.2rem;
  padding: 0.4rem 0.5rem;
  display: grid;
  align-content: start;
  gap: 0.35rem;
}
.days > .closed {
  background: var(--sunk);
}
.days > .over {
  background: var(--woad-tint);
}
.days > .today {
  outline: 2px solid var(--madder);
  outline-offset: -2px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 0 0.5rem;
}
.weekday {
  color: var(--ink-soft);
}
.visit {
  display: grid;
  text-decoration: none;
  border-left: 3px solid var(--woad);
  padding: 0.15rem 0 0.15rem 0.45rem;
  line-height: 1.25;
}
.visit.quiet {
  border-color: var(--ink-soft);
}
.visit:hover {
  background: var(--woad-tint);
}
.visit.quiet b::first-letter {
  text-transform: uppercase;
}
@media (max-width: 900px) {
  .days {
    grid-template-columns: minmax(0, 1fr);
  }
  .days > li {
    min-height: 0;
  }
  .days > .empty:not(.today) {
    display: none;
  }
}
</style>
