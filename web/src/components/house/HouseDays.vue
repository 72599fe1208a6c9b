<script setup lang="ts">
/** How the house plans: open days, gaps between the steps, what a day holds, closed times; and what clients may read. */
import { ElButton } from 'element-plus'
import DayField from '@/components/DayField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHousePart } from '@/composables/useHousePart'
import { useHouseSave } from '@/composables/useHouseSave'
import { today } from '@/days'

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const GAPS = [
  { key: 'measuring_to_cutting', name: 'Measuring to cutting the toile' },
  { key: 'cutting_to_toile', name: 'Cutting to fitting it' },
  { key: 'toile_to_toile', name: 'One toile to the next' },
  { key: 'toile_to_cloth', name: 'Last toile to basted cloth' },
  { key: 'cloth_to_final', name: 'Basted cloth to final fitting' },
  { key: 'final_to_delivery', name: 'Final fitting to delivery' },
] as const
const COUNTS = [
  { key: 'a_day', name: 'Clients a day at most', low: 1, high: 50, unit: '' },
  { key: 'reading_days', name: 'Readings may be this old at cutting', low: 1, high: 730, unit: 'days' },
  { key: 'remind_days', name: 'A reminder is written before a visit', low: 0, high: 30, unit: 'days' },
] as const
const entry = useHousePart((now) => ({ calendar: now.calendar, shows: now.shows_stories }))

const {
  run: save,
  busy,
  problem,
  saved,
} = useHouseSave(() => ({
  calendar: entry.value?.calendar,
  shows_stories: entry.value?.shows,
}))
</script>

<template>
  <form v-if="entry" class="card stack" aria-labelledby="days-title" @submit.prevent="save">
    <h2 id="days-title">Days and dates</h2>
    <fieldset class="chips">
      <legend class="legend">Open on</legend>
      <label v-for="(day, index) in DAYS" :key="day" class="chip">
        <input v-model="entry.calendar.open[index]" type="checkbox" /><span>{{ day }}</span>
      </label>
    </fieldset>
    <div class="gaps">
      <div v-for="gap in GAPS" :key="gap.key" class="field">
        <label :for="`gap-${gap.key}`">{{ gap.name }}</label>
        <span class="count"
          ><input
            :id="`gap-${gap.key}`"
            v-model.number="entry.calendar.gaps[gap.key]"
            class="plain figure"
            type="number"
            min="0"
            max="120"
            required
          /><span class="small soft">working days</span></span
        >
      </div>
      <div v-for="count in COUNTS" :key="count.key" class="field">
        <label :for="`count-${count.key}`">{{ count.name }}</label>
        <span class="count"
          ><input
            :id="`count-${count.key}`"
            v-model.number="entry.calendar[count.key]"
            class="plain figure"
            type="number"
            :min="count.low"
            :max="count.high"
            required
          /><span class="small soft">{{ count.unit }}</span></span
        >
      </div>
    </div>
    <fieldset class="closed">
      <legend class="legend">Closed times</legend>
      <div v-for="(closed, index) in entry.calendar.closed" :key="index" class="row">
        <DayField
          :id="`closed-from-${index}`"
          v-model="closed.from"
          required
          :label="`Closed time ${index + 1}, from`"
        />
        <DayField
          :id="`closed-to-${index}`"
          v-model="closed.to"
          required
          :label="`Closed time ${index + 1}, to`"
        />
        <input
          v-model="closed.why"
          class="plain"
          type="text"
          maxlength="120"
          placeholder="why"
          :aria-label="`Closed time ${index + 1}, why`"
        />
        <ElButton
          size="small"
          :aria-label="`Take out closed time ${index + 1}`"
          @click="entry.calendar.closed.splice(index, 1)"
          >Take out</ElButton
        >
      </div>
      <div>
        <ElButton size="small" @click="entry.calendar.closed.push({ from: today(), to: today(), why: '' })"
          >Add a closed time</ElButton
        >
      </div>
    </fieldset>
    <label class="shows"
      ><input v-model="entry.shows" type="checkbox" /> Clients may read the story of their garment, in neutral
      words, by a link</label
    >
    <ProblemNote :problem="problem" />
    <div class="row saves">
      <ElButton type="primary" native-type="submit" :aria-busy="busy">Save days and dates</ElButton>
      <span v-if="saved" role="status" class="soft">Saved.</span>
    </div>
  </form>
</template>

<style scoped>
.gaps {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(13rem, 1fr));
  gap: 0.7rem;
}
.count {
  display: flex;
  gap: 0.5rem;
  align-items: baseline;
}
.count input {
  max-width: 5rem;
}
.shows {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.6rem;
  align-items: baseline;
}
.closed {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
.closed .row {
  flex-wrap: nowrap;
}
.closed :deep(.el-date-editor) {
  max-width: 10rem;
}
@media (max-width: 500px) {
  .closed .row {
    flex-wrap: wrap;
  }
}
</style>
