<script setup lang="ts">
/** Days a client cannot come: typed, or read from her calendar's file. Of a file only the days are kept. */
import { ElButton, ElInput } from 'element-plus'
import { reactive, ref, shallowRef } from 'vue'
import { get, post, remove, send } from '@/api/client'
import type { BusyView, Problem } from '@/api/types'
import DayField from '@/components/DayField.vue'
import FileField from '@/components/FileField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useResource } from '@/composables/useResource'
import { useUndo } from '@/composables/useUndo'
import { asDay, today } from '@/days'

const undo = useUndo()
const props = defineProps<{ client: number }>()
const { data: away, reload } = useResource(() =>
  get('/api/clients/{id}/away', { params: { path: { id: props.client } } }),
)
const entry = reactive({ from: '', to: '', why: '' })
const problem = shallowRef<Problem>()
const busy = shallowRef<BusyView>()
const open = ref(false)

const {
  run: add,
  busy: adding,
  problem: unadded,
} = useAction(
  () =>
    post('/api/clients/{id}/away', {
      params: { path: { id: props.client } },
      body: { ...entry, to: entry.to || entry.from },
    }),
  async () => {
    Object.assign(entry, { from: '', to: '', why: '' })
    await reload()
  },
)

async function readFile(file: File): Promise<void> {
  const result = await send(
    post('/api/clients/{id}/busy', {
      params: { path: { id: props.client } },
      body: { content: await file.text() },
    }),
  )
  busy.value = result.ok ? result.value : undefined
  problem.value = result.ok ? undefined : result.problem
  if (result.ok) await reload()
}
const { run: drop, problem: undropped } = useAction(
  (id: number) => remove('/api/away/{id}', { params: { path: { id } } }),
  async (_, id) => {
    const days = away.value?.find((each) => each.id === id)?.away
    await reload()
    if (!days) return
    const params = { path: { id: props.client } }
    undo('These days are taken out.', post('/api/clients/{id}/away', { params, body: days }), reload)
  },
)
</script>

<template>
  <section class="card stack" aria-labelledby="away-title">
    <div class="between">
      <h2 id="away-title">Days she cannot come</h2>
      <ElButton size="small" :aria-expanded="open" @click="open = !open">{{
        open ? 'Done' : 'Add days'
      }}</ElButton>
    </div>
    <p v-if="away && !away.length" class="soft small">None known.</p>
    <ul v-else class="days">
      <li v-for="each in away" :key="each.id" class="between">
        <span
          ><span class="figure">{{ asDay(each.away.from) }}</span
          ><span v-if="each.away.to !== each.away.from" class="figure"> to {{ asDay(each.away.to) }}</span>
          <span v-if="each.away.why" class="soft"> {{ each.away.why }}</span></span
        >
        <ElButton
          v-if="open"
          size="small"
          :aria-label="`Take out ${asDay(each.away.from)}`"
          @click="drop(each.id)"
          >Take out</ElButton
        >
      </li>
    </ul>
    <template v-if="open">
      <form class="fields" @submit.prevent="add">
        <div class="field">
          <label for="away-from">From</label>
          <DayField id="away-from" v-model="entry.from" :min="today()" required />
        </div>
        <div class="field">
          <label for="away-to">To</label>
          <DayField id="away-to" v-model="entry.to" />
        </div>
        <div class="field why">
          <label for="away-why">Why, if she says</label>
          <ElInput id="away-why" v-model="entry.why" maxlength="200" />
        </div>
        <ElButton native-type="submit" :aria-busy="adding">Add these days</ElButton>
      </form>
      <FileField
        id="busy"
        label="Or from her calendar (.ics); only the days are kept"
        accept=".ics,text/calendar"
        @file="readFile"
      />
      <p v-if="busy" role="status">
        {{ busy.added === 1 ? 'One time is new.' : `${busy.added} times are new.` }}
        <span v-for="line in busy.left_out" :key="line" class="small soft">{{ line }} </span>
      </p>
      <ProblemNote :problem="problem ?? unadded ?? undropped" />
    </template>
  </section>
</template>

<style scoped>
.days {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.35rem;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.6rem;
}
.why {
  grid-column: 1 / -1;
}
</style>
