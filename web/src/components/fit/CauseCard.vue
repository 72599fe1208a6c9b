<script setup lang="ts">
/** A cause that is suggested: what speaks for and against it, how to test it, and its alteration in one tap. */
import { ElButton } from 'element-plus'
import type { Suggestion } from '@/api/types'
import { useHouse } from '@/composables/useHouse'

defineProps<{
  cause: Suggestion
  rank: number
  takes: boolean
  /** Its evidence is shown at once. @default false */
  open?: boolean
  /** What it was already taken for in this round: taken once more, the pattern would be altered twice. */
  takenFor?: string
}>()
defineEmits<{ take: []; watch: [] }>()
const { unit } = useHouse()
</script>

<template>
  <li class="cause">
    <details :open="open">
      <summary>
        <span class="rank figure">{{ rank }}</span> <strong>{{ cause.title }}</strong>
      </summary>
      <p>{{ cause.says }}</p>
      <p class="small"><b>To tell:</b> {{ cause.test }}</p>
      <p v-if="$slots.default" class="small soft"><slot /></p>
      <ul class="evidence small">
        <li v-for="says in cause.speaks_for" :key="says"><b class="for">for</b> {{ says }}</li>
        <li v-for="says in cause.speaks_against" :key="says"><b class="decide">against</b> {{ says }}</li>
      </ul>
    </details>
    <div v-if="takenFor" class="do">
      <span class="small">
        {{ cause.alteration_name }} is already taken for “{{ takenFor.toLowerCase() }}”.
      </span>
      <ElButton v-if="takes" @click="$emit('watch')">Watch it with that</ElButton>
    </div>
    <div v-else class="do">
      <span class="small"
        >{{ cause.alteration_name }} <b class="figure changed">{{ cause.amount.text }} {{ unit }}</b>
        {{ cause.on }}{{ cause.side ? `, on the ${cause.side}` : '' }}
        <span class="soft">({{ cause.amount_from }})</span></span
      >
      <span v-if="cause.cannot" class="small decide">Cannot be done as it stands: {{ cause.cannot }}</span>
      <ElButton v-else-if="takes" :type="rank === 1 ? 'primary' : 'default'" @click="$emit('take')"
        >Take {{ cause.alteration_name.toLowerCase() }}</ElButton
      >
    </div>
  </li>
</template>

<style scoped>
.cause {
  border-top: 1px solid var(--rule);
  padding: 0.5rem 0;
  display: grid;
  gap: 0.45rem;
}
summary {
  cursor: pointer;
  min-height: 1.8rem;
}
.rank {
  display: inline-block;
  min-width: 1rem;
  color: var(--ink-soft);
}
.evidence {
  margin: 0.3rem 0 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 0.15rem;
}
.for {
  color: var(--woad);
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 0.8rem;
  justify-content: space-between;
  align-items: center;
}
</style>
