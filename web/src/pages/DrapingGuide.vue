<script setup lang="ts">
/**
 * Where the dart goes on this body, and how the cloth is smoothed so that the excess walks there: a picture a step, read standing at the
 * form.
 */
import { ElButton } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { get } from '@/api/client'
import type { GuideWay } from '@/api/types'
import GuidePicture from '@/components/drape/GuidePicture.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ client?: number | undefined; form?: number | undefined }>()
const route = useRoute()
const router = useRouter()
const { units } = useHouse()

const PIECES = { front: 'Front', back: 'Back' } as const
const piece = computed(() => (route.query['piece'] === 'back' ? 'back' : 'front'))
/** What is chosen stands in the address: it can be left and come back to. */
const wish = computed(() => {
  const goes = route.query['goes']
  return typeof goes === 'string'
    ? { goes: goes as GuideWay['goes'], two: route.query['two'] === 'true' }
    : {}
})
const whose = computed(() =>
  props.client === undefined ? { form: props.form ?? 0 } : { client: props.client },
)
const { data: view, problem } = useResource(() =>
  get('/api/draping-guide', { params: { query: { ...whose.value, piece: piece.value, ...wish.value } } }),
)
const guide = computed(() => view.value?.guide)
const at = ref(0)
const step = computed(() => guide.value?.steps[Math.min(at.value, guide.value.steps.length - 1)])
watch([piece, wish], () => (at.value = 0))

const isShown = (way: GuideWay) => way.goes === guide.value?.goes && way.two === guide.value.two
const takes = (way: GuideWay) => way.darts.map((dart) => `${dart.name} ${dart.takes.text}`).join(', ')
const told = (way: GuideWay) => (way.two ? `${way.name} and the waist` : way.name)
function choose(query: Record<string, string | undefined>): void {
  void router.replace({ query: { ...route.query, ...query } })
}
</script>

<template>
  <PageFrame title="Where the dart goes" width="wide" :problem="problem" :reading="!view">
    <template v-if="view" #lead>
      <p class="soft">
        Draped skin tight for {{ view.of }}; what each dart takes is reckoned from the figures, in
        {{ units }}.
      </p>
    </template>
    <template v-if="view" #actions>
      <RouterLink :to="{ name: 'cloth', query: form === undefined ? { client } : { form } }"
        >The cloth before it goes on</RouterLink
      >
    </template>
    <template v-if="view">
      <section v-if="view.missing.length || view.refused" class="card stack">
        <p v-if="view.missing.length">
          Not measured yet: <strong>{{ view.missing.join(', ') }}</strong>.
        </p>
        <p v-else>{{ view.refused }}</p>
        <p>
          <RouterLink v-if="form !== undefined" :to="{ name: 'form', params: { id: form } }"
            >Enter the form's figures</RouterLink
          >
          <RouterLink v-else-if="client !== undefined" :to="{ name: 'profile', params: { id: client } }"
            >Her figures</RouterLink
          >
        </p>
      </section>
      <div v-if="guide" class="two">
        <section class="stack ways" aria-label="Ways there are">
          <fieldset class="chips">
            <legend class="visually-hidden">Piece</legend>
            <label v-for="(name, code) in PIECES" :key="code" class="chip"
              ><input
                type="radio"
                name="piece"
                :checked="code === piece"
                @change="choose({ piece: code, goes: undefined, two: undefined })"
              /><span>{{ name }}</span></label
            >
          </fieldset>
          <ul>
            <li v-for="(way, place) in guide.ways" :key="`${way.goes} ${way.two}`">
              <label :class="{ shown: isShown(way), off: !way.darts.length && way.doubt }"
                ><input
                  type="radio"
                  name="way"
                  :checked="isShown(way)"
                  :disabled="!way.darts.length && way.doubt !== null && way.doubt !== undefined"
                  @change="choose({ goes: way.goes, two: String(way.two) })"
                />
                <span
                  ><b>{{ told(way) }}</b>
                  <template v-if="place === 0"> <span class="soft">proposed</span></template>
                  <span v-if="takes(way)" class="takes">{{ takes(way) }}</span>
                  <span v-if="way.doubt" class="small decide">{{ way.doubt }}</span></span
                ></label
              >
            </li>
          </ul>
        </section>
        <section v-if="step" class="stack bench" aria-label="Step by step">
          <p class="small soft">
            Step {{ Math.min(at, guide.steps.length - 1) + 1 }} of {{ guide.steps.length }}
          </p>
          <p class="says" aria-live="polite">{{ step.says }}</p>
          <GuidePicture
            :outline="guide.outline"
            :bounds="guide.bounds"
            :picture="step.picture"
            :label="step.says"
          />
          <p class="row turn">
            <ElButton :disabled="at === 0" @click="at -= 1">Step before</ElButton>
            <ElButton type="primary" :disabled="at >= guide.steps.length - 1" @click="at += 1"
              >Next step</ElButton
            >
          </p>
          <p class="small soft legend-line">
            Red: what is done now. Blue: the way of the hand. Crosses: pins. Short strokes outside: slashes,
            none to the line.
          </p>
        </section>
      </div>
    </template>
  </PageFrame>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 22rem) minmax(0, 1fr);
  gap: 1.6rem;
  align-items: start;
}
.ways ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.ways ul label {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 0.6rem;
  padding: 0.5rem 0.4rem;
  border-top: 1px solid var(--rule);
  cursor: pointer;
}
.ways b {
  display: inline-block;
  margin-right: 0.4em;
}
.ways b::first-letter {
  text-transform: uppercase;
}
.ways ul label.off {
  cursor: default;
}
.takes,
.ways .decide {
  display: block;
}
.says {
  font-size: 1.15rem;
  min-height: 2.6em;
}
.turn {
  position: sticky;
  bottom: 0;
  background: var(--paper);
  padding: 0.5rem 0;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .bench {
    order: -1;
  }
}
</style>
