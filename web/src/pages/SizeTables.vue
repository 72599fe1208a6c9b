<script setup lang="ts">
/** Size tables: the built-in ones and the house's own, read from a file and looked at before they are kept. */
import { ElButton, ElInput } from 'element-plus'
import { reactive, ref, shallowRef } from 'vue'
import { RouterLink } from 'vue-router'
import { get, post, remove, send } from '@/api/client'
import type { Problem, SizeTableRead } from '@/api/types'
import FileField from '@/components/FileField.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useUndo } from '@/composables/useUndo'
import { useResource } from '@/composables/useResource'

const undo = useUndo()
const { units } = useHouse()
const { data: drafting, problem: unread, reload } = useResource(get('/api/drafting'))
const entry = reactive({ name: '', csv: '', file: '' })
const read = shallowRef<SizeTableRead>()
const problem = shallowRef<Problem>()
const said = ref('')
const EXAMPLE =
  'measurement,unit,36,38,40\nBust girth,cm,84,88,92\nWaist girth,cm,66,70,74\nHip girth,cm,90,94,98'

async function chosen(file: File): Promise<void> {
  entry.file = file.name
  entry.csv = await file.text()
  await look()
}

async function look(): Promise<void> {
  said.value = ''
  const result = await send(post('/api/house/size-tables/preview', { body: { csv: entry.csv } }))
  problem.value = result.ok ? undefined : result.problem
  read.value = result.ok ? result.value : undefined
}

const {
  run: keep,
  busy,
  problem: unkept,
} = useAction(
  () => post('/api/house/size-tables', { body: { name: entry.name, csv: entry.csv } }),
  async () => {
    said.value = `“${entry.name}” is kept.`
    Object.assign(entry, { name: '', csv: '', file: '' })
    read.value = undefined
    await reload()
  },
)

const { run: drop, problem: undropped } = useAction(
  (id: number) => remove('/api/house/size-tables/{id}', { params: { path: { id } } }),
  async (_, id) => {
    await reload()
    const back = post('/api/house/size-tables/{id}/restore', { params: { path: { id } } })
    undo('The table is taken away.', back, reload)
  },
)
</script>

<template>
  <PageFrame
    right="cutting"
    title="Size tables"
    :problem="problem ?? unkept ?? undropped ?? unread"
    :reading="!drafting"
  >
    <template #lead>
      <p class="soft">
        A master's sizes are <RouterLink :to="{ name: 'draft' }">drafted from a table</RouterLink>. What a
        table does not say is estimated from what it says.
      </p>
    </template>
    <ul>
      <li v-for="table in drafting?.tables" :key="table.code" class="card between">
        <div>
          <strong>{{ table.name }}</strong>
          <p class="small">{{ table.note }} Sizes {{ table.sizes.join(', ') }}.</p>
        </div>
        <ElButton v-if="table.house_id != null" size="small" @click="drop(table.house_id)"
          >Take {{ table.name }} away</ElButton
        >
      </li>
    </ul>
    <section class="card stack" aria-labelledby="new-table">
      <h2 id="new-table">A table of our own</h2>
      <p class="small soft">
        A CSV file: a row a measurement, a column a size; the unit in a column of its own, or
        {{ units }} where there is none. At least bust and waist.
      </p>
      <pre class="small">{{ EXAMPLE }}</pre>
      <FileField id="table-file" label="File" accept=".csv,.txt,text/csv" @file="chosen" />
      <div class="field">
        <label for="table-text">or its lines</label>
        <textarea
          id="table-text"
          v-model="entry.csv"
          class="plain"
          rows="6"
          spellcheck="false"
          @change="look"
        />
      </div>
      <template v-if="read">
        <p v-if="read.problems.length" class="decide">
          Nothing is kept yet:
          {{ read.problems.length === 1 ? 'one line wants' : `${read.problems.length} places want` }} mending.
        </p>
        <p v-else role="status">
          Sizes {{ read.sizes.join(', ') }}; {{ read.measurements.length }} measurements:
          {{ read.measurements.join(', ') }}.
        </p>
        <ol v-if="read.problems.length" class="problems">
          <li v-for="(fault, index) in read.problems" :key="index">
            Line {{ fault.line }}{{ fault.column ? `, ${fault.column}` : '' }}: {{ fault.says }}
          </li>
        </ol>
        <form v-if="!read.problems.length" class="row" @submit.prevent="keep">
          <ElInput
            v-model="entry.name"
            class="name"
            maxlength="120"
            aria-label="Name of the table"
            placeholder="Name of the table"
          />
          <ElButton type="primary" native-type="submit" :aria-busy="busy">Keep the table</ElButton>
        </form>
      </template>
      <p v-if="said" role="status">{{ said }}</p>
    </section>
  </PageFrame>
</template>

<style scoped>
ul,
.problems {
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 0.5rem;
}
pre {
  margin: 0;
  padding: 0.6rem 0.8rem;
  background: var(--sunk);
  overflow-x: auto;
}
.name {
  max-width: 20rem;
}
textarea {
  font-family: monospace;
}
</style>
