<script setup lang="ts">
/**
 * The frame every page stands in: the one heading with what is said under it and done beside it, why something did not
 * work, and a grey shape until the page has been read.
 */
import { ElSkeleton } from 'element-plus'
import type { Problem, RightName } from '@/api/types'
import { useHouse } from '@/composables/useHouse'
import ProblemNote from './ProblemNote.vue'

const {
  title = undefined,
  problem = undefined,
  reading = false,
  width = 'page',
  right = undefined,
} = defineProps<{
  /** The heading; none until it has been read, or where what is in the page has it. */
  title?: string | undefined
  /** What did not work. */
  problem?: Problem | undefined
  /**
   * Whether what the page shows has still to come.
   * @default false
   */
  reading?: boolean
  /**
   * A page to read, a wide one for drawings, or the place beside the wand of a garment.
   * @default 'page'
   */
  width?: 'page' | 'wide' | 'bench'
  /** What it takes to change what is here: whoever has it not is told so before anything is typed. */
  right?: RightName | undefined
}>()
const { may } = useHouse()
defineSlots<{
  /** Above the heading: whose page it is. */
  above?: () => unknown
  /** Under the heading. */
  lead?: () => unknown
  /** Beside the heading: what is done with the whole page. */
  actions?: () => unknown
  default: () => unknown
}>()
</script>

<template>
  <main
    class="stack"
    :class="{ page: width !== 'bench', wide: width === 'wide' }"
    aria-labelledby="page-title"
    :aria-busy="reading && !problem"
  >
    <slot name="above" />
    <div v-if="title || $slots.actions" class="between">
      <div class="heading">
        <h1 v-if="title" id="page-title">{{ title }}</h1>
        <slot name="lead" />
      </div>
      <div v-if="$slots.actions" class="row actions"><slot name="actions" /></div>
    </div>
    <p v-if="right && !may(right)" class="soft">
      Your sign-in looks at this page and does not change it. The owner of the house may give it more.
    </p>
    <ProblemNote :problem="problem" />
    <ElSkeleton v-if="reading && !problem" :rows="6" :throttle="200" animated />
    <slot v-else />
  </main>
</template>

<style scoped>
/* What is said under the heading breaks its lines before it pushes away what is done beside it. */
.heading {
  flex: 1 1 20rem;
  display: grid;
  gap: 0.35rem;
  min-width: 0;
}
@media (max-width: 700px) {
  .actions {
    width: 100%;
  }
}
</style>
