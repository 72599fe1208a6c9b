<script setup lang="ts" generic="T extends string | number">
/**
 * One of a list, with its label: opened by a press or a key, and searched by typing where the list is long. A choice of
 * nothing is an entry of its own, where there is such a choice.
 */
import { ElSelect } from 'element-plus'
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
  /** What is typed is looked for elsewhere, and the choices change. @default the choices are the whole list */
  remote?: (typed: string) => void
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

/** Entries in their own order, under their headings; what means nothing first. */
const options = computed(() => {
  const found: (Choice<T | ''> | { label: string; options: Choice<T>[] })[] = []
  if (props.none !== undefined) found.push({ value: '', label: props.none })
  for (const each of props.choices) {
    const under = found.find((one) => 'options' in one && one.label === each.group)
    if (under && 'options' in under) under.options.push(each)
    else found.push(each.group === undefined ? each : { label: each.group, options: [each] })
  }
  return found
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
      :filterable="Boolean(remote) || (typed && choices.length > LONG)"
      :remote="Boolean(remote)"
      :remote-method="remote"
      :placeholder="none ?? 'choose'"
      :empty-values="none === undefined ? ['', undefined, null] : [undefined, null]"
      no-match-text="nothing of this name"
      no-data-text="nothing to choose from"
      :fit-input-width="false"
      :options="options"
      @change="take"
    />
    <p v-if="hint" class="small soft">{{ hint }}</p>
  </div>
</template>
