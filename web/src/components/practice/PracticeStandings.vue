<script setup lang="ts">
/** How far one is: every cause and tape, in which box it lies, when it comes again, and what goes wrong most. */
import { computed } from 'vue'
import type { PracticeView } from '@/api/types'

const props = defineProps<{ practice: PracticeView }>()
const begun = computed(() =>
  props.practice.standing.filter((each) => each.number !== null && each.number !== undefined),
)
const fresh = computed(() => props.practice.standing.length - begun.value.length)
const due = (days: number | null | undefined) =>
  days === null || days === undefined ? '' : days <= 0 ? 'now' : days === 1 ? 'tomorrow' : `in ${days} days`
</script>

<template>
  <section class="stack" aria-labelledby="standing-title">
    <h2 id="standing-title">How far you are</h2>
    <p>
      {{ practice.done }} {{ practice.done === 1 ? 'exercise' : 'exercises' }} done, {{ practice.known }} of
      {{ practice.standing.length }} known well, {{ fresh }} never tried.
      <a href="/api/practice/certificate.pdf" download>Certificate (PDF)</a>
    </p>
    <p class="small soft">
      What goes well moves to the next of {{ practice.boxes }} boxes and waits twice as long; what goes wrong
      begins again (Sebastian Leitner, 1972). From box {{ practice.known_from }} on it is known well.
    </p>
    <div v-if="practice.mistakes.length">
      <h3>What goes wrong most</h3>
      <ul>
        <li v-for="each in practice.mistakes" :key="each.mistake">{{ each.count }} × {{ each.says }}</li>
      </ul>
    </div>
    <table v-if="begun.length">
      <thead>
        <tr>
          <th scope="col">Of</th>
          <th scope="col" class="num">Box</th>
          <th scope="col" class="num">Went well</th>
          <th scope="col" class="num">Comes again</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="each in begun" :key="each.item">
          <th scope="row">{{ each.name }}</th>
          <td class="num">{{ each.number }}</td>
          <td class="num">{{ each.went_well }} of {{ each.done }}</td>
          <td class="num">{{ due(each.due_in) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else class="soft">Nothing yet: the first exercise takes two minutes.</p>
  </section>
</template>

<style scoped>
table {
  max-width: 46rem;
}
ul {
  margin: 0;
}
</style>
