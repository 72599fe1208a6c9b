<script setup lang="ts">
/** How a reading is taken: the schools that matter to it, and ease that rides on the tape. */
import { computed } from 'vue'
import SchoolSelects from './SchoolSelects.vue'
import type { Taken } from '@/api/types'
import LengthField from '@/components/LengthField.vue'
import { useCatalogue } from '@/composables/useCatalogue'

const props = defineProps<{ code: string; modelValue: Taken }>()
const emit = defineEmits<{ 'update:modelValue': [taken: Taken] }>()
const { catalogue } = useCatalogue()
const matters = computed(() => catalogue.value?.matters.filter((m) => m.applies.includes(props.code)) ?? [])
</script>

<template>
  <fieldset class="method">
    <legend class="legend">How it is taken</legend>
    <SchoolSelects
      prefix="matter"
      :matters="matters"
      :model-value="modelValue.schools"
      @update:model-value="emit('update:modelValue', { ...modelValue, schools: $event })"
    />
    <LengthField
      label="Ease on the tape, taken off"
      :model-value="modelValue.ease_mm"
      @update:model-value="emit('update:modelValue', { ...modelValue, ease_mm: $event ?? 0 })"
    />
  </fieldset>
</template>

<style scoped>
.method {
  display: flex;
  flex-wrap: wrap;
  gap: 0.8rem;
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  padding: 0.5rem 0.8rem 0.8rem;
  margin: 0;
}
.method .field {
  min-width: 12rem;
}
</style>
