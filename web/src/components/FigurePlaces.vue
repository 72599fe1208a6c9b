<script setup lang="ts">
/** Her own figure from the front and behind; a place is chosen by tapping it. */
import { computed } from 'vue'
import FigureBody from './FigureBody.vue'
import type { FigureDrawing, PlaceOnFigure } from '@/api/types'

const props = defineProps<{ front: FigureDrawing; back: FigureDrawing; places: readonly PlaceOnFigure[] }>()
const chosen = defineModel<string>({ required: true })
const sides = computed(() =>
  [
    { view: 'front', name: 'From the front', figure: props.front },
    { view: 'back', name: 'From behind', figure: props.back },
  ].map((side) => {
    const { x, y, width } = side.figure.upper
    const own = props.places.filter((place) => place.view === side.view)
    const lowest = Math.max(...own.map((place) => place.at.y))
    return { ...side, own, box: `${x} ${y} ${width} ${lowest + 90 - y}` }
  }),
)
</script>

<template>
  <div class="places">
    <figure v-for="side in sides" :key="side.view">
      <svg :viewBox="side.box" role="group" :aria-label="`Places, ${side.name.toLowerCase()}`">
        <FigureBody :figure="side.figure" />
        <g
          v-for="place in side.own"
          :key="place.name"
          role="button"
          tabindex="0"
          class="place"
          :class="{ chosen: chosen === place.name }"
          :aria-label="place.name"
          :aria-pressed="chosen === place.name"
          @click="chosen = place.name"
          @keydown.enter.prevent="chosen = place.name"
          @keydown.space.prevent="chosen = place.name"
        >
          <title>{{ place.name }}</title>
          <circle :cx="place.at.x" :cy="place.at.y" r="34" class="reach" />
          <circle :cx="place.at.x" :cy="place.at.y" r="13" class="mark" />
        </g>
      </svg>
      <figcaption class="small soft">{{ side.name }}</figcaption>
    </figure>
  </div>
</template>

<style scoped>
.places {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.8rem;
  max-width: 30rem;
}
figure {
  margin: 0;
  text-align: center;
}
svg {
  display: block;
  width: 100%;
  max-height: 300px;
}
.place {
  cursor: pointer;
}
.reach {
  fill: transparent;
}
.mark {
  fill: var(--raised);
  stroke: var(--ink);
  stroke-width: 4;
}
.place:hover .mark {
  stroke: var(--woad);
}
.chosen .mark {
  fill: var(--madder);
  stroke: var(--madder);
}
.place:focus-visible {
  outline: none;
}
.place:focus-visible .reach {
  stroke: var(--woad);
  stroke-width: 5;
}
</style>
