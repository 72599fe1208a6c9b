<script setup lang="ts">
/**
 * What a slashed back tells: what the slash opened by, where it closes, and where the centre back was drawn. The cutting table takes
 * it over in the step of a rounded back.
 */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { crossAt } from './marks'
import { get } from '@/api/client'
import type { DrapeView } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ drape: DrapeView }>()
const emit = defineEmits<{
  /** A mark is to be clicked again. */
  again: [marks: readonly string[]]
}>()

const { may } = useHouse()
/** Millimetres round what is drawn. */
const AIR = 14
const { data: view, problem } = useResource(() =>
  get('/api/drapes/{id}/slashed', { params: { path: { id: props.drape.id } } }),
)
const { data: orders } = useResource(() => get('/api/orders', { params: { query: {} } }))
/** Garments of the same body whose pattern is begun. */
const garments = computed(
  () =>
    orders.value?.filter(
      (order) =>
        order.pattern_id != null &&
        (props.drape.client_id != null
          ? order.client_id === props.drape.client_id
          : order.form_id != null && order.form_id === props.drape.form_id),
    ) ?? [],
)
const read = computed(() => view.value?.read)
const dotsOf = (mark: string) => read.value?.dots.filter((dot) => dot.mark === mark) ?? []
const through = (points: readonly { x: number; y: number }[]) =>
  points.map(({ x, y }, index) => `${index ? 'L' : 'M'}${x} ${y}`).join('')
const edge = (mark: string) => through(dotsOf(mark).map((dot) => dot.at))
const box = computed(() => {
  // The straight centre below the slash is long, and says nothing.
  const shown = (read.value?.dots ?? []).filter((dot) => !['centre_waist', 'centre_dots'].includes(dot.mark))
  const places = [...shown.map((dot) => dot.at), ...(read.value?.drawn ?? [])]
  if (!places.length) return { x: 0, y: 0, width: 1, height: 1 }
  const [xs, ys] = [places.map(({ x }) => x), places.map(({ y }) => y)]
  const [left, top] = [Math.min(0, ...xs) - AIR, Math.min(...ys) - AIR]
  return {
    x: left,
    y: top,
    width: Math.max(...xs) + AIR - left,
    height: Math.max(...ys, 40) + AIR - top,
  }
})
</script>

<template>
  <div class="stack">
    <ProblemNote :problem="problem" />
    <section v-if="view?.refusal" class="card stack refusal" aria-labelledby="not-read">
      <h2 id="not-read">Not read yet</h2>
      <p>{{ view.refusal.says }}</p>
      <p v-if="view.refusal.marks[0] && may('cutting')" class="row">
        <ElButton type="primary" @click="emit('again', view.refusal.marks)">Go there</ElButton>
      </p>
    </section>
    <template v-if="read">
      <section v-if="read.asks.length" class="card stack" aria-labelledby="slash-asked">
        <h2 id="slash-asked">Asked about</h2>
        <p v-for="ask in read.asks" :key="ask.says" class="between">
          <span>{{ ask.says }}</span>
          <ElButton v-if="ask.marks[0] && may('cutting')" @click="emit('again', ask.marks)"
            >Click it again</ElButton
          >
        </p>
      </section>
      <div class="two">
        <figure class="card">
          <svg
            :viewBox="`${box.x} ${box.y} ${box.width} ${box.height}`"
            role="img"
            aria-label="The straight centre, the slash as it opened, and the centre back as it was drawn"
          >
            <path class="straight" :d="`M0 ${box.y}V${box.y + box.height}`" />
            <path class="edge" :d="edge('slash_lower_dots')" />
            <path class="edge" :d="edge('slash_upper_dots')" />
            <path class="drawn" :d="through(read.drawn)" />
            <template v-for="(dot, index) in read.dots" :key="index">
              <path v-if="dot.cross" class="clicked" :d="crossAt(dot.at.x, dot.at.y, 3)" />
              <circle v-else class="clicked" :cx="dot.at.x" :cy="dot.at.y" r="1.4" />
            </template>
          </svg>
          <figcaption class="small soft">
            Dashed the straight centre, in ink the drawn one; crosses and dots as they were marked.
          </figcaption>
        </figure>
        <section class="card stack" aria-labelledby="slash-tells">
          <h2 id="slash-tells">What it tells</h2>
          <table>
            <tbody>
              <tr v-for="figure in read.figures" :key="figure.name">
                <th scope="row">{{ figure.name }}</th>
                <td class="num">{{ figure.text }}</td>
              </tr>
            </tbody>
          </table>
          <table>
            <thead>
              <tr>
                <th scope="col">From the centre</th>
                <th scope="col" class="num">The slash gapes</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(gap, index) in read.gaps" :key="index">
                <th scope="row">{{ gap.from_centre }}</th>
                <td class="num">{{ gap.opens }}</td>
              </tr>
            </tbody>
          </table>
          <p v-for="note in read.notes" :key="note" class="small soft">{{ note }}</p>
          <template v-if="garments.length">
            <p>It is taken over on the cutting table, in the step of a rounded back:</p>
            <ul class="garments">
              <li v-for="garment in garments" :key="garment.id">
                <RouterLink :to="{ name: 'alter', params: { id: garment.id } }">{{
                  garment.garment
                }}</RouterLink>
              </li>
            </ul>
          </template>
          <p v-else class="soft">
            It is taken over on the cutting table of a garment of the same body, in the step of a rounded
            back. No pattern of hers is begun yet.
          </p>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(16rem, 2fr);
  gap: 1rem;
  align-items: start;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  max-height: 34rem;
}
svg * {
  fill: none;
  vector-effect: non-scaling-stroke;
}
.straight {
  stroke: var(--ink);
  stroke-width: 1;
  stroke-dasharray: 6 4;
}
.edge {
  stroke: var(--woad);
  stroke-width: 1.5;
}
.drawn {
  stroke: var(--ink);
  stroke-width: 2.2;
}
.clicked {
  stroke: var(--madder);
  stroke-width: 1.3;
}
.garments {
  margin: 0;
  padding-left: 1.1rem;
}
.refusal {
  border-left: 4px solid var(--madder);
}
</style>
