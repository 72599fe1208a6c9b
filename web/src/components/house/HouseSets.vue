<script setup lang="ts">
/** The house's own measurement sets. */
import { ElButton } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { post, put, remove } from '@/api/client'
import type { SetView } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useCatalogue } from '@/composables/useCatalogue'
import { useUndo } from '@/composables/useUndo'

const { catalogue, reload } = useCatalogue()
const undo = useUndo()
const editing = ref<SetView | 'new'>()
const entry = reactive<{ name: string; codes: string[] }>({ name: '', codes: [] })
const own = computed(() => catalogue.value?.sets.filter((set) => set.house_id != null) ?? [])

function edit(set: SetView | 'new'): void {
  editing.value = set
  Object.assign(entry, set === 'new' ? { name: '', codes: [] } : { name: set.name, codes: [...set.codes] })
}

async function done(): Promise<void> {
  editing.value = undefined
  await reload()
}

const {
  run: save,
  busy,
  problem: unsaved,
} = useAction(
  () => {
    const set = editing.value
    if (!set) return undefined
    if (set === 'new') return post('/api/sets', { body: { ...entry } })
    if (set.house_id == null) return undefined
    return put('/api/sets/{id}', {
      params: { path: { id: set.house_id } },
      body: { revision: set.revision, ...entry },
    })
  },
  done,
  { opens: editing },
)
const { run: drop, problem: undropped } = useAction(
  ({ house_id: id }: SetView) =>
    id == null ? undefined : remove('/api/sets/{id}', { params: { path: { id } } }),
  async (_, { name, codes }) => {
    await done()
    undo(`“${name}” is taken away.`, post('/api/sets', { body: { name, codes } }), reload)
  },
)
</script>

<template>
  <section class="card stack" aria-labelledby="sets-title">
    <div class="between">
      <h2 id="sets-title">Our own measurement sets</h2>
      <ElButton size="small" @click="edit('new')">Make a set</ElButton>
    </div>
    <p v-if="!own.length" class="soft small">
      None yet. A set is chosen before the tape comes out, so that nothing is forgotten.
    </p>
    <ul class="plain">
      <li v-for="set in own" :key="set.code" class="between">
        <span
          ><strong>{{ set.name }}</strong> <span class="soft">{{ set.codes.length }} readings</span></span
        >
        <span class="row">
          <ElButton size="small" @click="edit(set)">Edit {{ set.name }}</ElButton>
          <ElButton size="small" @click="drop(set)">Take {{ set.name }} away</ElButton>
        </span>
      </li>
    </ul>
    <ProblemNote :problem="unsaved ?? undropped" />
    <form v-if="editing" class="stack" @submit.prevent="save">
      <TextField id="set-name" v-model="entry.name" label="Name of the set" :most="120" />
      <fieldset class="chips">
        <legend class="legend">Readings, in the order of the route</legend>
        <label v-for="{ measurement } in catalogue?.measurements" :key="measurement.code" class="chip">
          <input v-model="entry.codes" type="checkbox" :value="measurement.code" />
          <span>{{ measurement.name }}</span>
        </label>
      </fieldset>
      <div class="row saves">
        <ElButton type="primary" native-type="submit" :aria-busy="busy">Save the set</ElButton>
        <ElButton @click="editing = undefined">Never mind</ElButton>
      </div>
    </form>
  </section>
</template>

<style scoped>
.plain {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.4rem;
}
</style>
