<script setup lang="ts">
/** Where the tape goes: every measurement of the catalogue with its picture. */
import { ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import type { CatalogueRow } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import FigurePicture from '@/components/FigurePicture.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useCatalogue } from '@/composables/useCatalogue'

const { catalogue, problem } = useCatalogue()
const wanted = ref('')
const set = ref('everything')

const rows = computed(() => {
  const codes = catalogue.value?.sets.find((each) => each.code === set.value)?.codes ?? []
  const part = wanted.value.trim().toLowerCase()
  return (catalogue.value?.measurements ?? []).filter(
    ({ measurement }) =>
      codes.includes(measurement.code) &&
      (measurement.name.toLowerCase().includes(part) || (measurement.term ?? '').includes(part)),
  )
})
const picture = ({ measurement }: CatalogueRow) => catalogue.value?.[measurement.tape.view]
</script>

<template>
  <PageFrame title="Where the tape goes" :problem="problem" :reading="!catalogue">
    <template #actions><a :href="`/api/sheet.pdf?set=${set}`">Print a blank sheet of this set</a></template>
    <div class="row">
      <div class="field">
        <label for="wanted">Search by name</label>
        <ElInput id="wanted" v-model="wanted" clearable />
      </div>
      <ChoiceField
        id="set"
        v-model="set"
        label="Set"
        :choices="
          catalogue?.sets.map(({ code, name, codes }) => ({
            value: code,
            label: `${name} (${codes.length})`,
          })) ?? []
        "
      />
    </div>
    <p v-if="catalogue && !rows.length" class="soft">Nothing in this set has that name.</p>
    <ul class="guide">
      <li v-for="row in rows" :key="row.measurement.code" class="card">
        <FigurePicture
          v-if="picture(row)"
          :figure="picture(row)!"
          :tape="row.tape"
          :label="`The tape for ${row.measurement.name}`"
        />
        <div class="stack words">
          <h2>{{ row.measurement.name }}</h2>
          <p>{{ row.measurement.how }}</p>
          <p class="small"><strong>Mind:</strong> {{ row.measurement.mistake }}</p>
          <p class="small soft">
            Usually {{ row.range }}{{ row.measurement.sides ? ', left and right' : '' }}.
            <template v-if="row.measurement.term"
              >Standard term: {{ row.measurement.term
              }}<template v-if="row.measurement.clause"> (ISO 8559-1, {{ row.measurement.clause }})</template
              >.</template
            >
            {{ row.measurement.differs }}
          </p>
        </div>
      </li>
    </ul>
  </PageFrame>
</template>

<style scoped>
.guide {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(20rem, 1fr));
  gap: 1rem;
}
.guide li {
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 1rem;
  align-items: start;
}
.guide :deep(svg) {
  max-height: 230px;
}
.words {
  gap: 0.45rem;
}
.field {
  min-width: 15rem;
}
@media (max-width: 500px) {
  .guide {
    grid-template-columns: minmax(0, 1fr);
  }
  .guide li {
    grid-template-columns: 84px 1fr;
  }
}
</style>
