<script setup lang="ts">
/** The school of each matter: how it is taken. */
import type { Matter } from '@/api/types'

defineProps<{
  matters: readonly Matter[]
  /** Distinguishes the fields where the list stands twice on a page. */
  prefix: string
}>()
const schools = defineModel<Record<string, string>>({ required: true })

function choose(matter: string, event: Event): void {
  schools.value = { ...schools.value, [matter]: (event.target as HTMLSelectElement).value }
}
</script>

<template>
  <div v-for="matter in matters" :key="matter.code" class="field">
    <label :for="`${prefix}-${matter.code}`">{{ matter.name }}</label>
    <select
      :id="`${prefix}-${matter.code}`"
      :value="schools[matter.code] ?? matter.school[0]?.code"
      @change="choose(matter.code, $event)"
    >
      <option v-for="school in matter.school" :key="school.code" :value="school.code">
        {{ school.name }}
      </option>
    </select>
  </div>
</template>
