<script setup lang="ts">
/** Readings from a file: looked at line by line first, then saved with progress, and given up without a trace. */
import { ElButton } from 'element-plus'
import { computed, onScopeDispose, ref, shallowRef } from 'vue'
import { get, post, put, send } from '@/api/client'
import type { Column, ImportView, Problem, Unit } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import FileField from '@/components/FileField.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useCatalogue } from '@/composables/useCatalogue'
import { useHouse } from '@/composables/useHouse'
import { asDay } from '@/days'

const { catalogue } = useCatalogue()
const { ofSide } = useHouse()
const problem = shallowRef<Problem>()
const file = shallowRef<ImportView>()
let timer: ReturnType<typeof setTimeout> | undefined
const busy = ref(false)

const PLAIN: { code: Exclude<Column['is'], 'of' | 'schools'>; name: string }[] = [
  { code: 'ignore', name: 'Pass over' },
  { code: 'client', name: 'Client’s name' },
  { code: 'day', name: 'Day' },
  { code: 'measurement', name: 'Measurement' },
  { code: 'side', name: 'Side' },
  { code: 'value', name: 'Length' },
  { code: 'unit', name: 'Unit' },
  { code: 'ease', name: 'Ease inside, mm' },
  { code: 'note', name: 'Note' },
  { code: 'stands', name: 'Initials: it stands' },
]
const UNITS: { value: Unit; label: string }[] = [
  { value: 'inch', label: 'inches' },
  { value: 'cm', label: 'centimetres' },
  { value: 'mm', label: 'millimetres' },
]
const running = computed(() => ['running', 'stopping'].includes(file.value?.state ?? ''))

function take<T>(result: { ok: true; value: T } | { ok: false; problem: Problem }): T | undefined {
  problem.value = result.ok ? undefined : result.problem
  return result.ok ? result.value : undefined
}

async function look(id: number): Promise<void> {
  const seen = take(await send(get('/api/imports/{id}', { params: { path: { id } } })))
  if (seen) file.value = seen
  clearTimeout(timer)
  if (running.value) timer = setTimeout(() => void look(id), 300)
}
onScopeDispose(() => clearTimeout(timer))

async function bring(chosen: File): Promise<void> {
  busy.value = true
  const body = { file_name: chosen.name, content: await chosen.text() }
  const made = take(await send(post('/api/imports', { body })))
  if (made) await look(made.id)
  busy.value = false
}

const codeOf = (is: Column) => (is.is === 'of' ? `of ${is.code}` : is.is)

async function remap(change: { at?: number; is?: string; unit?: Unit; dayFirst?: boolean }): Promise<void> {
  if (!file.value) return
  const columns = file.value.columns.map((column, index): Column => {
    if (index !== change.at || change.is === undefined) return column.is
    if (change.is.startsWith('of ')) return { is: 'of', code: change.is.slice(3) }
    return { is: PLAIN.find(({ code }) => code === change.is)?.code ?? 'ignore' }
  })
  const body = {
    order_chosen: change.dayFirst !== undefined,
    columns,
    unit: change.unit ?? file.value.unit,
    day_first: change.dayFirst ?? file.value.day_first,
  }
  const seen = take(
    await send(put('/api/imports/{id}/mapping', { params: { path: { id: file.value.id } }, body })),
  )
  if (seen) file.value = seen
}

/** Somebody the book does not have. */
const NEW = 'new'
/** Who of the book a name of the file may be. */
const mayBe = ({ may_be }: ImportView['people'][number]) => [
  ...may_be.map(({ client_id, name, contact }) => ({
    value: String(client_id),
    label: `${name}, number ${client_id}${contact ? `, ${contact}` : ''}`,
  })),
  { value: NEW, label: 'somebody new in the book' },
]

/** Whose a name of the file is. */
async function answer(name: string, who: string): Promise<void> {
  if (!file.value) return
  const client_id = who === NEW ? null : Number(who)
  const seen = take(
    await send(
      put('/api/imports/{id}/people', { params: { path: { id: file.value.id } }, body: { name, client_id } }),
    ),
  )
  if (seen) file.value = seen
}
const open = computed(() => file.value?.people.filter((person) => person.open).length ?? 0)

async function act(what: 'save' | 'cancel'): Promise<void> {
  if (!file.value) return
  const params = { path: { id: file.value.id } }
  const call =
    what === 'save'
      ? post('/api/imports/{id}/save', { params })
      : post('/api/imports/{id}/cancel', { params })
  const result = await send<unknown>(call)
  problem.value = result.ok ? undefined : result.problem
  await look(file.value.id)
}
/** What a column may be: something plain, or one measurement's length. */
const columnChoices = computed(() => [
  ...PLAIN.map(({ code, name }) => ({ value: code as string, label: name })),
  ...(catalogue.value?.measurements ?? []).map(({ measurement: { code, name } }) => ({
    value: `of ${code}`,
    label: name,
    group: 'Lengths of',
  })),
])
</script>

