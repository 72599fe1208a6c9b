<script setup lang="ts" generic="T extends string | number">
/**
 * One of a list, with its label: opened by a press or a key, and searched by typing where the list is long. A choice of
 * nothing is an entry of its own, where there is such a choice.
 */
import { ElOption, ElOptionGroup, ElSelect } from 'element-plus'
import { computed, useTemplateRef } from 'vue'
import { useMedia } from '@/composables/useMedia'

/** One entry of the list. */
export interface Choice<V> {
  value: V
  label: string
  /** The heading it stands under. @default none */
  group?: string
  /** It is shown and cannot be chosen. @default false */
  disabled?: boolean
}

const props = defineProps<{
  id: string
  label: string
  choices: readonly Choice<T>[]
  /** What the choice of nothing is called. @default something is always chosen */
  none?: string
  /** The label is only heard. @default false */
  unseen?: boolean
  /** A sentence under it. */
  hint?: string
}>()
const choice = defineModel<T | undefined>({ required: true })

/** From so many entries on the list is searched by typing. */
const LONG = 10

const select = useTemplateRef<InstanceType<typeof ElSelect>>('select')
/** The element one chooses in. */
const root = () => select.value?.$el as HTMLElement | undefined
defineExpose({ focus: (options?: FocusOptions) => root()?.querySelector('input')?.focus(options) })
/** Under a finger a field that is typed into would bring up the keyboard over the list. */
const typed = useMedia('(pointer: fine)')

/** Entries under their headings, in their own order. */
const groups = computed(() => {
  const found = new Map<string, Choice<T>[]>()
  for (const each of props.choices) {
    const group = each.group ?? ''
    found.set(group, [...(found.get(group) ?? []), each])
  }
  return [...found]
})

function take(value: T | ''): void {
  choice.value = value === '' ? undefined : value
  // A form hears of it as of any field.
  root()?.dispatchEvent(new Event('input', { bubbles: true }))
}
</script>

<template>
  <div class="field choice">
    <label :for="id" :class="{ 'visually-hidden': unseen }">{{ label }}</label>
    <ElSelect
      :id="id"
      ref="select"
      :model-value="choice ?? ''"
      :filterable="typed && choices.length > LONG"
      :placeholder="none ?? 'choose'"
      :empty-values="none === undefined ? ['', undefined, null] : [undefined, null]"
      no-match-text="nothing of this name"
      no-data-text="nothing to choose from"
      :fit-input-width="false"
      @change="take"
    >
      <ElOption v-if="none !== undefined" value="" :label="none" />
      <template v-for="[group, entries] in groups" :key="group">
        <ElOptionGroup v-if="group" :label="group">
          <ElOption
            v-for="each in entries"
            :key="each.value"
            :value="each.value"
            :label="each.label"
            :disabled="each.disabled"
          />
        </ElOptionGroup>
        <template v-else>
          <ElOption
            v-for="each in entries"
            :key="each.value"
            :value="each.value"
            :label="each.label"
            :disabled="each.disabled"
          />
        </template>
      </template>
    </ElSelect>
    <p v-if="hint" class="small soft">{{ hint }}</p>
  </div>
</template>
