<script setup lang="ts">
/** The same figures by another construction: laid side by side, and where they differ by more than 5 mm. */
import { computed } from 'vue'
import type { DraftPreview } from '@/api/types'
import PatternDrawing from '@/components/drawing/PatternDrawing.vue'

const props = defineProps<{ draft: DraftPreview }>()
const beside = computed(() => props.draft.beside)
const limit = '5 mm (3/16 in)'
</script>

<template>
  <section v-if="beside" class="stack" aria-labelledby="beside-title">
    <h2 id="beside-title">{{ draft.method }} beside {{ beside.method.toLowerCase() }}</h2>
    <p v-if="beside.refused" class="card">{{ beside.refused }}</p>
    <div v-else class="sides">
      <PatternDrawing
        v-if="draft.drawn"
        :pieces="draft.drawn.pieces"
        :before="beside.drawn?.pieces"
        aria-label="Both drafts laid on each other"
      />
      <div class="stack">
        <p class="small soft">
          In ink {{ draft.method.toLowerCase() }}, dashed {{ beside.method.toLowerCase() }}.
        </p>
        <p v-if="!beside.differences.length">They differ nowhere by more than {{ limit }}.</p>
        <table v-else>
          <caption class="small soft">
            Differences above
            {{
              limit
            }}
          </caption>
          <thead>
            <tr>
              <th scope="col">Figure</th>
              <th scope="col" class="num">This</th>
              <th scope="col" class="num">Other</th>
              <th scope="col" class="num">More</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in beside.differences" :key="row.figure">
              <th scope="row">{{ row.name }}</th>
              <td class="num">{{ row.one.text }}</td>
              <td class="num">{{ row.other.text }}</td>
              <td class="num changed">{{ row.difference.text }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </div>
  </section>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 22rem;
  gap: 1.4rem;
  align-items: start;
}
caption {
  text-align: left;
  padding-bottom: 0.3rem;
}
@media (max-width: 900px) {
  .sides {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
