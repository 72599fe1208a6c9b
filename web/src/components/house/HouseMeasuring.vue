<script setup lang="ts">
/** How the house measures: its schools, its finger, how old a reading may be. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import LengthField from '@/components/LengthField.vue'
import SchoolSelects from '@/components/measure/SchoolSelects.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useCatalogue } from '@/composables/useCatalogue'
import { useHousePart } from '@/composables/useHousePart'
import { useHouseSave } from '@/composables/useHouseSave'

const { catalogue } = useCatalogue()
const entry = useHousePart((now) => now.measuring)

const ordered = computed(() => {
  const rows = catalogue.value?.measurements.map(({ measurement }) => measurement) ?? []
  const route = entry.value?.route ?? []
  const own = route.flatMap((code) => rows.find((row) => row.code === code) ?? [])
  return [...own, ...rows.filter((row) => !route.includes(row.code))]
})

/** Moves a reading one place up; what comes before it is then the house's own order too. */
function earlier(code: string): void {
  if (!entry.value) return
  const codes = ordered.value.map((row) => row.code)
  const at = codes.indexOf(code)
  codes.splice(at, 1)
  codes.splice(at - 1, 0, code)
  entry.value.route = codes.slice(0, Math.max(at + 1, entry.value.route.length))
}

const { run: save, busy, problem, saved } = useHouseSave(() => ({ measuring: entry.value }))
</script>

<template>
  <form v-if="entry" class="card stack" @submit.prevent="save">
    <h2>How this house measures</h2>
    <p class="small soft">
      Each reading keeps how it was taken, so a change here touches only new ones. The first of each is what
      drafting and comparison use; another is converted, or asked for again.
    </p>
    <SchoolSelects v-model="entry.schools" prefix="house" :matters="catalogue?.matters ?? []" />
    <LengthField
      exactly
      label="One finger under the tape"
      :model-value="entry.finger_mm"
      @update:model-value="entry!.finger_mm = $event ?? entry!.finger_mm"
    />
    <LengthField
      exactly
      label="A cup over the block's by more than this is chosen for by the upper bust"
      :model-value="entry.cup_over_mm"
      @update:model-value="entry.cup_over_mm = $event ?? entry.cup_over_mm"
    />
    <div class="field">
      <label for="age-limit">Days after which a reading is asked for again before cutting</label>
      <input
        id="age-limit"
        v-model.number="entry.age_limit_days"
        class="plain"
        type="number"
        min="1"
        max="3650"
      />
    </div>
    <details>
      <summary>The order of the tape</summary>
      <p class="small soft">
        Back, side, front, round, arm, below, with the fewest turns; or your own: what you move up here comes
        first.
      </p>
      <ol class="route">
        <li v-for="(row, index) in ordered" :key="row.code">
          <span>{{ row.name }}</span>
          <ElButton
            size="small"
            :disabled="index === 0"
            :aria-label="`${row.name} earlier`"
            @click="earlier(row.code)"
            >↑</ElButton
          >
        </li>
      </ol>
      <ElButton v-if="entry.route.length" size="small" @click="entry.route = []"
        >The usual order again</ElButton
      >
    </details>
    <ProblemNote :problem="problem" />
    <div class="row saves">
      <ElButton type="primary" native-type="submit" :aria-busy="busy">Save how we measure</ElButton>
      <span v-if="saved" role="status" class="soft">Saved.</span>
    </div>
  </form>
</template>

<style scoped>
.route {
  margin: 0.4rem 0;
  max-height: 22rem;
  overflow: auto;
}
.route li {
  padding: 0.1rem 0;
}
.route li span {
  display: inline-block;
  min-width: 15rem;
}
summary {
  cursor: pointer;
}
</style>
