<script setup lang="ts">
/** The wand: a ruled stick whose large marks are the stages and small marks the rounds. */
import { computed, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { get } from '@/api/client'
import type { OrderView } from '@/api/types'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ order: OrderView }>()
const route = useRoute()

const STAGES = [
  { stage: 'measure', name: 'Measure' },
  { stage: 'compare', name: 'Compare' },
  { stage: 'alter', name: 'Alter' },
  { stage: 'toile', name: 'Toile' },
  { stage: 'fit', name: 'Fit' },
  { stage: 'cut', name: 'Cut' },
] as const

const stands = computed(() => {
  const at = STAGES.findIndex((mark) => mark.stage === props.order.standing.stage)
  return at === -1 ? STAGES.length : at
})
const here = computed(() => (route.name === 'round' ? 'fit' : String(route.name)))
// Read anew when another round is opened.
const { data: rounds, reload } = useResource(() =>
  props.order.round
    ? get('/api/orders/{id}/rounds', { params: { path: { id: props.order.id } } })
    : undefined,
)
watch(
  () => props.order.round,
  () => void reload(),
)

function open(stage: string): string {
  const { missing, undecided } = props.order
  if (stage === 'measure' && missing) return `${missing} to take`
  if (stage === 'fit' && undecided > 0) return `${undecided} to decide`
  return ''
}
</script>

<template>
  <nav class="wand no-print" :aria-label="`${order.garment}: stages`">
    <ol>
      <li
        v-for="(mark, index) in STAGES"
        :key="mark.stage"
        :class="{ past: index < stands, now: index === stands, here: mark.stage === here }"
      >
        <RouterLink
          :to="{ name: mark.stage, params: { id: order.id } }"
          :aria-current="mark.stage === here ? 'step' : undefined"
        >
          <span class="mark" aria-hidden="true" />
          <span class="word">{{ mark.name }}</span>
          <span v-if="index === stands" class="visually-hidden">, the garment stands here</span>
          <span v-if="open(mark.stage)" class="open">{{ open(mark.stage) }}</span>
        </RouterLink>
        <ul v-if="mark.stage === 'fit' && rounds?.length" class="rounds" aria-label="Rounds">
          <li v-for="round in rounds" :key="round.id">
            <span class="tick" aria-hidden="true" />
            <RouterLink class="small" :to="{ name: 'round', params: { id: order.id, round: round.id } }"
              >round {{ round.number }}</RouterLink
            >
          </li>
        </ul>
      </li>
    </ol>
    <p class="beside small">
      <RouterLink :to="{ name: 'wishes', params: { id: order.id } }">Wishes</RouterLink>
      <RouterLink :to="{ name: 'story', params: { id: order.id } }">Story</RouterLink>
      <RouterLink :to="{ name: 'dates', params: { id: order.id } }">Dates</RouterLink>
    </p>
  </nav>
</template>

<style scoped>
.wand {
  width: 132px;
  padding: 0.4rem 0 1rem;
}
ol,
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
ol {
  position: relative;
  background:
    repeating-linear-gradient(to bottom, var(--rule) 0 1px, transparent 1px 8px) 0 0 / 9px 100% no-repeat,
    linear-gradient(to right, var(--raised) 0 26px, transparent 26px);
  border-left: 1px solid var(--ink);
}
ol::after {
  content: '';
  position: absolute;
  top: 0;
  bottom: 0;
  left: 25px;
  border-right: 1px solid var(--ink);
}
ol > li {
  min-height: 78px;
}
a {
  display: grid;
  grid-template-columns: 26px auto;
  column-gap: 10px;
  align-items: center;
  text-decoration: none;
  min-height: 34px;
}
.mark {
  height: 2px;
  width: 20px;
  background: var(--ink-soft);
}
.past .mark {
  background: var(--ink);
  width: 26px;
}
.now .mark {
  background: var(--madder);
  height: 5px;
  width: 26px;
}
.now .word {
  color: var(--madder);
  font-weight: 700;
}
.word {
  font: 500 1.05rem var(--serif);
}
.here .word {
  text-decoration: underline;
  text-decoration-thickness: 2px;
  text-underline-offset: 4px;
}
.open {
  grid-column: 2;
  color: var(--madder);
  font-size: 0.85rem;
  font-weight: 700;
  line-height: 1;
}
.rounds li {
  display: grid;
  grid-template-columns: 26px auto;
  column-gap: 10px;
  align-items: center;
  color: var(--ink-soft);
}
.rounds a {
  min-height: 26px;
  display: flex;
}
.beside {
  display: flex;
  gap: 1rem;
  margin-top: 0.8rem;
}
.beside a {
  display: inline-flex;
  min-height: 26px;
}
.beside .router-link-active {
  font-weight: 700;
}
.tick {
  height: 1px;
  width: 12px;
  background: var(--ink);
}
@media (max-width: 900px) {
  .wand {
    width: 100%;
    overflow-x: auto;
    padding: 0 0 0.4rem;
  }
  ol {
    display: flex;
    background: none;
    border: 0;
    border-top: 1px solid var(--ink);
  }
  ol::after,
  .rounds {
    display: none;
  }
  ol > li {
    min-height: 0;
    flex: 1 0 auto;
  }
  a {
    display: block;
    padding: 0.35rem 0.7rem 0.35rem 0;
    min-height: 44px;
  }
  .beside {
    margin: 0;
  }
  .beside a {
    align-items: center;
    min-height: 36px;
  }
  .mark,
  .past .mark,
  .now .mark {
    display: block;
    width: 2px;
    height: 9px;
    margin-top: -0.35rem;
  }
  .now .mark {
    width: 5px;
  }
  .open {
    display: block;
    font-size: 0.75rem;
  }
}
</style>
