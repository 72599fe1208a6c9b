<script setup lang="ts">
/** Photographs as a wall; the one that is pressed stands large below, to be looked at and drawn on. */
import { computed, ref } from 'vue'
import type { PhotographView } from '@/api/types'
import { asMoment } from '@/days'
import PhotographDrawing from './PhotographDrawing.vue'

const props = defineProps<{
  photographs: readonly PhotographView[]
  /** They can be drawn on. @default false */
  drawable?: boolean
  /** What one shows, in words. @default nothing is said */
  shows?: (photograph: PhotographView) => string | undefined
}>()
defineEmits<{ drawn: [] }>()

const large = ref<number>()
/** The one that is large, as it is now; one that was taken out is not. */
const shown = computed(() => props.photographs.find((each) => each.id === large.value))
</script>

<template>
  <div class="stack">
    <ul class="wall">
      <li v-for="(each, index) in photographs" :key="each.id">
        <button
          type="button"
          class="open"
          :aria-label="`Photograph ${index + 1}, ${asMoment(each.taken_at)}`"
          :aria-expanded="large === each.id"
          @click="large = large === each.id ? undefined : each.id"
        >
          <img
            :src="`/api/photographs/${each.id}`"
            :width="each.width"
            :height="each.height"
            alt=""
            loading="lazy"
          />
        </button>
        <p v-if="shows?.(each)" class="small soft">{{ shows(each) }}</p>
      </li>
    </ul>
    <PhotographDrawing v-if="shown" :photograph="shown" :drawable="drawable" @drawn="$emit('drawn')">
      <slot :photograph="shown" />
    </PhotographDrawing>
  </div>
</template>

<style scoped>
.wall {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(7rem, 1fr));
  gap: 0.5rem;
}
.open {
  display: block;
  width: 100%;
  padding: 0;
  border: 1px solid var(--rule);
  background: none;
  cursor: pointer;
}
.open img {
  display: block;
  width: 100%;
  height: 9rem;
  object-fit: cover;
}
</style>
