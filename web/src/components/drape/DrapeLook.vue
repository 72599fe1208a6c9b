<script setup lang="ts">
/**
 * What the marks make: front and back drawn over what was clicked, every correction with before and after, what is asked and what
 * is doubted. When everything is answered it becomes a block.
 */
import { ElButton, ElInput } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import CorrectionDrawing from './CorrectionDrawing.vue'
import { crossAt } from './marks'
import { get, post, put } from '@/api/client'
import type { DrapeView } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import BlockSheet from '@/components/drawing/BlockSheet.vue'
import TwoLaidOver from '@/components/drawing/TwoLaidOver.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ drape: DrapeView }>()
const emit = defineEmits<{
  /** A mark is to be clicked again. */
  again: [piece: 'front' | 'back', marks: readonly string[]]
  /** Something was answered: another revision. */
  answered: []
  /** Two marks, or two runs, are to be exchanged. */
  exchange: [piece: 'front' | 'back', one: string, other: string]
}>()

const router = useRouter()
const { may, units } = useHouse()
const {
  data: drawn,
  problem,
  reload,
} = useResource(() => get('/api/drapes/{id}/drawn', { params: { path: { id: props.drape.id } } }))
const isFixed = computed(() => props.drape.block_id != null)
const mayAnswer = computed(() => !isFixed.value && may('cutting'))

const KIND = { front: 'bodice_front', back: 'bodice_back' } as const
const dotsOn = (kind: string) => (drawn.value?.dots ?? []).filter((dot) => KIND[dot.piece] === kind)
const pieceOf = (piece: 'front' | 'back') =>
  drawn.value?.drawn?.pieces.find((each) => each.kind === KIND[piece])

const asked = computed(() => (drawn.value?.corrections ?? []).filter((each) => each.needs_yes))
const small = computed(() => (drawn.value?.corrections ?? []).filter((each) => !each.needs_yes))
const doubts = computed(() => (drawn.value?.figures ?? []).filter((each) => each.doubt))

/** Of whoever overrules a doubt: typed once, kept while the page is open. */
const initials = ref('')
const {
  run: answer,
  busy: answering,
  problem: unanswered,
} = useAction(
  (key: string, yes: boolean, withInitials: boolean) =>
    put('/api/drapes/{id}/answers', {
      params: { path: { id: props.drape.id } },
      body: {
        // Of what is looked at: one yes after the other.
        revision: drawn.value?.seen.drape ?? props.drape.revision,
        key,
        yes,
        initials: withInitials ? initials.value.trim() : '',
      },
    }),
  (now) => {
    drawn.value = now
    emit('answered')
  },
  { repeats: true },
)

/** What it is laid over, to see what has changed since, or how far the other side is apart. */
const over = ref<string>()
const { data: blocks } = useResource(() =>
  get('/api/blocks', {
    params: { query: props.drape.client_id == null ? {} : { client: props.drape.client_id } },
  }),
)
const { data: drapes } = useResource(() =>
  get('/api/drapes', {
    params: { query: props.drape.client_id == null ? {} : { client: props.drape.client_id } },
  }),
)
const overChoices = computed(() => {
  const { id, client_id: client, form_id: form } = props.drape
  const ofSameBody = (drapes.value ?? []).filter(
    (each) => !each.slashed && each.id !== id && each.client_id === client && each.form_id === form,
  )
  const drawnBlocks = (blocks.value ?? []).filter((each) => each.garment === 'bodice' && each.how !== 'card')
  const own = drawnBlocks.filter((each) => client != null && each.client_id === client)
  const house = drawnBlocks.filter((each) => !own.includes(each))
  return [
    ...ofSameBody.map((each) => ({
      value: `drape ${each.id}`,
      label: each.name,
      group: 'Toiles of the same body',
    })),
    ...own.map((each) => ({ value: `block ${each.id}`, label: each.name, group: 'Her own blocks' })),
    ...house.map((each) => ({ value: `block ${each.id}`, label: each.name, group: 'Blocks of the house' })),
  ]
})
const { data: laid, problem: unlaid } = useResource(() => {
  // Read anew with every answer: the lines may lie elsewhere.
  if (!over.value || !drawn.value?.drawn) return undefined
  const [what, number] = over.value.split(' ')
  const query = what === 'drape' ? { drape: Number(number) } : { block: Number(number) }
  return get('/api/drapes/{id}/beside', { params: { path: { id: props.drape.id }, query } })
})

const entry = reactive({
  name: props.drape.client ? `${props.drape.client}, own block` : props.drape.name,
  why: '',
  label: props.drape.facts.printed ?? '',
  although: '',
})
const madeFor = reactive<Record<string, string>>({ bust_girth: '', upper_bust_girth: '' })
const isOfNobody = computed(() => props.drape.client_id == null && props.drape.form_id == null)
const failing = computed(() => drawn.value?.drawn?.checks.find((check) => !check.passed))
const {
  run: keep,
  busy,
  problem: unkept,
} = useAction(
  () => {
    const seen = drawn.value?.seen
    if (!seen) return undefined
    return post('/api/drapes/{id}/block', {
      params: { path: { id: props.drape.id } },
      body: { ...entry, made_for: isOfNobody.value ? { ...madeFor } : {}, seen },
    })
  },
  (made) => router.push({ name: 'block', params: { id: made.id } }),
)
defineExpose({ reload })
</script>

