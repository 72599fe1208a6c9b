<script setup lang="ts">
/** The cloth before it goes on: how large each piece is torn, and what is ruled on it, from her figures or a form's. */
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { get } from '@/api/client'
import type { DrapingCloth } from '@/api/types'
import { crossAt } from '@/components/drape/marks'
import PageFrame from '@/components/PageFrame.vue'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ client?: number | undefined; form?: number | undefined }>()
const { unit } = useHouse()
const query = computed(() =>
  props.client === undefined ? { form: props.form ?? 0 } : { client: props.client },
)
const { data: view, problem } = useResource(() => get('/api/cloth', { params: { query: query.value } }))
const pdf = computed(() =>
  props.client === undefined ? `/api/cloth.pdf?form=${props.form}` : `/api/cloth.pdf?client=${props.client}`,
)

/** Air round the drawing and half of a cross, in millimetres of the cloth. */
const AIR = 30
const CROSS = 9
const NAMES = { front: 'Front cloth', back: 'Back cloth' } as const
const box = (cloth: DrapingCloth) => `${-AIR} ${-AIR} ${cloth.width + 2 * AIR} ${cloth.length + 2 * AIR}`
</script>

<template>
  <PageFrame title="Cloth before it goes on" :problem="problem" :reading="!view">
    <template v-if="view" #lead>
      <p class="soft">
        For {{ view.of }}. Torn along the thread, pressed square, ruled with a soft pencil before anything is
        pinned.
      </p>
    </template>
    <template v-if="view?.sheet" #actions>
      <RouterLink :to="{ name: 'draping-guide', query }">Where the dart goes</RouterLink>
      <a :href="pdf" download>On paper (PDF)</a>
    </template>
    <template v-if="view">
      <section v-if="view.missing.length" class="card stack">
        <p>
          Not measured yet: <strong>{{ view.missing.join(', ') }}</strong>.
        </p>
        <p>
          <RouterLink v-if="form !== undefined" :to="{ name: 'form', params: { id: form } }"
            >Enter the form's figures</RouterLink
          >
          <RouterLink v-else-if="client !== undefined" :to="{ name: 'profile', params: { id: client } }"
            >Her figures</RouterLink
          >
        </p>
      </section>
      <section
        v-for="cloth in view.sheet?.cloths ?? []"
        :key="cloth.piece"
        class="card cloth"
        :aria-labelledby="`cloth-${cloth.piece}`"
      >
        <figure>
          <svg :viewBox="box(cloth)" role="img" :aria-label="`${NAMES[cloth.piece]} with its ruled lines`">
            <rect class="edge" :width="cloth.width" :height="cloth.length" />
            <g v-for="line in cloth.lines" :key="line.name">
              <path
                v-if="line.from.x === line.to.x && line.from.y === line.to.y"
                class="ruled"
                :d="crossAt(line.from.x, line.from.y, CROSS)"
              />
              <path v-else class="ruled" :d="`M${line.from.x} ${line.from.y}L${line.to.x} ${line.to.y}`" />
              <text
                :x="line.from.x === line.to.x ? line.from.x + 6 : cloth.width - 6"
                :y="line.from.x === line.to.x ? (line.from.y + line.to.y) / 2 - 8 : line.from.y - 6"
                :text-anchor="line.from.x === line.to.x ? 'start' : 'end'"
              >
                {{ line.name }}
              </text>
            </g>
          </svg>
        </figure>
        <div>
          <h2 :id="`cloth-${cloth.piece}`">{{ NAMES[cloth.piece] }}</h2>
          <table>
            <thead>
              <tr>
                <th scope="col">What</th>
                <th scope="col">How</th>
                <th scope="col" class="num">{{ unit }}</th>
                <th scope="col" class="num">exact</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="figure in cloth.figures" :key="figure.name">
                <th scope="row">{{ figure.name }}</th>
                <td>{{ figure.from }}</td>
                <td class="num main">{{ figure.shown.text }}</td>
                <td class="num soft">{{ figure.shown.exact }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <section
        v-for="list in view.sheet ? view.checklists : []"
        :key="list.piece"
        class="card stack"
        :aria-labelledby="`marks-${list.piece}`"
      >
        <h2 :id="`marks-${list.piece}`">Before the {{ list.piece }} comes off</h2>
        <p class="soft small">In one walk round it. Marks of a dart where that dart is.</p>
        <ul class="marks">
          <li v-for="wanted in list.marks" :key="wanted.mark">
            <strong>{{ wanted.name }}</strong>, {{ wanted.place }}:
            {{ wanted.least_dots ? `${wanted.least_dots} dots or more` : 'a cross' }}
            <span class="soft">{{ wanted.need }}</span>
          </li>
        </ul>
      </section>
      <p v-if="view.sheet" class="row">
        <RouterLink :to="{ name: 'drapes', query: form === undefined ? { client } : { form } }"
          >On to the toile, when it is marked and off</RouterLink
        >
      </p>
    </template>
  </PageFrame>
</template>

<style scoped>
.cloth {
  display: grid;
  grid-template-columns: minmax(0, 22rem) minmax(0, 1fr);
  gap: 1.4rem;
  align-items: start;
}
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  max-height: 26rem;
  background: var(--sunk);
  border: 1px solid var(--rule);
}
.edge {
  fill: var(--cloth);
  stroke: var(--ink);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.ruled {
  fill: none;
  stroke: var(--woad);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
text {
  font: 15px var(--sans);
  fill: var(--ink);
}
.main {
  font-weight: 700;
}
.marks {
  columns: 22rem 2;
  column-gap: 2rem;
  margin: 0;
  padding-left: 1.1rem;
}
.marks strong {
  font-weight: 700;
}
.marks li::first-letter {
  text-transform: uppercase;
}
@media (max-width: 900px) {
  .cloth {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
