<script setup lang="ts">
/** Figures before and after, and the "before you cut" list. */
import { computed } from 'vue'
import CutList from './CutList.vue'
import type { Check, FigureRow } from '@/api/types'

const props = defineProps<{ figures: readonly FigureRow[]; checks: readonly Check[] }>()
const emit = defineEmits<{
  /** Only this rule's faults are to be shown. */
  show: [code: string | undefined]
}>()

const WATCHED = [
  'armhole_front',
  'armhole_back',
  'neckline_front',
  'neckline_back',
  'side_front',
  'side_back',
  'shoulder_front',
  'shoulder_back',
  'bust',
  'waist',
  'centre_front',
]
const rows = computed(() => WATCHED.flatMap((figure) => props.figures.filter((row) => row.figure === figure)))
const isNought = (text: string) => text === '0' || text === '0.0'
</script>

<template>
  <section aria-labelledby="checks-title" class="stack">
    <h2 id="checks-title">Checks</h2>
    <table>
      <thead>
        <tr>
          <th scope="col">Figure</th>
          <th scope="col" class="num">Before</th>
          <th scope="col" class="num">Now</th>
          <th scope="col" class="num">Change</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.figure">
          <th scope="row">{{ row.name }}</th>
          <td class="num">{{ row.before.text }}</td>
          <td class="num">{{ row.after.text }}</td>
          <td
            class="num"
            :class="{ changed: !isNought(row.change.text), decide: row.expectation === 'broken' }"
          >
            {{
              row.expectation === 'broken'
                ? `${row.change.text}, must stay`
                : isNought(row.change.text)
                  ? 'stays'
                  : row.change.text
            }}
          </td>
        </tr>
      </tbody>
    </table>
    <CutList :checks="checks" @show="emit('show', $event)" />
  </section>
</template>

<style scoped>
tbody th {
  font-size: 0.95rem;
  color: var(--ink);
  font-weight: 400;
}
</style>
