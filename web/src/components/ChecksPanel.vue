<script setup lang="ts">
/** Figures before and after, and the "before you cut" list. */
import { computed } from 'vue'
import CutList from './CutList.vue'
import type { Broken, Check, FigureRow } from '@/api/types'
import { changeOf, hasChanged } from '@/figures'

const props = defineProps<{
  figures: readonly FigureRow[]
  checks: readonly Check[]
  /** Which step each failing check was first broken by. */
  brokenBy?: readonly Broken[]
}>()
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
/** What is always watched, and whatever else has changed. */
const rows = computed(() => {
  const watched = WATCHED.flatMap((figure) => props.figures.filter((row) => row.figure === figure))
  const changed = props.figures.filter((row) => !WATCHED.includes(row.figure) && hasChanged(row))
  return [...watched, ...changed]
})
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
        <tr v-for="row in rows" :key="`${row.figure} ${row.side}`">
          <th scope="row">{{ row.name }}{{ row.side ? `, ${row.side}` : '' }}</th>
          <td class="num">{{ row.before?.text ?? '–' }}</td>
          <td class="num">{{ row.after.text }}</td>
          <td class="num" :class="{ changed: hasChanged(row), decide: row.expectation === 'broken' }">
            {{
              row.expectation === 'broken'
                ? `${changeOf(row)}, must stay`
                : hasChanged(row)
                  ? changeOf(row)
                  : 'stays'
            }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-for="each in brokenBy" :key="each.check" class="small decide">{{ each.says }}</p>
    <CutList :checks="checks" @show="emit('show', $event)" />
  </section>
</template>
