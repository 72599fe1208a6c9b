<script setup lang="ts">
/** Two patterns laid over each other, with the measures of both and what they differ by. */
import { ElTable, ElTableColumn } from 'element-plus'
import { computed, ref } from 'vue'
import LaidOver from './LaidOver.vue'
import type { PatternBeside, PatternsBeside } from '@/api/types'
import { useHouse } from '@/composables/useHouse'
import { asDay } from '@/days'
import { isNought } from '@/figures'

const props = defineProps<{ view: PatternsBeside }>()
const { unit } = useHouse()
const anchor = ref<'neck' | 'waist'>('neck')
const ANCHORS = { neck: 'the neck side', waist: 'centre and waist' } as const
/** Both as they are called; of the same name told apart by their day. */
const named = ({ name, which, at }: PatternBeside) => [name, which, asDay(at)].filter(Boolean).join(', ')
const here = computed(() => named(props.view.here))
const there = computed(() => named(props.view.there))
/** Only what differs as it is written stands out. */
const rows = computed(() => props.view.figures.filter((row) => row.before && row.change))
const differing = computed(() => rows.value.filter((row) => row.change && !isNought(row.change.text)).length)
const signed = (mm: number, text: string) => (mm > 0 ? `+${text}` : text)
</script>

<template>
  <div class="two">
    <section class="stack" aria-label="Laid over each other">
      <fieldset class="chips">
        <legend class="legend">Laid together at</legend>
        <label v-for="(name, code) in ANCHORS" :key="code" class="chip"
          ><input v-model="anchor" type="radio" name="laid-at" :value="code" /><span>{{ name }}</span></label
        >
      </fieldset>
      <LaidOver
        :block="view.here.pieces"
        :own="view.there.pieces"
        :anchor="anchor"
        :ink="here"
        :blue="there"
      />
    </section>
    <section class="stack" aria-label="Measures of both">
      <p>
        {{
          differing === 0
            ? 'Every measure of both is the same.'
            : `${differing} of ${rows.length} measures differ.`
        }}
      </p>
      <ElTable :data="rows" empty-text="Nothing to compare">
        <ElTableColumn prop="name" :label="`Measure, ${unit}`" min-width="150">
          <template #default="{ row }">{{ row.name }}{{ row.side ? `, ${row.side}` : '' }}</template>
        </ElTableColumn>
        <ElTableColumn :label="here" align="right" min-width="90">
          <template #default="{ row }">{{ row.before.text }}</template>
        </ElTableColumn>
        <ElTableColumn :label="there" align="right" min-width="90">
          <template #default="{ row }">{{ row.after.text }}</template>
        </ElTableColumn>
        <ElTableColumn label="Differs" align="right" min-width="80">
          <template #default="{ row }"
            ><b v-if="!isNought(row.change.text)">{{ signed(row.change.mm, row.change.text) }}</b></template
          >
        </ElTableColumn>
      </ElTable>
    </section>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1.4rem;
  align-items: start;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
