<script setup lang="ts">
/** Every constant of a method: what it is, why it stands there, and the way to set it otherwise. */
import { ElButton } from 'element-plus'
import { computed, reactive } from 'vue'
import type { ParameterView, Problem } from '@/api/types'

const props = defineProps<{ parameters: readonly ParameterView[]; problem?: Problem }>()
const changed = defineModel<Record<string, string>>({ required: true })

/** What is being typed: a draft that comes back meanwhile must not write over it. */
const typed = reactive<Record<string, string>>({})
const count = computed(() => Object.keys(changed.value).length)
const fault = (code: string) =>
  props.problem?.pointer === `/method/constants/${code}` ? props.problem.detail : undefined

function set(code: string, value: string): void {
  delete typed[code]
  const next = { ...changed.value }
  if (value.trim() === '') delete next[code]
  else next[code] = value
  changed.value = next
}
</script>

<template>
  <section class="stack" aria-labelledby="constants-title">
    <div class="between">
      <h2 id="constants-title">Constants of the method</h2>
      <ElButton v-if="count" size="small" @click="changed = {}">As the trade has them</ElButton>
    </div>
    <p class="small soft">
      What the body does not say the method does. Each can be set; the draft follows at once, and the set of
      them can be kept as a method of the house.
    </p>
    <ul>
      <li v-for="row in parameters" :key="row.code" :class="{ moved: row.changed }">
        <label v-if="row.unit === 'switch'" class="switch">
          <input
            type="checkbox"
            :checked="row.value === '1'"
            @change="set(row.code, ($event.target as HTMLInputElement).checked ? '1' : '0')"
          />
          {{ row.name }}
        </label>
        <template v-else>
          <label :for="`constant-${row.code}`">{{ row.name }}</label>
          <input
            :id="`constant-${row.code}`"
            class="plain figure"
            type="text"
            autocomplete="off"
            :value="typed[row.code] ?? changed[row.code] ?? row.value"
            :aria-invalid="fault(row.code) !== undefined"
            :aria-describedby="`why-${row.code}`"
            @input="typed[row.code] = ($event.target as HTMLInputElement).value"
            @change="set(row.code, ($event.target as HTMLInputElement).value)"
          />
        </template>
        <p :id="`why-${row.code}`" class="small soft">
          {{ row.reason }}
          <template v-if="row.unit !== 'switch'"
            >Usually {{ row.usual }}; {{ row.least }} to {{ row.most }}.</template
          >
        </p>
        <p v-if="fault(row.code)" role="alert" class="small decide">{{ fault(row.code) }}</p>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(20rem, 100%), 1fr));
  gap: 0.6rem 1.6rem;
}
li {
  display: grid;
  grid-template-columns: 1fr 7rem;
  gap: 0.1rem 0.6rem;
  align-items: center;
  align-content: start;
  border-top: 1px solid var(--rule);
  padding-top: 0.35rem;
}
li p,
.switch {
  grid-column: 1 / -1;
}
li p {
  line-height: 1.3;
}
.moved > label {
  color: var(--woad);
  font-weight: 700;
}
.switch input {
  width: 1.1rem;
  height: 1.1rem;
  accent-color: var(--ink);
}
</style>
