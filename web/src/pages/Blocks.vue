<script setup lang="ts">
/** The library: house masters and cards, newest version first. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get } from '@/api/client'
import type { BlockView } from '@/api/types'
import SmallDrawing from '@/components/drawing/SmallDrawing.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const { may } = useHouse()
const router = useRouter()
const { data: blocks, problem } = useResource(get('/api/blocks'))

/** Versions of one name together, the newest on top. */
const groups = computed(() => {
  const byName = new Map<string, BlockView[]>()
  for (const block of blocks.value ?? []) byName.set(block.name, [...(byName.get(block.name) ?? []), block])
  return [...byName.values()].flatMap((versions) => {
    const [newest, ...older] = versions
    return newest ? [{ newest, older }] : []
  })
})
const HOW = {
  drafted: 'drafted',
  traced: 'traced off a nest',
  card: 'card, measured by hand',
  draped: 'draped',
  paper: 'from a paper pattern',
} as const
</script>

<template>
  <PageFrame title="Blocks" :problem="problem" :reading="!blocks">
    <template #lead>
      <p class="soft">
        A master is never drawn on and never cut: a pattern begins with a frozen copy of it, and a correction
        is a new version. A client's own blocks stand on her page.
      </p>
    </template>
    <template #actions>
      <ElButton v-if="may('cutting')" type="primary" @click="router.push({ name: 'draft' })"
        >Draft a master</ElButton
      >
      <ElButton v-if="may('cutting')" @click="router.push({ name: 'card' })">Measure a card</ElButton>
      <ElButton @click="router.push({ name: 'drapes' })">From cloth and paper</ElButton>
      <RouterLink :to="{ name: 'size-tables' }">Size tables</RouterLink>
    </template>
    <p v-if="blocks && !blocks.length" class="card">
      The house has no master yet. Draft one from a size table, write a card of a bought pattern, or draft a
      block from a client's own readings on her page.
    </p>
    <ul>
      <li v-for="{ newest, older } in groups" :key="newest.id" class="card block">
        <SmallDrawing v-if="newest.how !== 'card'" :id="newest.id" of="blocks" />
        <div>
          <p class="between">
            <RouterLink :to="{ name: 'block', params: { id: newest.id } }" class="title">{{
              newest.name
            }}</RouterLink>
            <span class="soft small">{{ HOW[newest.how] }}</span>
          </p>
          <p>{{ newest.why }}</p>
          <p class="small">
            {{ newest.sizes.length === 1 ? 'Size' : 'Sizes' }} {{ newest.sizes.join(', ') }}.
            <span class="soft">
              Version {{ newest.version }}, {{ newest.made_by }}, {{ asDay(newest.made_at) }};
              {{
                newest.used === 0
                  ? 'not used yet'
                  : newest.used === 1
                    ? 'one pattern begun from it'
                    : `${newest.used} patterns begun from it`
              }}.
            </span>
          </p>
          <details v-if="older.length">
            <summary class="small">Earlier versions</summary>
            <p v-for="block in older" :key="block.id" class="small">
              <RouterLink :to="{ name: 'block', params: { id: block.id } }"
                >Version {{ block.version }}</RouterLink
              >: {{ block.why }} <span class="soft">{{ block.made_by }}, {{ asDay(block.made_at) }}</span>
            </p>
          </details>
        </div>
      </li>
    </ul>
  </PageFrame>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.7rem;
}
.block {
  display: flex;
  gap: 1.1rem;
}
.block > div {
  flex: 1 1 auto;
  min-width: 0;
}
.title {
  font: 600 1.25rem var(--serif);
}
summary {
  cursor: pointer;
}
</style>
