<script setup lang="ts">
/** One dress form: its own figures, the padding it needs for a client, and its level lines. */
import { ElButton } from 'element-plus'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post, put, send } from '@/api/client'
import type { LevelEntry, MarkingEntry, Padding, Problem } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import FormMarking from '@/components/FormMarking.vue'
import PageFrame from '@/components/PageFrame.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useCatalogue } from '@/composables/useCatalogue'
import { useHouse } from '@/composables/useHouse'
import { pageOf } from '@/composables/useOrder'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ id: number }>()
const router = useRouter()
const { unit } = useHouse()
const { catalogue } = useCatalogue()
const { data: form, problem } = useResource(
  () => get('/api/forms/{id}', { params: { path: { id: props.id } } }),
  {
    follows: () => typed() === asKept,
  },
)
const { data: clients } = useResource(get('/api/clients'))
const refused = shallowRef<Problem>()
const saved = ref(false)
const name = ref('')
const figures = reactive<Record<string, string>>({})
const levels = ref<LevelEntry[]>([])
const marking = ref<MarkingEntry>({ tape_width: '', bridged: null, centre: [] })
const client = ref<number>()
const padding = shallowRef<Padding>()
const LINES = ['bust', 'under-bust', 'waist', 'hip']
/** Where the centre front is found. */
const HALVED = ['bust', 'waist', 'hip']
const PLACES = ['left', 'right', 'front', 'back'] as const
/** What a form is measured by. */
const WANTED = [
  'neck_base_girth',
  'upper_bust_girth',
  'bust_girth',
  'under_bust_girth',
  'waist_girth',
  'top_hip_girth',
  'hip_girth',
  'nape_to_waist_back',
  'snp_to_waist_back',
  'snp_to_bust_point',
  'snp_to_waist_front',
  'bust_span',
  'waist_to_hip',
  'shoulder_length',
  'across_front',
  'across_back',
]
const nameOf = computed(
  () => new Map(catalogue.value?.measurements.map(({ measurement }) => [measurement.code, measurement.name])),
)
const checks = computed(() => new Map(form.value?.levels.map((level) => [level.line, level.check])))

const typed = () => JSON.stringify([name.value, figures, levels.value, marking.value])
/** What the form held when it was last filled from the server. */
let asKept = ''
watch(
  form,
  (now) => {
    if (!now) return
    name.value = now.name
    // A figure that is not asked for here is kept as it was.
    const codes = new Set([...WANTED, ...now.figures.map((figure) => figure.code)])
    for (const code of codes) figures[code] = now.figures.find((f) => f.code === code)?.text ?? ''
    // A line that is not asked for here is kept as it was.
    const lines = new Set([...LINES, ...now.levels.map((level) => level.line)])
    levels.value = [...lines].map((line) => {
      const kept: Partial<LevelEntry> = now.levels.find((l) => l.line === line) ?? {}
      const { below = '', left = '', right = '', front = '', back = '' } = kept
      return { line, below, left, right, front, back }
    })
    const halved = new Set([...HALVED, ...now.marking.centre.map((mark) => mark.line)])
    marking.value = {
      tape_width: now.marking.tape_width,
      bridged: now.marking.bridged ?? null,
      centre: [...halved].map((line) => {
        const { across = '', off = '' } = now.marking.centre.find((mark) => mark.line === line) ?? {}
        return { line, across, off }
      }),
    }
    asKept = typed()
  },
  { immediate: true },
)

const {
  run: save,
  busy,
  problem: unsaved,
} = useAction(
  () => {
    saved.value = false
    if (!form.value) return undefined
    const body = {
      revision: form.value.revision,
      name: name.value,
      figures: Object.entries(figures).map(([code, text]) => ({ code, text })),
      levels: levels.value.filter((level) => PLACES.some((place) => level[place]?.trim())),
      marking: marking.value,
    }
    return put('/api/forms/{id}', { params: { path: { id: props.id } }, body })
  },
  async (now) => {
    saved.value = true
    form.value = now
    await pad()
  },
)

/** A block goes back to the form: fitted and altered there as any garment, without a client. */
const garment = ref('')
const {
  run: fitOn,
  busy: beginning,
  problem: unbegun,
} = useAction(
  () =>
    post('/api/forms/{id}/garments', {
      params: { path: { id: props.id } },
      body: { garment: garment.value },
    }),
  (made) => router.push({ name: 'compare', params: { id: made.id } }),
)
const { data: garments } = useResource(() => get('/api/orders', { params: { query: {} } }))
const onIt = computed(() => garments.value?.filter((order) => order.form_id === props.id) ?? [])

async function pad(): Promise<void> {
  padding.value = undefined
  if (client.value === undefined) return
  const result = await send(
    get('/api/forms/{id}/padding/{client}', { params: { path: { id: props.id, client: client.value } } }),
  )
  if (result.ok) padding.value = result.value
  else refused.value = result.problem
}
watch(client, () => void pad())
</script>

