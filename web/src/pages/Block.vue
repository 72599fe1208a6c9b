<script setup lang="ts">
import { computed, ref } from 'vue'
import type { BlockDetail } from '@/api/types'
import BlockSheet from '@/components/BlockSheet.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const props = defineProps<{ id: string }>()
const { data: detail, problem } = useResource<BlockDetail>(() => `/api/blocks/${props.id}`)
const chosen = ref<string>()
const size = computed(() => {
  const sizes = detail.value?.sizes ?? []
  return sizes.find((each) => each.label === chosen.value) ?? sizes[Math.floor((sizes.length - 1) / 2)]
})
</script>

<template>
  <main class="page stack" aria-labelledby="block-title">
    <ProblemNote :problem="problem" />
    <template v-if="detail && size">
      <div>
        <h1 id="block-title">{{ detail.block.name }}</h1>
        <p class="soft">
          {{ detail.block.why }} Ease: {{ detail.ease }}. Version {{ detail.block.version }},
          {{ detail.block.made_by }}, {{ asDay(detail.block.made_at) }}.
        </p>
      </div>
      <fieldset v-if="detail.sizes.length > 1" class="chips">
        <legend class="legend">Size</legend>
        <label v-for="each in detail.sizes" :key="each.label" class="chip">
          <input
            type="radio"
            name="size"
            :value="each.label"
            :checked="each.label === size.label"
            @change="chosen = each.label"
          />
          <span>{{ each.label }}</span>
        </label>
        <span class="soft small figure">drafted for a bust of {{ size.bust }}</span>
      </fieldset>
      <BlockSheet :drawn="size.drawn" />
    </template>
  </main>
</template>

<style scoped>
.chips {
  align-items: center;
}
</style>
