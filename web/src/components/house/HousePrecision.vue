<script setup lang="ts">
/** How well each measurer repeats each measurement. */
import TermMark from '@/components/TermMark.vue'
import { get } from '@/api/client'
import { useResource } from '@/composables/useResource'

const { data: rows } = useResource(get('/api/precision'))
</script>

<template>
  <section class="card stack" aria-labelledby="precision-title">
    <h2 id="precision-title">How well we repeat</h2>
    <p v-if="!rows?.length" class="soft small">
      Take a reading twice (Repeat, or the key r) and this shows by how much a measurer differs from herself.
    </p>
    <p v-else class="soft small">Over the newest 1,000 sessions.</p>
    <div v-if="rows?.length" class="wide" tabindex="0" role="region" aria-labelledby="precision-title">
      <table>
        <thead>
          <tr>
            <th scope="col">Measurer</th>
            <th scope="col">Measurement</th>
            <th scope="col" class="num">Bodies</th>
            <th scope="col" class="num">Error</th>
            <th scope="col" class="num">%</th>
            <th scope="col" class="num">19 of 20 within</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="`${row.measurer}${row.code}`">
            <td>{{ row.measurer }}</td>
            <td>{{ row.name }}</td>
            <td class="num">{{ row.precision.bodies }}</td>
            <td class="num">{{ row.error }}</td>
            <td class="num">{{ row.precision.tem_percent.toFixed(2) }}</td>
            <td class="num">{{ row.within }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="small soft">
      How far two takes of one measurer lie apart, as <TermMark term="repeat_error">one figure</TermMark>.
    </p>
  </section>
</template>

<style scoped>
.wide {
  overflow-x: auto;
  min-width: 0;
}
section {
  min-width: 0;
}
</style>