<template>
  <PageFrame
    right="cutting"
    :title="form?.name"
    :problem="problem ?? unsaved ?? unbegun ?? refused"
    :reading="!form"
  >
    <template v-if="form" #actions>
      <RouterLink :to="{ name: 'form-draft', params: { id } }">Draft its block</RouterLink>
      <RouterLink :to="{ name: 'cloth', query: { form: id } }">Cloth for it</RouterLink>
      <RouterLink :to="{ name: 'draping-guide', query: { form: id } }">Where the dart goes</RouterLink>
      <RouterLink :to="{ name: 'drapes', query: { form: id } }">A toile draped on it</RouterLink>
    </template>
    <template v-if="form">
      <div class="two">
        <form class="card stack" @submit.prevent="save">
          <h2>Its own figures</h2>
          <TextField id="form-name" v-model="name" label="Name" :most="120" />
          <div class="figures">
            <div v-for="code in WANTED" :key="code" class="field">
              <label :for="`form-${code}`">{{ nameOf.get(code) ?? code }}, {{ unit }}</label>
              <input :id="`form-${code}`" v-model="figures[code]" class="plain figure" type="text" />
            </div>
          </div>
          <h2>Level lines</h2>
          <p class="small soft">
            Heights above the floor, or how far a line lies below another one; a line drops more often behind
            than one thinks.
          </p>
          <table class="levels">
            <thead>
              <tr>
                <th scope="col">Line</th>
                <th scope="col">From</th>
                <th v-for="place in PLACES" :key="place" scope="col">{{ place }}</th>
              </tr>
            </thead>
            <tbody>
              <template v-for="level in levels" :key="level.line">
                <tr>
                  <th scope="row">{{ level.line }}</th>
                  <td>
                    <select
                      v-model="level.below"
                      class="plain"
                      :aria-label="`What the ${level.line} line is measured from`"
                    >
                      <option value="">the floor</option>
                      <template v-for="other in levels" :key="other.line"
                        ><option v-if="other.line !== level.line" :value="other.line">
                          the {{ other.line }}
                        </option></template
                      >
                    </select>
                  </td>
                  <td v-for="place in PLACES" :key="place">
                    <input
                      v-model="level[place]"
                      class="plain figure"
                      type="text"
                      :aria-label="`${level.below ? 'Distance' : 'Height'} of the ${level.line} line, ${place}`"
                    />
                  </td>
                </tr>
                <tr v-if="checks.get(level.line)">
                  <td colspan="6" class="small">
                    <span v-if="checks.get(level.line)?.level" class="soft">Level.</span>
                    <p v-for="move in checks.get(level.line)?.moves" :key="move" class="decide">{{ move }}</p>
                  </td>
                </tr>
              </template>
            </tbody>
          </table>
          <FormMarking v-model="marking" :saved="form.marking" />
          <div class="row saves">
            <ElButton type="primary" native-type="submit" :aria-busy="busy">Save the form</ElButton>
            <span v-if="saved" role="status" class="soft">Saved.</span>
          </div>
        </form>
        <div class="stack">
          <section class="card stack" aria-labelledby="on-it-title">
            <h2 id="on-it-title">Back to the form</h2>
            <p class="small soft">
              A block is put back on the form it was draped on: pinned, written down and altered in rounds, as
              any garment, without a client.
            </p>
            <ul v-if="onIt.length" class="on-it">
              <li v-for="order in onIt" :key="order.id" class="row">
                <RouterLink :to="pageOf(order)">{{ order.garment }}</RouterLink>
                <span class="small soft">{{ order.standing.waits_for }}</span>
              </li>
            </ul>
            <form class="row begin" @submit.prevent="fitOn">
              <TextField
                id="form-garment"
                v-model="garment"
                label="What goes on it"
                :most="120"
                placeholder="Bodice, first cloth"
              />
              <ElButton native-type="submit" :aria-busy="beginning" :disabled="!garment.trim()"
                >Begin</ElButton
              >
            </form>
          </section>
          <section class="card stack" aria-labelledby="padding-title">
            <h2 id="padding-title">Padding for a client</h2>
            <ChoiceField
              id="for-client"
              v-model="client"
              label="Client"
              :choices="clients?.items.map(({ id: value, name }) => ({ value, label: name })) ?? []"
            />
            <template v-if="padding">
              <p v-if="padding.too_large" class="decide">
                This form is already larger than she is somewhere: use a smaller one.
              </p>
              <table v-if="padding.levels.length">
                <thead>
                  <tr>
                    <th scope="col">Level</th>
                    <th scope="col" class="num">Form</th>
                    <th scope="col" class="num">Client</th>
                    <th scope="col" class="num">Missing</th>
                    <th scope="col" class="num">Wind, thick</th>
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="level in padding.levels" :key="level.measurement">
                    <th scope="row">{{ level.name }}</th>
                    <td class="num">{{ level.form.text }}</td>
                    <td class="num">{{ level.client.text }}</td>
                    <td class="num" :class="{ decide: level.too_large }">{{ level.missing.text }}</td>
                    <td class="num main">{{ level.too_large ? 'too large' : level.thickness.text }}</td>
                  </tr>
                </tbody>
              </table>
              <p v-for="line in padding.lines" :key="line">{{ line }}</p>
              <p v-if="padding.unknown.length" class="small soft">
                Not known of both: {{ padding.unknown.join(', ') }}.
              </p>
              <p class="small soft">
                The thickness is a first guess, even all round: wind it, measure again, and save what the form
                reads then.
              </p>
            </template>
          </section>
        </div>
      </div>
    </template>
  </PageFrame>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
  gap: 1.2rem;
  align-items: start;
}
.figures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(11rem, 1fr));
  gap: 0.7rem;
}
.on-it {
  list-style: none;
  margin: 0;
  padding: 0;
}
.begin {
  align-items: end;
}
td select {
  min-width: 8.5rem;
}
.main {
  font-weight: 700;
}
/* On a telephone a line takes two rows: what it is measured from, and its four places. */
@media (max-width: 600px) {
  .levels tr {
    display: grid;
    grid-template-columns: repeat(4, minmax(0, 1fr));
  }
  .levels :is(th, td):nth-child(-n + 2) {
    grid-column: span 2;
  }
  .levels td[colspan] {
    grid-column: 1 / -1;
  }
  .levels input {
    width: 100%;
  }
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