<template>
  <div class="stack">
    <ProblemNote :problem="problem ?? unanswered ?? unkept" />
    <template v-if="drawn">
      <section v-if="drawn.refusal" class="card stack refusal" aria-labelledby="not-drawn">
        <h2 id="not-drawn">Not drawn yet</h2>
        <p>{{ drawn.refusal.says }}</p>
        <p v-if="drawn.refusal.piece && drawn.refusal.marks[0] && mayAnswer" class="row">
          <ElButton type="primary" @click="emit('again', drawn.refusal.piece, drawn.refusal.marks)"
            >Go there</ElButton
          >
        </p>
      </section>
      <p v-if="drawn.drawn && !isFixed" role="status">
        <strong v-if="drawn.open" class="decide"
          >{{ drawn.open === 1 ? 'One answer is' : `${drawn.open} answers are` }} wanted below before it
          becomes a block.</strong
        >
        <template v-else
          >Everything is answered: it can be kept as a block, at the foot of the page.</template
        >
      </p>
      <section v-if="drawn.asks.length" class="card stack" aria-labelledby="asked-title">
        <h2 id="asked-title">Asked about</h2>
        <ul class="answers">
          <li v-for="ask in drawn.asks" :key="ask.key" class="stack">
            <p>{{ ask.says }}</p>
            <p v-if="ask.stands" class="soft">
              It stands as it was marked ({{ ask.stands.initials }}, {{ ask.stands.by }}).
              <ElButton v-if="mayAnswer" size="small" @click="answer(ask.key, false, false)"
                >Ask again</ElButton
              >
            </p>
            <p v-else-if="mayAnswer" class="row">
              <ElButton
                v-if="ask.offer && ask.piece"
                type="primary"
                @click="emit('exchange', ask.piece, ask.offer.one, ask.offer.other)"
                >Exchange them</ElButton
              >
              <ElButton v-if="ask.marks[0]" @click="emit('again', ask.piece ?? 'front', ask.marks)"
                >Click it again</ElButton
              >
              <template v-if="ask.may_stand && drawn.drawn">
                <ElInput
                  v-model="initials"
                  class="initials"
                  maxlength="12"
                  placeholder="initials"
                  :aria-label="`Initials: ${ask.says}`"
                />
                <ElButton
                  :aria-busy="answering"
                  :disabled="!initials.trim()"
                  @click="answer(ask.key, true, true)"
                  >It is where it should be</ElButton
                >
              </template>
            </p>
          </li>
        </ul>
      </section>
      <template v-if="drawn.drawn">
        <BlockSheet :drawn="drawn.drawn">
          <template #on="{ piece }">
            <g class="clicked">
              <template v-for="(dot, at) in dotsOn(piece.kind)" :key="at">
                <path v-if="dot.cross" :d="crossAt(dot.at.x, dot.at.y, 5)" />
                <circle v-else :cx="dot.at.x" :cy="dot.at.y" r="2" />
              </template>
            </g>
          </template>
        </BlockSheet>
        <section v-if="asked.length" class="card stack" aria-labelledby="accept-title">
          <div class="between">
            <h2 id="accept-title">Drawn otherwise than it was marked</h2>
            <p class="soft small">Each wants its own yes, or is clicked again.</p>
          </div>
          <ul class="accept">
            <li v-for="each in asked" :key="each.key" :class="{ yes: each.yes }">
              <CorrectionDrawing
                v-if="pieceOf(each.piece)"
                :correction="each"
                :piece="pieceOf(each.piece)!"
                :dots="dotsOn(KIND[each.piece])"
              />
              <div class="stack">
                <p>
                  <strong>{{ each.piece === 'front' ? 'Front' : 'Back' }}:</strong> {{ each.what }}
                </p>
                <p class="figure">
                  {{ each.before }} → {{ each.after }} <span class="soft">by {{ each.by }}</span>
                </p>
                <p v-if="each.yes" class="soft">
                  Accepted, {{ each.yes.by }}.
                  <ElButton v-if="mayAnswer" size="small" @click="answer(each.key, false, false)"
                    >Take it back</ElButton
                  >
                </p>
                <p v-else-if="mayAnswer" class="row">
                  <ElButton type="primary" :aria-busy="answering" @click="answer(each.key, true, false)"
                    >Accept</ElButton
                  >
                  <ElButton v-if="each.marks[0]" @click="emit('again', each.piece, each.marks)"
                    >Click it again</ElButton
                  >
                </p>
              </div>
            </li>
          </ul>
        </section>
        <section v-if="doubts.length" class="card stack" aria-labelledby="doubts-title">
          <h2 id="doubts-title">Unusual figures</h2>
          <p class="soft small">No click is suspected. A figure that is meant stands with your initials.</p>
          <ul class="answers">
            <li v-for="each in doubts" :key="each.key" class="between">
              <p>{{ each.doubt }}</p>
              <p v-if="each.overruled" class="soft">
                It is meant ({{ each.overruled.initials }}).
                <ElButton v-if="mayAnswer" size="small" @click="answer(each.key, false, false)"
                  >Doubt it again</ElButton
                >
              </p>
              <p v-else-if="mayAnswer" class="row">
                <ElInput
                  v-model="initials"
                  class="initials"
                  maxlength="12"
                  placeholder="initials"
                  :aria-label="`Initials: ${each.doubt}`"
                />
                <ElButton
                  :aria-busy="answering"
                  :disabled="!initials.trim()"
                  @click="answer(each.key, true, true)"
                  >It is meant</ElButton
                >
              </p>
            </li>
          </ul>
        </section>
        <section v-if="overChoices.length" class="card stack" aria-labelledby="over-title">
          <h2 id="over-title">Laid over what was there before</h2>
          <ProblemNote :problem="unlaid" />
          <ChoiceField
            id="laid-over"
            v-model="over"
            class="picker"
            label="Another toile, or a block"
            :choices="overChoices"
            none="nothing"
          />
          <TwoLaidOver v-if="laid" :view="laid" />
        </section>
        <form v-if="!isFixed && may('cutting')" class="card stack" @submit.prevent="keep">
          <div class="between">
            <h2>Keep it as a block</h2>
            <p v-if="drawn.open" role="status" class="decide">
              {{ drawn.open === 1 ? 'One answer is' : `${drawn.open} answers are` }} still wanted above.
            </p>
          </div>
          <div class="grid">
            <TextField id="block-name" v-model="entry.name" label="Name of the block" :most="120" />
            <TextField id="block-why" v-model="entry.why" label="Why it is kept" :most="400" />
            <template v-if="isOfNobody">
              <TextField id="block-label" v-model="entry.label" label="Its size" :most="40" />
              <TextField
                id="made-for-bust"
                v-model="madeFor['bust_girth']!"
                :label="`Made for a bust of, ${units}`"
              />
              <TextField
                id="made-for-upper"
                v-model="madeFor['upper_bust_girth']!"
                :label="`and an upper bust of, ${units}`"
              />
            </template>
            <TextField
              v-if="failing"
              id="block-although"
              v-model="entry.although"
              :label="`Why it is kept although a check fails (${failing.name})`"
              :most="200"
            />
          </div>
          <div class="row">
            <ElButton type="primary" native-type="submit" :aria-busy="busy" :disabled="!drawn.ready"
              >Keep the block</ElButton
            >
          </div>
        </form>
        <details class="card">
          <summary>How nearly the lines pass what was marked, and smaller corrections</summary>
          <table>
            <thead>
              <tr>
                <th scope="col">Line</th>
                <th scope="col" class="num">Dots</th>
                <th scope="col" class="num">On average</th>
                <th scope="col" class="num">Furthest</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="line in drawn.lines" :key="`${line.piece} ${line.line}`">
                <th scope="row">
                  {{ line.piece }}, {{ line.line
                  }}<template v-if="line.left_out">, {{ line.left_out }} left out</template>
                </th>
                <td class="num">{{ line.dots }}</td>
                <td class="num">{{ line.on_average }}</td>
                <td class="num">{{ line.furthest }}</td>
              </tr>
            </tbody>
          </table>
          <p v-for="each in small" :key="each.key" class="small">
            {{ each.piece }}: {{ each.what }}, {{ each.before }} → {{ each.after }}.
          </p>
          <p v-for="note in drawn.notes" :key="note" class="small soft">{{ note }}</p>
        </details>
      </template>
    </template>
  </div>
</template>

<style scoped>
.answers,
.accept {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.8rem;
}
.answers .stack {
  gap: 0.4rem;
}
.accept {
  grid-template-columns: repeat(auto-fill, minmax(min(26rem, 100%), 1fr));
}
.accept li {
  display: grid;
  grid-template-columns: 9rem minmax(0, 1fr);
  gap: 0.9rem;
  padding-top: 0.6rem;
  border-top: 1px solid var(--rule);
}
.accept .stack {
  gap: 0.35rem;
  align-content: start;
}
.picker {
  max-width: 26rem;
}
.initials {
  width: 6rem;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(18rem, 100%), 1fr));
  gap: 0.6rem 1.2rem;
}
.refusal {
  border-left: 4px solid var(--madder);
}
.clicked * {
  fill: none;
  stroke: var(--madder);
  stroke-width: 1.3;
  vector-effect: non-scaling-stroke;
}
summary {
  cursor: pointer;
  font-weight: 700;
}
</style>
