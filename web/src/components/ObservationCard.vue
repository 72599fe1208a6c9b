<script setup lang="ts">
/** An observation and what is decided about it. */
import { ElButton, ElInput } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import { put } from '@/api/client'
import type { Decision, ObservationView, Problem } from '@/api/types'
import LengthField from '@/components/LengthField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{ seen: ObservationView; closed: boolean }>()
const emit = defineEmits<{ decided: [] }>()
const { craft, unit } = useHouse()
const problem = shallowRef<Problem>()
const way = ref<'alter' | 'leave'>()
const alteration = ref('full_bust')
/** What a pinned amount can be put into: a share of a dart is no length. */
const pinned = computed(
  () =>
    craft.value?.alterations.filter(
      ({ params }) => params[0] && !['share', 'place'].includes(params[0].on),
    ) ?? [],
)
const amount = ref<number | null>(props.seen.per_half?.mm ?? 0)
const reason = ref('')
const named = computed(() => `${props.seen.kind_name} at ${props.seen.place}`)

async function decide(decision: Decision): Promise<void> {
  const body = { revision: props.seen.revision, decision }
  const result = await put(`/api/observations/${props.seen.id}/decision`, body)
  problem.value = result.ok ? undefined : result.problem
  if (!result.ok) return
  way.value = undefined
  emit('decided')
}
</script>

<template>
  <article class="card stack" :aria-label="named">
    <div>
      <strong>{{ named }}</strong>
      <p v-if="seen.note">{{ seen.note }}</p>
      <p v-if="seen.depth" class="small">
        Pinned {{ seen.depth.text }} {{ unit }}:
        <span class="changed figure">{{ seen.per_half?.text }} {{ unit }} per half</span>
      </p>
      <p :class="{ decide: !seen.decided }">{{ seen.decided ?? 'To decide' }}</p>
    </div>
    <template v-if="!closed">
      <div class="row" role="group" :aria-label="`Decide: ${named}`">
        <ElButton :aria-pressed="way === 'alter'" @click="way = 'alter'">Alter the pattern</ElButton>
        <ElButton :aria-pressed="way === 'leave'" @click="way = 'leave'">Leave as it is</ElButton>
        <ElButton @click="decide({ what: 'watch' })">Watch</ElButton>
      </div>
      <form
        v-if="way === 'alter'"
        class="stack"
        @submit.prevent="decide({ what: 'alter', alteration, amounts: { amount: amount ?? 0 } })"
      >
        <div class="field">
          <label :for="`alteration-${seen.id}`">Alteration</label>
          <select :id="`alteration-${seen.id}`" v-model="alteration">
            <option v-for="each in pinned" :key="each.code" :value="each.code">
              {{ each.name }}
            </option>
          </select>
        </div>
        <LengthField v-model="amount" label="Amount, per half or per seam" />
        <ElButton type="primary" native-type="submit">Decide this alteration</ElButton>
      </form>
      <form v-if="way === 'leave'" class="stack" @submit.prevent="decide({ what: 'leave', reason })">
        <div class="field">
          <label :for="`reason-${seen.id}`">Why it stays</label>
          <ElInput :id="`reason-${seen.id}`" v-model="reason" maxlength="400" />
        </div>
        <ElButton type="primary" native-type="submit">Leave it</ElButton>
      </form>
      <ProblemNote :problem="problem" />
    </template>
  </article>
</template>

<style scoped>
.card {
  gap: 0.6rem;
}
</style>
