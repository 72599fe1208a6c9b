<script setup lang="ts">
/** Two states of the pattern laid on each other, and their figures: block, versions, the recipe now. */
import { computed, ref, watch } from 'vue'
import { get } from '@/api/client'
import ChoiceField from '@/components/ChoiceField.vue'
import LaidOver from '@/components/drawing/LaidOver.vue'
import { hasNeck } from '@/components/drawing/pieces'
import ProblemNote from '@/components/ProblemNote.vue'
import type { VersionView } from '@/api/types'
import { useResource } from '@/composables/useResource'
import { changeOf, hasChanged } from '@/figures'

const props = defineProps<{
  pattern: number
  versions: readonly VersionView[]
  /** Counts what was kept: the recipe now is read anew. */
  revision: number
}>()

const one = ref('block')
const other = ref('now')
const anchor = ref<'neck' | 'waist'>('neck')
const states = computed(() => [
  { value: 'block', label: 'the block' },
  ...props.versions.map(({ version, why }) => ({
    value: String(version),
    label: `version ${version}${why ? `, ${why}` : ''}`,
  })),
  { value: 'now', label: 'the recipe now' },
])
const { data, problem, reload } = useResource(() =>
  get('/api/patterns/{id}/beside', {
    params: { path: { id: props.pattern }, query: { one: one.value, other: other.value } },
  }),
)
watch(
  () => props.revision,
  () => void reload(),
)
const rows = computed(() => data.value?.figures.filter(hasChanged) ?? [])
</script>

<template>
  <section class="stack" aria-labelledby="beside-title">
    <h2 id="beside-title">Two states beside each other</h2>
    <ProblemNote :problem="problem" />
    <div class="row states">
      <ChoiceField id="state-one" v-model="one" label="In ink" :choices="states" />
      <ChoiceField id="state-other" v-model="other" label="Laid over it, in blue" :choices="states" />
      <ChoiceField
        v-if="data && hasNeck(data.one.pieces)"
        id="state-anchor"
        v-model="anchor"
        label="Laid together at"
        :choices="[
          { value: 'neck', label: 'the neck side' },
          { value: 'waist', label: 'centre and waist' },
        ]"
      />
    </div>
    <template v-if="data">
      <LaidOver
        :block="data.one.pieces"
        :own="data.other.pieces"
        :anchor="anchor"
        :ink="data.one.name"
        :blue="data.other.name"
      />
      <table v-if="rows.length">
        <thead>
          <tr>
            <th scope="col">Figure</th>
            <th scope="col" class="num">{{ data.one.name }}</th>
            <th scope="col" class="num">{{ data.other.name }}</th>
            <th scope="col" class="num">Difference</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="`${row.figure} ${row.side}`">
            <th scope="row">{{ row.name }}{{ row.side ? `, ${row.side}` : '' }}</th>
            <td class="num">{{ row.before?.text ?? '–' }}</td>
            <td class="num">{{ row.after.text }}</td>
            <td class="num changed">{{ changeOf(row) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else>Every figure is the same.</p>
    </template>
  </section>
</template>

<style scoped>
.states {
  flex-wrap: wrap;
  align-items: end;
}
.states select {
  max-width: 100%;
}
</style>
