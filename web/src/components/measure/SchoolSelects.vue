<script setup lang="ts">
/** The school of each matter: how it is taken. */
import type { Matter } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'

defineProps<{
  matters: readonly Matter[]
  /** Distinguishes the fields where the list stands twice on a page. */
  prefix: string
}>()
const schools = defineModel<Record<string, string>>({ required: true })

function choose(matter: string, school: string): void {
  schools.value = { ...schools.value, [matter]: school }
}
</script>

<template>
  <ChoiceField
    v-for="matter in matters"
    :id="`${prefix}-${matter.code}`"
    :key="matter.code"
    :model-value="schools[matter.code] ?? matter.school[0]?.code"
    :label="matter.name"
    :choices="matter.school.map(({ code, name }) => ({ value: code, label: name }))"
    @update:model-value="(school) => school && choose(matter.code, school)"
  />
</template>
