<script setup lang="ts">
/** The house's own measurement sets. */
import { ElButton, ElInput } from 'element-plus'
import { computed, reactive, ref, shallowRef } from 'vue'
import { post, put, remove } from '@/api/client'
import type { Problem, SetView } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import { useCatalogue } from '@/composables/useCatalogue'

const { catalogue, reload } = useCatalogue()
const problem = shallowRef<Problem>()
const editing = ref<SetView | 'new'>()
const entry = reactive<{ name: string; codes: string[] }>({ name: '', codes: [] })
const own = computed(() => catalogue.value?.sets.filter((set) => set.house_id != null) ?? [])

function edit(set: SetView | 'new'): void {
  editing.value = set
  problem.value = undefined
  Object.assign(entry, set === 'new' ? { name: '', codes: [] } : { name: set.name, codes: [...set.codes] })
}

async function done(result: { ok: true } | { ok: false; problem: Problem }): Promise<void> {
  problem.value = result.ok ? undefined : result.problem
  if (!result.ok) return
  editing.value = undefined
  await reload()
}

async function save(): Promise<void> {
  const set = editing.value
  if (!set) return
  if (set === 'new') await done(await post('/api/sets', { ...entry }))
  else await done(await put(`/api/sets/${set.house_id}`, { revision: set.revision, ...entry }))
}
const drop = async (set: SetView) => done(await remove(`/api/sets/${set.house_id}`))
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
    <ProblemNote :problem="problem" />
    <form v-if="editing" class="stack" @submit.prevent="save">
      <div class="field">
        <label for="set-name">Name of the set</label>
        <ElInput id="set-name" v-model="entry.name" maxlength="120" />
      </div>
      <fieldset class="chips">
        <legend class="legend">Readings, in the order of the route</legend>
        <label v-for="{ measurement } in catalogue?.measurements" :key="measurement.code" class="chip">
          <input v-model="entry.codes" type="checkbox" :value="measurement.code" />
          <span>{{ measurement.name }}</span>
        </label>
      </fieldset>
      <div class="row">
        <ElButton type="primary" native-type="submit">Save the set</ElButton>
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
