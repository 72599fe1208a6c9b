<script setup lang="ts">
/** What is added at each edge, in millimetres; as the house has it until it is changed here. */
import type { Allowances } from '@/api/types'
import LengthField from '@/components/LengthField.vue'
import { useHouse } from '@/composables/useHouse'

const allowance = defineModel<Partial<Allowances>>({ required: true })
const { craft } = useHouse()
const EDGES = [
  ['side', 'Side seam'],
  ['shoulder', 'Shoulder'],
  ['waist', 'Waist'],
  ['neckline', 'Neckline'],
  ['armhole', 'Armhole'],
  ['centre', 'Centre seam'],
  ['hem', 'Hem'],
] as const
</script>

<template>
  <div class="edges">
    <LengthField
      v-for="[edge, name] in EDGES"
      :key="edge"
      :label="`${name} allowance`"
      :model-value="allowance[edge] ?? 0"
      :least="0"
      :most="craft?.widest_allowance"
      @update:model-value="allowance[edge] = $event ?? 0"
    />
    <slot />
  </div>
</template>

<style scoped>
.edges {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(11rem, 1fr));
  gap: 0.6rem 1rem;
}
</style>
