<script setup lang="ts">
/** One line of text with its label. */
import { ElInput } from 'element-plus'

defineProps<{
  id: string
  label: string
  /** Characters that fit. @default as many as one likes */
  most?: number
  placeholder?: string
  /** The keys a phone shows. @default all */
  inputmode?: 'decimal' | 'email' | 'tel'
}>()
const text = defineModel<string>({ required: true })
</script>

<template>
  <div class="field">
    <label :for="id">{{ label }}</label>
    <ElInput
      :id="id"
      v-model="text"
      :maxlength="most"
      :placeholder="placeholder"
      :inputmode="inputmode"
      autocomplete="off"
    />
  </div>
</template>
