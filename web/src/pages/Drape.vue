<script setup lang="ts">
/** One toile or paper pattern on its way to a block: what is stated, front and back being marked, and what is drawn from it. */
import { ElButton, ElMessageBox } from 'element-plus'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { get, post, put, remove } from '@/api/client'
import type { DrapePieceView, DrapeView, PieceInHand } from '@/api/types'
import DrapeFacts from '@/components/drape/DrapeFacts.vue'
import DrapeLook from '@/components/drape/DrapeLook.vue'
import MarkPiece from '@/components/drape/MarkPiece.vue'
import SlashedLook from '@/components/drape/SlashedLook.vue'
import { isThere } from '@/components/drape/marks'
import PageFrame from '@/components/PageFrame.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { useUndo } from '@/composables/useUndo'

const props = defineProps<{ id: number }>()
const route = useRoute()
const router = useRouter()
const { may } = useHouse()
const offerUndo = useUndo()
const {
  data: drape,
  problem,
  reload,
} = useResource(() => get('/api/drapes/{id}', { params: { path: { id: props.id } } }))

const PLACES = ['facts', 'front', 'back', 'drawn'] as const
type At = (typeof PLACES)[number]
const NAMES = { facts: 'What is stated', front: 'Front', back: 'Back', drawn: 'What it makes' }
/** A slashed back has no front, and makes no block. */
const isSlashed = computed(() => drape.value?.material === 'slashed')
const places = computed(() => PLACES.filter((each) => each !== 'front' || !isSlashed.value))
const nameOf = (place: At) => (place === 'drawn' && isSlashed.value ? 'What it tells' : NAMES[place])
const at = computed<At>(() => places.value.find((each) => each === route.query['at']) ?? 'facts')
const LIES = {
  paper: 'A paper pattern',
  toile: 'A toile that was draped',
  slashed: 'A back that was slashed',
} as const
const bench = useTemplateRef<InstanceType<typeof MarkPiece>>('bench')
const facts = useTemplateRef<InstanceType<typeof DrapeFacts>>('facts')
const look = useTemplateRef<InstanceType<typeof DrapeLook>>('look')

/** How much of the marks that are needed is there. */
function told(view: DrapePieceView): string {
  const needed = view.wanted.filter((wanted) => wanted.need === 'needed')
  const there = needed.filter((wanted) => isThere(view.marked, { kind: 'mark', wanted })).length
  return there === needed.length ? 'marked' : `${there} of ${needed.length}`
}

/** What is typed or clicked is at the server before anything is drawn from it. */
async function go(to: At): Promise<void> {
  await bench.value?.settle()
  if (facts.value && !(await facts.value.leave())) return
  await router.replace({ query: { ...route.query, at: to } })
}

function kept(piece: 'front' | 'back', view: DrapePieceView): void {
  if (drape.value) drape.value = { ...drape.value, [piece]: view }
}

/** The marks of the question that is being answered by another click. */
const doubted = ref<readonly string[]>([])
async function again(piece: 'front' | 'back', marks: readonly string[]): Promise<void> {
  doubted.value = marks
  await go(piece)
  await nextTick()
  const wanted = drape.value?.[piece].wanted.find((each) => each.mark === marks[0])
  if (wanted) bench.value?.choose({ kind: 'mark', wanted })
}

/** Exchanges two marks, or two runs, of a piece: as if each had been clicked where the other is. */
const { run: exchange, problem: unchanged } = useAction(
  (piece: 'front' | 'back', one: string, other: string) => {
    const view = drape.value?.[piece]
    if (!view) return undefined
    const marked = JSON.parse(JSON.stringify(view.marked)) as PieceInHand
    const marks = (marked.marks ??= {})
    const [first, second] = [marks[one], marks[other]]
    if (second) marks[one] = second
    else delete marks[one]
    if (first) marks[other] = first
    else delete marks[other]
    const params = { path: { id: props.id, piece } }
    return put('/api/drapes/{id}/pieces/{piece}', { params, body: { revision: view.revision, marked } })
  },
  async (view, piece) => {
    kept(piece, view)
    await look.value?.reload()
  },
  { repeats: true },
)

