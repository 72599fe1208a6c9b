<script setup lang="ts">
/** What lasts of a garment's corrections goes into her own block; what is cloth or style stays here. */
import { ElButton } from 'element-plus'
import { ref, shallowRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { get, post } from '@/api/client'
import type { Made } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ order: number }>()
const { data: lasting } = useResource(() =>
  get('/api/orders/{id}/lasting', { params: { path: { id: props.order } } }),
)
const chosen = ref<number[]>([])
const name = ref('')
const made = shallowRef<Made>()

watch(lasting, (now) => {
  name.value = now?.name ?? ''
  chosen.value = now?.steps.filter((step) => step.lasting).map((step) => step.id) ?? []
})

const {
  run: take,
  busy,
  problem,
} = useAction(
  () =>
    post('/api/orders/{id}/own-block', {
      params: { path: { id: props.order } },
      body: { name: name.value, steps: chosen.value },
    }),
  (block) => (made.value = block),
)
</script>

<template>
  <form
    v-if="lasting?.steps.length"
    class="card stack"
    aria-labelledby="lasting-title"
    @submit.prevent="take"
  >
    <h2 id="lasting-title">Into her own block</h2>
    <p class="small soft">
      From {{ lasting.block }}: posture and frame are ticked, so that her next garment starts from them. Cloth
      and style stay with this garment.
    </p>
    <ul>
      <li v-for="step in lasting.steps" :key="step.id">
        <label>
          <input v-model="chosen" type="checkbox" :value="step.id" />
          <span
            ><b>{{ step.name }}</b> {{ step.says }} <span class="soft small">{{ step.reason }}</span></span
          >
        </label>
      </li>
    </ul>
    <TextField id="own-name" v-model="name" label="Name of the block" :most="120" />
    <ProblemNote :problem="problem" />
    <p v-if="made" role="status">
      Kept. <RouterLink :to="{ name: 'block', params: { id: made.id } }">Look at her own block</RouterLink>
    </p>
    <div>
      <ElButton native-type="submit" :aria-busy="busy" :disabled="!chosen.length"
        >Take what is ticked into her own block</ElButton
      >
    </div>
  </form>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
label {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.6rem;
  align-items: baseline;
  padding: 0.3rem 0;
  min-height: 2rem;
}
</style>
