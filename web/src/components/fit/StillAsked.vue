<script setup lang="ts">
/** What an observation leaves open that its causes depend on: which way, how far, what it points at. One tap each. */
import { ElButton, ElInput } from 'element-plus'
import { computed, reactive, ref, shallowRef } from 'vue'
import type { MoreSaid, ObservationView, Problem, Unsaid } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{
  seen: ObservationView
  asks: readonly Unsaid[]
  /** Says more of it; resolves with why it was turned down. */
  say: (more: MoreSaid) => Promise<Problem | undefined>
}>()
defineEmits<{ allTheSame: [] }>()
const { craft, unit } = useHouse()
const problem = shallowRef<Problem>()
const busy = ref(false)
const more = reactive<{ lie?: MoreSaid['lie']; towards?: string; how_far: string }>({ how_far: '' })
const lies = computed(
  () => craft.value?.observation_kinds.find((each) => each.kind === props.seen.seen.kind)?.lies ?? [],
)
const places = computed(() => craft.value?.places.map((place) => ({ value: place, label: place })) ?? [])

async function sayIt(): Promise<void> {
  if (busy.value) return
  busy.value = true
  problem.value = await props.say({ ...more })
  busy.value = false
}
function goes(lie: MoreSaid['lie']): void {
  more.lie = lie
  if (!props.asks.includes('how_far')) void sayIt()
}
</script>

<template>
  <form class="asked" @submit.prevent="sayIt">
    <p class="small">Before a cause is taken, say of “{{ seen.said.toLowerCase() }}”:</p>
    <fieldset v-if="asks.includes('which_way')" class="chips">
      <legend class="legend">It goes</legend>
      <label v-for="each in lies" :key="each.lie" class="chip">
        <input
          type="radio"
          :name="`goes-${seen.id}`"
          :value="each.lie"
          :checked="more.lie === each.lie"
          @change="goes(each.lie)"
        /><span>{{ each.name }}</span>
      </label>
    </fieldset>
    <ChoiceField
      v-if="asks.includes('towards')"
      :id="`towards-${seen.id}`"
      :model-value="more.towards"
      label="It points at"
      none="choose"
      :choices="places"
      @update:model-value="more.towards = $event ?? undefined"
    />
    <div v-if="asks.includes('how_far')" class="field">
      <label :for="`far-${seen.id}`">How far it is off, {{ unit }}</label>
      <ElInput :id="`far-${seen.id}`" v-model="more.how_far" autocomplete="off" />
    </div>
    <ProblemNote :problem="problem" />
    <div class="row">
      <ElButton type="primary" native-type="submit" :aria-busy="busy">Say so</ElButton>
      <ElButton @click="$emit('allTheSame')">Take it all the same</ElButton>
    </div>
  </form>
</template>

<style scoped>
.asked {
  border-left: 3px solid var(--ochre, var(--rule));
  padding-left: 0.8rem;
  display: grid;
  gap: 0.5rem;
}
</style>
