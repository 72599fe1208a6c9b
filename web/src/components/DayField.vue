<script setup lang="ts">
/** A day: shown and typed as the house writes dates, kept as a plain date; chosen from a month that begins on Monday. */
import { ElDatePicker } from 'element-plus'
import { DAY } from '@/days'

const props = defineProps<{
  id: string
  /** The first day that can be chosen, as a plain date. @default any */
  min?: string
  /** It cannot be emptied. @default false */
  required?: boolean
  /** Its name where no label stands beside it. */
  label?: string
}>()
const day = defineModel<string>({ required: true })

/** The picker asks about local midnights. */
const isTooEarly = (at: Date): boolean => props.min !== undefined && at < new Date(`${props.min}T00:00:00`)

function take(now: string | null): void {
  if (now || !props.required) day.value = now ?? ''
}
</script>

<template>
  <ElDatePicker
    :id="id"
    :model-value="day"
    type="date"
    :format="DAY"
    value-format="YYYY-MM-DD"
    placeholder="such as 3 Aug 2027"
    :clearable="!required"
    :disabled-date="isTooEarly"
    :aria-label="label"
    @update:model-value="take"
  />
</template>
