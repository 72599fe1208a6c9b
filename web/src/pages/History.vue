<script setup lang="ts">
/** How a client's figures came about: a plot, every session, what changed, two sessions side by side. */
import { ElButton } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { get, post } from '@/api/client'
import type { PastSession, Side } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import ClientTabs from '@/components/ClientTabs.vue'
import HistoryPlot from '@/components/HistoryPlot.vue'
import type { PlotLine } from '@/components/HistoryPlot.vue'
import PageFrame from '@/components/PageFrame.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { useWritten } from '@/composables/useWritten'
import { asDay } from '@/days'

const props = defineProps<{ id: number }>()
const { may, ofSide } = useHouse()
const {
  data: history,
  problem,
  reload,
} = useResource(() => get('/api/clients/{id}/history', { params: { path: { id: props.id } } }))
const { run: bringBack, problem: unbrought } = useAction(
  (id: number) => post('/api/sessions/{id}/restore', { params: { path: { id } } }),
  reload,
  { repeats: true },
)
const chosen = ref<string[]>([])
const first = ref<number>()
const second = ref<number>()
/** Sessions shown in the table, the newest of them. */
const SHOWN = 8

watch(history, (now) => {
  if (!now) return
  const usual = ['bust_girth', 'waist_girth', 'hip_girth']
  const known = now.measurements.map((each) => each.code)
  chosen.value = usual.filter((code) => known.includes(code))
  if (!chosen.value.length) chosen.value = known.slice(0, 2)
  // The last two that can be compared: the newest, and the one before it that shares a reading.
  const last = now.sessions.at(-1)
  const shares = (session: PastSession) =>
    session !== last && session.figures.some((f) => last?.figures.some((g) => g.code === f.code))
  second.value = last?.id
  first.value = now.sessions.findLast(shares)?.id ?? last?.id
})

const name = (code: string) => history.value?.measurements.find((each) => each.code === code)?.name ?? code

const lines = computed<PlotLine[]>(() => {
  const now = history.value
  if (!now) return []
  const found = new Map<string, PlotLine>()
  for (const session of now.sessions) {
    for (const figure of session.figures.filter((each) => chosen.value.includes(each.code))) {
      const title = `${name(figure.code)}${ofSide(figure.side)}`
      const line = found.get(title) ?? { name: title, points: [] }
      const method = (figure.method ?? []).join('; ')
      line.points.push({
        at: session.started_at,
        value: figure.mm / now.unit_mm,
        text: figure.text,
        method,
        methodChanged: line.points.length > 0 && line.points.at(-1)?.method !== method,
      })
      found.set(title, line)
    }
  }
  return [...found.values()]
})

const newest = computed(() => [...(history.value?.sessions ?? [])].slice(-SHOWN).reverse())
const rowsOf = (sessions: readonly PastSession[]) => {
  const keys = new Map<string, { code: string; side: Side }>()
  const order = history.value?.measurements.map((each) => each.code) ?? []
  for (const session of sessions)
    for (const { code, side } of session.figures) keys.set(`${code} ${side}`, { code, side })
  return [...keys.values()].sort((a, b) => order.indexOf(a.code) - order.indexOf(b.code))
}
const tableRows = computed(() => rowsOf(newest.value))
const figure = (session: PastSession | undefined, code: string, side: Side) =>
  session?.figures.find((each) => each.code === code && each.side === side)

const sessionOf = (id: number | undefined) => history.value?.sessions.find((each) => each.id === id)
const pair = computed(() => [sessionOf(first.value), sessionOf(second.value)] as const)
const compared = computed(() => {
  const [a, b] = pair.value
  if (!a || !b) return []
  return rowsOf([a, b]).map(({ code, side }) => {
    const [from, to] = [figure(a, code, side), figure(b, code, side)]
    const differently = from && to && (from.method ?? []).join() !== (to.method ?? []).join()
    return { code, side, from, to, differently }
  })
})
const inBoth = computed(() => compared.value.filter((row) => row.from && row.to))
const inOne = computed(() => compared.value.length - inBoth.value.length)
const { difference } = useWritten(() => ({
  differences: inBoth.value.map(({ from, to }) => [to?.mm ?? 0, from?.mm ?? 0] as const),
}))
/** With its sign, also where she has grown. */
function signed(at: number): string {
  const by = difference(at)
  return by === '' || by.startsWith('−') || /^0(\.0)?$/.test(by) ? by : `+${by}`
}
const title = (session: PastSession) => `${asDay(session.started_at)}, ${session.set}`
const sessionChoices = computed(
  () => history.value?.sessions.map((session) => ({ value: session.id, label: title(session) })) ?? [],
)
</script>