<template>
  <PageFrame right="readings" title="Readings from a file" :problem="problem">
    <template #lead>
      <p class="soft">
        CSV with a heading, one reading a line or one session a line; or JSON as Yardwand writes it. Nothing
        is saved before you have looked at it.
      </p>
    </template>
    <FileField
      id="file"
      label="CSV or JSON file"
      accept=".csv,.json,.txt,text/csv,application/json"
      @file="bring"
    />
    <p v-if="busy" role="status" class="soft">Reading the file …</p>
    <template v-if="file?.state === 'preview'">
      <section class="card stack" aria-labelledby="columns-title">
        <h2 id="columns-title">What the columns of {{ file.file_name }} are</h2>
        <div class="columns">
          <ChoiceField
            v-for="(column, index) in file.columns"
            :id="`column-${index}`"
            :key="index"
            :model-value="codeOf(column.is)"
            :label="column.heading"
            :choices="columnChoices"
            :hint="column.sample.join(' · ')"
            @update:model-value="remap({ at: index, is: $event })"
          />
        </div>
        <div class="row">
          <ChoiceField
            id="import-unit"
            :model-value="file.unit"
            label="A length without a unit is in"
            :choices="UNITS"
            @update:model-value="remap({ unit: $event })"
          />
          <ChoiceField
            id="day-first"
            :model-value="file.day_first ? 'day' : 'month'"
            label="A day such as 3/4/2026 is"
            :choices="[
              { value: 'day', label: '3 April' },
              { value: 'month', label: '4 March' },
            ]"
            @update:model-value="remap({ dayFirst: $event === 'day' })"
          />
        </div>
        <p v-if="file.lacks" class="decide">Before lines can be read, {{ file.lacks }}.</p>
      </section>
      <section v-if="!file.lacks" class="card stack" aria-labelledby="found-title">
        <h2 id="found-title">What would be saved</h2>
        <p>
          <strong>{{ file.fresh }}</strong> {{ file.fresh === 1 ? 'reading' : 'readings' }} of
          <strong>{{ file.clients }}</strong>
          {{ file.clients === 1 ? 'client' : 'clients' }} from {{ file.lines }}
          {{ file.lines === 1 ? 'line' : 'lines' }}.
          <template v-if="file.new_clients.length">
            New in the book: {{ file.new_clients.slice(0, 12).join(', ')
            }}{{ file.new_clients.length > 12 ? ' and more' : '' }}. Ask them for their consent.
          </template>
        </p>
        <div v-if="file.people.length" class="stack people">
          <h3>Whose are they?</h3>
          <p class="small soft">
            These names are near to one in the book, or several there have them. Nothing is saved before each
            is answered.
          </p>
          <ChoiceField
            v-for="(person, index) in file.people"
            :id="`person-${index}`"
            :key="person.name"
            :class="{ open: person.open }"
            :model-value="person.open ? undefined : person.is_new ? NEW : String(person.client_id)"
            :label="`“${person.name}” is`"
            :choices="mayBe(person)"
            @update:model-value="(who) => who && answer(person.name, who)"
          />
        </div>
        <div class="row">
          <ElButton type="primary" :disabled="!file.fresh || open > 0" @click="act('save')"
            >Save {{ file.fresh }} {{ file.fresh === 1 ? 'reading' : 'readings' }}</ElButton
          >
          <ElButton @click="act('cancel')">Give it up</ElButton>
        </div>
        <details v-if="file.problem_count" open>
          <summary class="decide">
            {{ file.problem_count }} {{ file.problem_count === 1 ? 'line is' : 'lines are' }} left out
          </summary>
          <ul class="lines">
            <li v-for="(line, index) in file.problems" :key="index">
              <span class="figure">Line {{ line.line }}{{ line.column ? `, ${line.column}` : '' }}:</span>
              {{ line.says }}
            </li>
          </ul>
        </details>
        <details v-if="file.doubt_count" open>
          <summary class="decide">
            {{ file.doubt_count }} {{ file.doubt_count === 1 ? 'reading is' : 'readings are' }} doubtful, and
            would be saved
          </summary>
          <ul class="lines">
            <li v-for="(line, index) in file.doubts" :key="index">
              <span class="figure">Line {{ line.line }}, {{ line.column }}:</span> {{ line.says }}
            </li>
          </ul>
        </details>
        <details v-if="file.twin_count">
          <summary>{{ file.twin_count }} readings are known already</summary>
          <ul class="lines">
            <li v-for="(line, index) in file.twins" :key="index">Line {{ line.line }}: {{ line.says }}</li>
          </ul>
        </details>
        <table v-if="file.sample.length">
          <thead>
            <tr>
              <th scope="col" class="num">Line</th>
              <th scope="col">Client</th>
              <th scope="col">Day</th>
              <th scope="col">Measurement</th>
              <th scope="col" class="num">Length</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(reading, index) in file.sample" :key="index">
              <td class="num">{{ reading.line }}</td>
              <td>{{ reading.client }}</td>
              <td class="figure">{{ asDay(reading.taken_on) }}</td>
              <td>{{ reading.name }}{{ ofSide(reading.side) }}</td>
              <td class="num">{{ reading.text }}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </template>
    <section v-else-if="file" class="card stack" aria-live="polite">
      <template v-if="running">
        <p>{{ file.done }} of {{ file.total }} readings saved</p>
        <progress :value="file.done" :max="file.total" aria-label="Readings saved" />
        <div>
          <ElButton :disabled="file.state === 'stopping'" @click="act('cancel')"
            >Stop and take it all back</ElButton
          >
        </div>
      </template>
      <p v-else-if="file.state === 'done'">
        <strong>{{ file.done }}</strong> readings are in the book.
      </p>
      <p v-else-if="file.state === 'cancelled'">Given up: nothing of this file is in the book.</p>
      <p v-else class="decide">It failed; nothing of this file is in the book. Bring it in again.</p>
    </section>
  </PageFrame>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(11rem, 1fr));
  gap: 0.8rem;
  align-items: start;
}
.lines {
  margin: 0.3rem 0 0;
  max-height: 16rem;
  overflow: auto;
}
/* Nobody chosen yet. */
.open :deep(label) {
  color: var(--madder);
}
progress {
  width: 100%;
  accent-color: var(--ink);
}
summary {
  cursor: pointer;
}
th.num,
td.num {
  padding-right: 1rem;
}
</style>
