<script setup lang="ts">
/** An observation of an earlier round: what has become of it, and how much is left. */
import { ElInput } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import type { Mark, ObservationView, Problem } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{
  seen: ObservationView
  round: number
  closed: boolean
  /** Marks it; resolves with why it was turned down. */
  mark: (mark: Mark, left: string) => Promise<Problem | undefined>
}>()
const { unit } = useHouse()
const problem = shallowRef<Problem>()
const MARKS: { mark: Mark; name: string }[] = [
  { mark: 'gone', name: 'Gone' },
  { mark: 'better', name: 'Better' },
  { mark: 'same', name: 'Same' },
  { mark: 'worse', name: 'Worse' },
  { mark: 'moved', name: 'Moved' },
]
const own = computed(() => props.seen.marks.find((each) => each.round === props.round))
/** Chosen here and perhaps not at the server yet. */
const chosen = ref<Mark>()
const now = computed(() => chosen.value ?? own.value?.mark)
const left = ref(own.value?.left?.text ?? '')

async function set(mark: Mark): Promise<void> {
  chosen.value = mark
  problem.value = await props.mark(mark, mark === 'gone' ? '' : left.value)
}
</script>

<template>
  <article class="card earlier" :aria-label="`Earlier: ${seen.said}`">
    <div>
      <strong>{{ seen.said }}</strong>
      <p class="small">{{ seen.seen.note }}</p>
      <p class="small soft">Round {{ seen.round }}: {{ seen.decided ?? 'not decided' }}</p>
      <p v-if="seen.warning" class="small decide">{{ seen.warning }}</p>
    </div>
    <div class="now">
      <fieldset class="chips" :disabled="closed">
        <legend class="visually-hidden">{{ seen.said }} is now</legend>
        <label v-for="each in MARKS" :key="each.mark" class="chip">
          <input
            type="radio"
            :name="`mark-${seen.id}`"
            :checked="now === each.mark"
            @change="set(each.mark)"
          />
          <span>{{ each.name }}</span>
        </label>
      </fieldset>
      <div v-if="seen.pins && now && now !== 'gone'" class="left">
        <label :for="`left-${seen.id}`" class="small">still, per half, {{ unit }}</label>
        <ElInput
          :id="`left-${seen.id}`"
          v-model="left"
          :disabled="closed"
          autocomplete="off"
          :placeholder="`was ${seen.pins.per_half.text}`"
          @change="now && set(now)"
        />
      </div>
      <ProblemNote :problem="problem" />
    </div>
  </article>
</template>

<style scoped>
.earlier {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem 1.4rem;
  justify-content: space-between;
  align-items: start;
}
.earlier > div:first-child {
  flex: 1 1 18rem;
}
.now {
  display: grid;
  gap: 0.5rem;
}
.left {
  display: grid;
  grid-template-columns: auto 7rem;
  gap: 0.6rem;
  align-items: center;
  justify-content: start;
}
</style>
