<script setup lang="ts">
/** A cause that is suggested: how sure it is said, what speaks for and against it, how to test it, and what is done about
 * it in one tap. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { CauseOffer, Suggestion } from '@/api/types'
import { useHouse } from '@/composables/useHouse'
import { howSure } from './decided'

const props = defineProps<{
  cause: Suggestion
  rank: number
  takes: boolean
  /** Its evidence is shown at once. @default false */
  open?: boolean
  /** What an alteration was already taken for in this round: taken once more, the pattern would be altered twice. */
  takenFor: (alteration: string) => string | undefined
}>()
defineEmits<{ take: [offer: CauseOffer]; leave: [reason: string]; watch: [] }>()
const { unit } = useHouse()

/** The alteration, and what goes with it. */
const offers = computed<readonly CauseOffer[]>(() => [
  ...(props.cause.answer.what === 'alter' ? [props.cause.answer] : []),
  ...props.cause.beside,
])
/** Where two cannot be told none stands out. */
const stands = computed(
  () => props.rank === 1 && (props.cause.sure === 'sure' || props.cause.sure === 'likely'),
)
</script>

<template>
  <li class="cause">
    <details :open="open">
      <summary>
        <span class="rank figure">{{ rank }}</span> <strong>{{ cause.title }}</strong>
        <span class="sure small" :class="{ firm: stands }">{{ howSure(cause) }}</span>
      </summary>
      <p>{{ cause.says }}</p>
      <p class="small"><b>To tell:</b> {{ cause.test }}</p>
      <p v-if="$slots.default" class="small soft"><slot /></p>
      <ul class="evidence small">
        <li v-for="says in cause.speaks_for" :key="says"><b class="for">for</b> {{ says }}</li>
        <li v-for="says in cause.speaks_against" :key="says"><b class="decide">against</b> {{ says }}</li>
        <li v-if="cause.not_looked_at.length" class="soft">
          Not known: {{ cause.not_looked_at.join(', ') }}
        </li>
      </ul>
    </details>
    <div v-if="cause.answer.what === 'leave'" class="do">
      <span class="small">Nothing to alter: {{ cause.answer.reason }}.</span>
      <ElButton
        v-if="takes"
        :type="stands ? 'primary' : 'default'"
        @click="cause.answer.what === 'leave' && $emit('leave', `${cause.title}: ${cause.answer.reason}`)"
        >Leave it</ElButton
      >
    </div>
    <div v-for="(offer, index) in offers" :key="offer.alteration" class="do">
      <template v-if="takenFor(offer.alteration)">
        <span class="small">
          {{ offer.alteration_name }} is already taken for “{{ takenFor(offer.alteration)?.toLowerCase() }}”.
        </span>
        <ElButton v-if="takes && index === 0" @click="$emit('watch')">Watch it with that</ElButton>
      </template>
      <template v-else>
        <span class="small"
          >{{ index ? 'With it: ' : '' }}{{ offer.alteration_name }}
          <b class="figure changed">{{ offer.amount.text }} {{ unit }}</b>
          {{ offer.on }}
          <span class="soft">({{ offer.amount_from }})</span></span
        >
        <span v-if="offer.cannot" class="small decide">Cannot be done as it stands: {{ offer.cannot }}</span>
        <ElButton
          v-else-if="takes"
          :type="stands && !index ? 'primary' : 'default'"
          @click="$emit('take', offer)"
          >Take {{ offer.alteration_name.toLowerCase() }}</ElButton
        >
      </template>
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
.sure {
  margin-left: 0.4rem;
  color: var(--ink-soft);
  font-style: italic;
}
.sure.firm {
  color: var(--woad);
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
