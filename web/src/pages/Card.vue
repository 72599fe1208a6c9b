<script setup lang="ts">
/**
 * A card: a bought or old block measured by hand into the table, a column a size. Enough to compare, to plan and for a
 * worksheet.
 */
import { ElButton } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import type { CardForm } from '@/api/types'
import PageFrame from '@/components/PageFrame.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

/** One size as it is typed. What was typed for another garment is kept and not sent. */
interface Size {
  label: string
  made_for: Record<string, string>
  figures: Record<string, string>
}

const router = useRouter()
const { units } = useHouse()
const { data: forms, problem: unread } = useResource(get('/api/cards'))
const entry = reactive({ name: '', why: '' })
const garment = ref<CardForm['garment']>('bodice')
const form = computed(() => forms.value?.find((each) => each.garment === garment.value))
const sizes = ref<Size[]>([{ label: '', made_for: {}, figures: {} }])

/** The rows of the table, in the order of the page: what is typed, and where it belongs. */
const rows = computed(() => {
  if (!form.value) return []
  const made = form.value.made_for.map(({ code, name }) => ({
    at: 'made_for' as const,
    code,
    name: `Made for: ${name.toLowerCase()}`,
    needed: false,
  }))
  const figures = form.value.figures.map(({ figure, name, needed }) => ({
    at: 'figures' as const,
    code: figure,
    name,
    needed,
  }))
  return [...made, ...figures.filter((row) => row.needed), ...figures.filter((row) => !row.needed)]
})

/** Only what the table shows, so that nothing hidden is kept. */
const typed = (size: Size, at: 'made_for' | 'figures') =>
  Object.fromEntries(
    rows.value
      .filter((row) => row.at === at && size[at][row.code]?.trim())
      .map((row) => [row.code, size[at][row.code] ?? '']),
  )

const {
  run: keep,
  busy,
  problem,
} = useAction(
  () =>
    post('/api/cards', {
      body: {
        ...entry,
        garment: garment.value,
        sizes: sizes.value.map((size) => ({
          label: size.label,
          made_for: typed(size, 'made_for'),
          figures: typed(size, 'figures'),
        })),
      },
    }),
  (made) => router.push({ name: 'block', params: { id: made.id } }),
)
const fault = (pointer: string) => (problem.value?.pointer === pointer ? problem.value.detail : undefined)
/** What is wrong in a row, of whichever size. */
const faultOf = (rest: string) =>
  sizes.value.map((_, place) => fault(`/sizes/${place}/${rest}`)).find((says) => says !== undefined)
const called = (place: number) => sizes.value[place]?.label.trim() || String(place + 1)
</script>

<template>
  <PageFrame right="cutting" title="Measure a card" :problem="problem ?? unread">
    <template #lead>
      <p class="soft">
        For a block that exists only on paper: measure net lines, darts closed, and write down what you find,
        in
        {{ units }}. Girths are all round, everything else as it lies. What is left empty is not compared.
      </p>
    </template>
    <form class="stack" @submit.prevent="keep">
      <div class="card grid">
        <fieldset class="chips">
          <legend>What it is of</legend>
          <label v-for="each in forms" :key="each.garment" class="chip"
            ><input v-model="garment" type="radio" name="garment" :value="each.garment" /><span>{{
              each.name
            }}</span></label
          >
        </fieldset>
        <TextField id="card-name" v-model="entry.name" label="Name of the card" :most="120" />
        <TextField
          id="card-why"
          v-model="entry.why"
          label="Where it comes from, and why it is kept"
          :most="400"
        />
        <p v-if="form?.says" class="says" role="status">{{ form.says }}</p>
      </div>
      <section class="card stack" aria-labelledby="card-figures">
        <div class="between">
          <h2 id="card-figures">Measured on the block, in {{ units }}</h2>
          <ElButton @click="sizes.push({ label: '', made_for: {}, figures: {} })">Another size</ElButton>
        </div>
        <div class="scroll" tabindex="0" role="region" aria-label="Figures of the card">
          <table>
            <thead>
              <tr>
                <th scope="row">Size</th>
                <td v-for="(size, place) in sizes" :key="place">
                  <input
                    v-model="size.label"
                    class="plain figure"
                    type="text"
                    maxlength="40"
                    autocomplete="off"
                    :aria-label="sizes.length === 1 ? 'Size' : `Size ${place + 1}`"
                    :aria-invalid="fault(`/sizes/${place}/label`) !== undefined"
                  />
                  <ElButton
                    v-if="sizes.length > 1"
                    size="small"
                    text
                    :aria-label="`Leave out size ${called(place)}`"
                    @click="sizes.splice(place, 1)"
                    >leave out</ElButton
                  >
                </td>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in rows" :key="`${row.at}-${row.code}`">
                <th scope="row">
                  {{ row.name }}<span v-if="row.needed" class="needed">, needed</span>
                  <span v-if="faultOf(`${row.at}/${row.code}`)" role="alert" class="small decide fault">{{
                    faultOf(`${row.at}/${row.code}`)
                  }}</span>
                </th>
                <td v-for="(size, place) in sizes" :key="place">
                  <input
                    v-model="size[row.at][row.code]"
                    class="plain figure"
                    type="text"
                    autocomplete="off"
                    :aria-label="sizes.length === 1 ? row.name : `${row.name}, size ${called(place)}`"
                    :aria-invalid="fault(`/sizes/${place}/${row.at}/${row.code}`) !== undefined"
                  />
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <div class="saves">
        <ElButton type="primary" native-type="submit" :aria-busy="busy">Keep the card</ElButton>
      </div>
    </form>
  </PageFrame>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(19rem, 100%), 1fr));
  gap: 0.5rem 1.4rem;
  margin: 0;
}
.says {
  grid-column: 1 / -1;
  margin: 0;
}
.scroll {
  overflow-x: auto;
}
table {
  width: auto;
}
th {
  min-width: 12rem;
  max-width: 20rem;
  vertical-align: middle;
  font-size: 1rem;
  color: inherit;
  font-weight: 400;
}
th::first-letter {
  text-transform: uppercase;
}
.needed {
  font-weight: 700;
}
.fault {
  display: block;
}
td {
  width: 7rem;
  min-width: 6rem;
  vertical-align: top;
}
</style>
