<script setup lang="ts">
/** What pins made of plans, over the garments handed over last: offered at the cutting table, never applied by itself. */
import { computed } from 'vue'
import { get } from '@/api/client'
import { useResource } from '@/composables/useResource'

const { data: learnt } = useResource(get('/api/calibration'))
const groups = computed(() => {
  const by = (which: string) => learnt.value?.filter((each) => each.learnt.by === which) ?? []
  return [
    { name: 'The house', rows: by('house') },
    { name: 'By cutter', rows: by('cutter') },
    { name: 'By measurer', rows: by('measurer') },
  ].filter((group) => group.rows.length)
})
</script>

<template>
  <section class="card stack" aria-labelledby="calibration-title">
    <h2 id="calibration-title">What pins made of plans</h2>
    <p class="small soft">
      Over the garments handed over last, 500 at most: what an alteration ended at for 1 planned. Where it is
      steady it is offered at the cutting table; nothing is corrected by itself.
    </p>
    <p v-if="learnt && !groups.length" class="soft">
      Nothing yet: it is learnt from garments that were handed over.
    </p>
    <table v-for="group in groups" :key="group.name">
      <thead>
        <tr>
          <th scope="col">{{ group.name }}</th>
          <th scope="col" class="num">Ends at</th>
          <th scope="col" class="num">Middle half</th>
          <th scope="col" class="num">n</th>
          <th scope="col">Offered</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="each in group.rows" :key="each.says" :title="each.says">
          <th scope="row">{{ each.name }}{{ each.learnt.who ? `, ${each.learnt.who}` : '' }}</th>
          <td class="num">× {{ each.learnt.factor.toFixed(2) }}</td>
          <td class="num">{{ each.learnt.low.toFixed(2) }} to {{ each.learnt.high.toFixed(2) }}</td>
          <td class="num">{{ each.learnt.count }}</td>
          <td>{{ each.learnt.offered ? 'yes' : 'no' }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