<template>
  <PageFrame :title="history?.client" :problem="problem" :reading="!history">
    <template v-if="history">
      <ClientTabs :id="id" />
      <section v-if="history.dropped.length" class="card stack" aria-labelledby="dropped-title">
        <h2 id="dropped-title">Dropped sessions</h2>
        <p v-for="each in history.dropped" :key="each.id" class="between">
          <span
            ><RouterLink :to="{ name: 'session', params: { id: each.id } }">{{
              asDay(each.started_at)
            }}</RouterLink
            >, {{ each.measurer }}{{ each.why ? `: ${each.why}` : '' }}</span
          >
          <ElButton
            v-if="may('readings')"
            size="small"
            :aria-label="`Bring it back: session of ${asDay(each.started_at)}`"
            @click="bringBack(each.id)"
            >Bring it back</ElButton
          >
        </p>
        <ProblemNote :problem="unbrought" />
      </section>
      <p v-if="!history.sessions.length" class="soft">Not measured yet.</p>
      <template v-else>
        <section class="card stack" aria-labelledby="plot-title">
          <h2 id="plot-title">Over time</h2>
          <details>
            <summary>Choose what is drawn</summary>
            <fieldset class="chips">
              <legend class="visually-hidden">Measurements</legend>
              <label v-for="each in history.measurements" :key="each.code" class="chip">
                <input v-model="chosen" type="checkbox" :value="each.code" />
                <span>{{ each.name }}</span>
              </label>
            </fieldset>
          </details>
          <HistoryPlot
            :lines="lines"
            :suffix="history.suffix"
            :label="`${chosen.map(name).join(', ')} over ${history.sessions.length} sessions; the figures are in the table below`"
          />
          <p class="small soft">A large open mark: taken differently from the time before.</p>
        </section>
        <section class="card stack" aria-labelledby="changes-title">
          <h2 id="changes-title">Since the time before</h2>
          <p v-if="!history.changes.length" class="soft">
            Nothing was measured twice, or nothing has changed.
          </p>
          <ul v-else class="changes">
            <li v-for="change in history.changes" :key="`${change.code}${change.side}`">
              {{ change.name }}{{ ofSide(change.side) }}
              <span class="figure"
                >{{ change.from.text }} to <strong>{{ change.to.text }}</strong></span
              >
              <span class="figure" :class="change.large ? 'changed' : 'soft'">{{
                change.by.mm > 0 ? `+${change.by.text}` : change.by.text
              }}</span>
              <span v-if="change.method_changed" class="decide">taken differently: they do not compare</span>
            </li>
          </ul>
        </section>
        <section class="card stack" aria-labelledby="pair-title">
          <h2 id="pair-title">Two sessions side by side</h2>
          <div class="row">
            <ChoiceField id="first" v-model="first" label="Earlier" :choices="sessionChoices" />
            <ChoiceField id="second" v-model="second" label="Later" :choices="sessionChoices" />
          </div>
          <table>
            <thead>
              <tr>
                <th scope="col">Reading</th>
                <th scope="col" class="num">Earlier</th>
                <th scope="col" class="num">Later</th>
                <th scope="col" class="num">Change, {{ history.suffix }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(row, index) in inBoth" :key="`${row.code}${row.side}`">
                <th scope="row">{{ name(row.code) }}{{ ofSide(row.side) }}</th>
                <td class="num">{{ row.from?.text }}</td>
                <td class="num">{{ row.to?.text }}</td>
                <td class="num" :class="{ decide: row.differently }">
                  {{ row.differently ? 'differently taken' : signed(index) }}
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="inOne" class="small soft">
            {{ inOne === 1 ? 'One reading was' : `${inOne} readings were` }} taken in only one of them.
          </p>
        </section>
        <section class="stack" aria-labelledby="table-title">
          <h2 id="table-title">Session by session</h2>
          <div class="wide" tabindex="0" role="region" aria-labelledby="table-title">
            <table>
              <thead>
                <tr>
                  <th scope="col">Reading</th>
                  <th v-for="session in newest" :key="session.id" scope="col" class="num">
                    <RouterLink :to="{ name: 'session', params: { id: session.id } }">{{
                      asDay(session.started_at)
                    }}</RouterLink>
                    <br />{{ session.measurer
                    }}<template v-if="session.foundation"><br />over {{ session.foundation }}</template>
                    <template v-for="used in session.used_by" :key="used.order_id"
                      ><br /><RouterLink :to="{ name: 'compare', params: { id: used.order_id } }">{{
                        used.garment
                      }}</RouterLink></template
                    >
                  </th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="row in tableRows" :key="`${row.code}${row.side}`">
                  <th scope="row">{{ name(row.code) }}{{ ofSide(row.side) }}</th>
                  <td
                    v-for="session in newest"
                    :key="session.id"
                    class="num"
                    :title="figure(session, row.code, row.side)?.method?.join('; ')"
                  >
                    {{ figure(session, row.code, row.side)?.text
                    }}<template v-if="figure(session, row.code, row.side)?.method?.length"> *</template>
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
          <p class="small soft">* Not taken the usual way; rest on the figure to read how.</p>
        </section>
      </template>
    </template>
  </PageFrame>
</template>

<style scoped>
.wide {
  overflow-x: auto;
}
.changes {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.3rem;
}
.changes li {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 1rem;
}
summary {
  cursor: pointer;
  padding: 0.3rem 0;
}
select {
  min-width: 15rem;
}
.chip input:checked + span {
  background: var(--woad);
  border-color: var(--woad);
}
</style>