const { run: takeOut, problem: left } = useAction(
  async () => {
    try {
      await ElMessageBox.confirm('Its marks and photographs go out of sight.', 'Take it out?', {
        confirmButtonText: 'Take it out',
        cancelButtonText: 'Leave it',
      })
    } catch {
      return undefined
    }
    return remove('/api/drapes/{id}', { params: { path: { id: props.id } } })
  },
  async () => {
    const back = post('/api/drapes/{id}/restore', { params: { path: { id: props.id } } })
    offerUndo('Taken out.', back, () => router.push({ name: 'drape', params: { id: props.id } }))
    await router.push({ name: 'drapes' })
  },
)
/** Goes on with a copy of its marks; or with the other side of the same body, of which only what is stated is the same. */
const { run: goOn, problem: uncopied } = useAction(
  (otherSide: boolean) =>
    drape.value &&
    post('/api/drapes', {
      body: {
        name: otherSide ? `${drape.value.name}, the other side` : drape.value.name,
        client: drape.value.client_id ?? null,
        form: drape.value.form_id ?? null,
        copy_of: props.id,
        other_side: otherSide,
      },
    }),
  (made) => router.push({ name: 'drape', params: { id: made.id } }),
)
const isFixed = computed(() => drape.value?.block_id != null || !may('cutting'))
function saved(now: DrapeView): void {
  drape.value = now
}
</script>

<template>
  <PageFrame
    right="cutting"
    :title="drape?.name"
    width="wide"
    :problem="problem ?? unchanged ?? left ?? uncopied"
    :reading="!drape"
  >
    <template v-if="drape" #lead>
      <p class="soft">
        {{ LIES[drape.material]
        }}<template v-if="drape.client_id">
          for
          <RouterLink :to="{ name: 'client', params: { id: drape.client_id } }">{{
            drape.client
          }}</RouterLink></template
        ><template v-if="drape.form_id">
          on
          <RouterLink :to="{ name: 'form', params: { id: drape.form_id } }">{{
            drape.form
          }}</RouterLink></template
        >.
        <template v-if="drape.block_id"
          >It became
          <RouterLink :to="{ name: 'block', params: { id: drape.block_id } }">a block</RouterLink> and stays
          as it was marked.</template
        >
      </p>
    </template>
    <template v-if="drape && may('cutting')" #actions>
      <ElButton v-if="drape.facts.side" @click="goOn(true)">Begin the other side</ElButton>
      <ElButton v-if="drape.block_id" @click="goOn(false)">Go on with a copy of its marks</ElButton>
      <ElButton v-else @click="takeOut">Take it out</ElButton>
    </template>
    <template v-if="drape">
      <nav class="places" aria-label="Of this drape">
        <button
          v-for="place in places"
          :key="place"
          type="button"
          :aria-current="place === at ? 'page' : undefined"
          @click="go(place)"
        >
          {{ nameOf(place) }}
          <span v-if="place === 'front' || place === 'back'" class="small">{{ told(drape[place]) }}</span>
        </button>
      </nav>
      <DrapeFacts v-if="at === 'facts'" ref="facts" :drape="drape" @saved="saved" />
      <MarkPiece
        v-else-if="at === 'front' || at === 'back'"
        ref="bench"
        :key="at"
        :drape="id"
        :piece="at"
        :view="drape[at]"
        :fixed="isFixed"
        :doubted="doubted"
        :slashed="isSlashed"
        @kept="kept(at as 'front' | 'back', $event)"
      />
      <SlashedLook v-else-if="isSlashed" :drape="drape" @again="again('back', $event)" />
      <DrapeLook v-else ref="look" :drape="drape" @again="again" @exchange="exchange" @answered="reload" />
      <p v-if="at !== 'drawn'" class="row">
        <ElButton v-if="at === 'facts'" type="primary" @click="go(isSlashed ? 'back' : 'front')">{{
          isSlashed ? 'On to the back' : 'On to the front'
        }}</ElButton>
        <ElButton v-if="at === 'front'" type="primary" @click="go('back')">On to the back</ElButton>
        <ElButton v-if="at === 'back'" type="primary" @click="go('drawn')">{{ nameOf('drawn') }}</ElButton>
      </p>
    </template>
  </PageFrame>
</template>

<style scoped>
.places {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem;
  border-bottom: 1px solid var(--rule);
}
.places button {
  font: inherit;
  color: inherit;
  padding: 0.45rem 0.9rem;
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  cursor: pointer;
}
.places button[aria-current] {
  border-bottom-color: var(--madder);
  font-weight: 700;
}
</style>
