<script setup lang="ts">
/** The house's own ease sets: wearing and design ease, what the cloth gives, and which readings count. */
import { ElButton, ElInput } from 'element-plus'
import { reactive, ref } from 'vue'
import { get, post, put, remove, send } from '@/api/client'
import { fieldText } from '@/api/lengths'
import type { HouseEaseView } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useUndo } from '@/composables/useUndo'
import { useResource } from '@/composables/useResource'

const undo = useUndo()
const { craft, units } = useHouse()
const { data: own, reload } = useResource(get('/api/house/ease-sets'))
const editing = ref<HouseEaseView | 'new'>()
const FIELDS = [
  { key: 'bust', name: 'Bust' },
  { key: 'waist', name: 'Waist' },
  { key: 'hip', name: 'Hip' },
  { key: 'across_back', name: 'Across back' },
  { key: 'upper_arm', name: 'Upper arm' },
  { key: 'elbow', name: 'Elbow', or: 'as upper arm' },
  { key: 'wrist', name: 'Wrist', or: 'as upper arm' },
] as const
const PARTS = [
  { key: 'wearing', name: 'Wearing ease' },
  { key: 'design', name: 'Design ease' },
] as const
const empty = () => ({ bust: '', waist: '', hip: '', across_back: '', upper_arm: '', elbow: '', wrist: '' })
const blank = () => ({
  name: '',
  note: '',
  stretch: '',
  reach: false,
  drawn_in: false,
  wearing: empty(),
  design: empty(),
})
const entry = reactive(blank())

/** As it is typed; nothing where nothing is said. */
async function written(mm: number | null): Promise<string> {
  return mm === null ? '' : ((await fieldText(mm, true)) ?? '')
}

async function edit(view: HouseEaseView | 'new'): Promise<void> {
  Object.assign(entry, blank())
  if (view !== 'new') {
    const { set } = view
    entry.name = set.name
    entry.note = set.note
    entry.reach = set.reach
    entry.drawn_in = set.drawn_in
    entry.stretch = set.stretch ? String(Math.round(set.stretch * 1000) / 10) : ''
    for (const field of FIELDS) {
      const { key } = field
      entry.wearing[key] = await written(set[key])
      const design = set.design[key]
      // No design ease stays empty; at elbow and wrist none is not as much as at the upper arm.
      entry.design[key] = design === 0 && !('or' in field) ? '' : await written(design)
    }
  }
  editing.value = view
}

async function done(): Promise<void> {
  editing.value = undefined
  await reload()
  const known = await send(get('/api/craft'))
  if (known.ok) craft.value = known.value
}

const {
  run: save,
  busy,
  problem: unsaved,
} = useAction(
  () => {
    const view = editing.value
    if (!view) return undefined
    if (view === 'new') return post('/api/house/ease-sets', { body: entry })
    return put('/api/house/ease-sets/{id}', {
      params: { path: { id: view.id } },
      body: { revision: view.revision, ...entry },
    })
  },
  done,
  { opens: editing },
)
const { run: drop, problem: undropped } = useAction(
  (view: HouseEaseView) => remove('/api/house/ease-sets/{id}', { params: { path: { id: view.id } } }),
  async (_, { id }) => {
    await done()
    undo(
      'The ease set is taken away.',
      post('/api/house/ease-sets/{id}/restore', { params: { path: { id } } }),
      done,
    )
  },
)
</script>

<template>
  <section class="card stack" aria-labelledby="ease-title">
    <div class="between">
      <h2 id="ease-title">Our own ease sets</h2>
      <ElButton size="small" @click="edit('new')">Make an ease set</ElButton>
    </div>
    <p v-if="!own?.length" class="soft small">
      None yet: {{ craft?.ease_sets.map((set) => set.name.toLowerCase()).join(', ') }} are built in.
    </p>
    <ul>
      <li v-for="view in own" :key="view.id" class="between">
        <span
          ><strong>{{ view.set.name }}</strong> <span class="soft">{{ view.set.note }}</span></span
        >
        <span class="row">
          <ElButton size="small" @click="edit(view)">Edit {{ view.set.name }}</ElButton>
          <ElButton size="small" @click="drop(view)">Take {{ view.set.name }} away</ElButton>
        </span>
      </li>
    </ul>
    <ProblemNote :problem="unsaved ?? undropped" />
    <form v-if="editing" class="stack" @submit.prevent="save">
      <div class="field">
        <label for="ease-name">Name of the ease set</label>
        <ElInput id="ease-name" v-model="entry.name" maxlength="120" :disabled="editing !== 'new'" />
      </div>
      <TextField id="ease-note" v-model="entry.note" label="What it is for" :most="300" />
      <table>
        <thead>
          <tr>
            <th scope="col">In {{ units }}, all round</th>
            <th v-for="part in PARTS" :key="part.key" scope="col">{{ part.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="field in FIELDS" :key="field.key">
            <th scope="row">{{ field.name }}</th>
            <td v-for="part in PARTS" :key="part.key">
              <input
                v-model="entry[part.key][field.key]"
                class="plain figure"
                type="text"
                autocomplete="off"
                :placeholder="'or' in field ? field.or : undefined"
                :aria-label="`${part.name}, ${field.name.toLowerCase()}`"
                :aria-invalid="unsaved?.pointer === `/${part.key}/${field.key}`"
              />
            </td>
          </tr>
        </tbody>
      </table>
      <TextField
        id="ease-stretch"
        v-model="entry.stretch"
        label="What the cloth gives, per cent; −5 cuts a twentieth smaller"
      />
      <label class="row"
        ><input v-model="entry.reach" type="checkbox" /> Across the back counts with both arms forward, where
        that was measured</label
      >
      <label class="row"
        ><input v-model="entry.drawn_in" type="checkbox" /> The waist counts drawn in, without wearing ease,
        where that was measured beside the natural one</label
      >
      <div class="row saves">
        <ElButton type="primary" native-type="submit" :aria-busy="busy">Save the ease set</ElButton>
        <ElButton @click="editing = undefined">Never mind</ElButton>
      </div>
    </form>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.4rem;
}
td input {
  max-width: 7rem;
}
</style>
