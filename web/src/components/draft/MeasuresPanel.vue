<script setup lang="ts">
/** What the draft measures, how sure each figure is, and which of her readings it hangs on. */
import type { DraftMeasure } from '@/api/types'
import PlusMinus from '@/components/PlusMinus.vue'
import TermMark from '@/components/TermMark.vue'
import { useHouse } from '@/composables/useHouse'

defineProps<{ measures: readonly DraftMeasure[] }>()
const { unit } = useHouse()
const percent = (share: number) => `${Math.round(share * 100)} %`
</script>

<template>
  <section class="stack" aria-labelledby="measures-title">
    <h2 id="measures-title">What the draft measures</h2>
    <p class="small soft">
      Behind ± stands the <TermMark term="spread">spread</TermMark> of her readings, carried through the
      construction.
    </p>
    <table>
      <thead>
        <tr>
          <th scope="col">Figure</th>
          <th scope="col" class="num">Measures</th>
          <th scope="col">Hangs on</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in measures" :key="row.figure">
          <th scope="row">{{ row.name }}</th>
          <td class="num" :title="`${row.measure.exact} ${unit}`">
            {{ row.measure.text }}<PlusMinus :spread="row.spread" />
          </td>
          <td class="small soft">
            {{
              row.hangs_on.length
                ? row.hangs_on.map(({ name, share }) => `${name.toLowerCase()} ${percent(share)}`).join('; ')
                : 'no reading: it is the method’s own'
            }}
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
table {
  max-width: 52rem;
}
td.num {
  white-space: nowrap;
}
</style>
