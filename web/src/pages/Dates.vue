<script setup lang="ts">
/** The dates of one garment: planned back from the wanted day, kept, moved with what depends on them. */
import { ElButton } from 'element-plus'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { get, post, put } from '@/api/client'
import type { DatePlan, MoveSaid, PlannedVisit, Problem } from '@/api/types'
import DayField from '@/components/DayField.vue'
import PageFrame from '@/components/PageFrame.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { useResource } from '@/composables/useResource'
import { asDay, asWeekday, today } from '@/days'

const { may } = useHouse()
const { data: order, reload: reloadOrder } = useOrder()
/** The parameters of the garment's addresses. */
const at = () => order.value && { path: { id: order.value.id } }
const {
  data: dates,
  problem,
  reload,
} = useResource(
  () => {
    const params = at()
    return params && get('/api/orders/{id}/dates', { params })
  },
  {
    follows: (): boolean =>
      wish.wanted === (dates.value?.wanted_on ?? '') && wish.toiles === dates.value?.toiles,
  },
)
const refused = shallowRef<Problem>()
const wish = reactive({ wanted: '', toiles: 2 })
const plan = shallowRef<DatePlan>()
const moving = ref<PlannedVisit>()
const to = ref('')
const said = shallowRef<MoveSaid>()

watch(
  dates,
  (now) => {
    if (now) Object.assign(wish, { wanted: now.wanted_on ?? '', toiles: now.toiles })
  },
  { immediate: true },
)
const last = computed(() => dates.value?.visits.at(-1))
const late = computed(() => last.value && dates.value?.wanted_on && last.value.on > dates.value.wanted_on)

const { run: propose, problem: unplanned } = useAction(
  () => {
    plan.value = undefined
    refused.value = undefined
    if (!wish.wanted) {
      refused.value = { type: '', title: 'No day', status: 0, detail: 'say for which day she wants it' }
      return undefined
    }
    const params = at()
    const body = { wanted_on: wish.wanted, toiles: wish.toiles }
    return params && post('/api/orders/{id}/dates/proposal', { params, body })
  },
  (answer) => (plan.value = answer),
  { repeats: true },
)

const {
  run: keep,
  busy: keeping,
  problem: unkept,
} = useAction(
  (earliest: boolean) => {
    const params = at()
    if (!params || !dates.value) return undefined
    const { revision } = dates.value
    const body = { revision, wanted_on: wish.wanted, toiles: wish.toiles, take_earliest: earliest }
    return put('/api/orders/{id}/dates', { params, body })
  },
  async () => {
    plan.value = undefined
    await written()
  },
)

function take(planned: PlannedVisit): void {
  moving.value = planned
  to.value = planned.on
  said.value = undefined
  refused.value = undefined
}

/** Says what moves along; with `keepIt` it is moved. */
const {
  run: move,
  busy,
  problem: unmoved,
} = useAction(
  (keepIt: boolean) => {
    const params = at()
    if (!params || !dates.value || !moving.value) return undefined
    const { revision } = dates.value
    const body = { revision, visit: moving.value.visit, to: to.value, keep: keepIt }
    return post('/api/orders/{id}/dates/move', { params, body })
  },
  async (answer, keepIt) => {
    said.value = answer
    if (!keepIt) return
    // The form goes once the list beside it shows the new dates.
    const moved = moving.value
    await written()
    if (moving.value === moved) moving.value = undefined
  },
  { opens: moving, repeats: true },
)

const { run: settle, problem: unsettled } = useAction((planned: PlannedVisit) => {
  const params = at()
  if (!params || !dates.value) return undefined
  const body = { revision: dates.value.revision, visit: planned.visit, settled: !planned.settled }
  return post('/api/orders/{id}/dates/settled', { params, body })
}, written)

async function written(): Promise<void> {
  await Promise.all([reload(), reloadOrder()])
}
/** Somebody else was faster: what stands now is shown beside the sentence. */
watch([unkept, unmoved, unsettled], (problems) => {
  said.value = undefined
  if (problems.some((each) => each?.status === 409)) void written()
})
const keyOf = (planned: PlannedVisit) => `${planned.visit.kind}-${planned.visit.number}`
</script>

<template>
  <PageFrame right="dates" title="Dates" width="bench" :problem="problem" :reading="!dates">
    <template #actions><RouterLink :to="{ name: 'calendar' }">The workroom's calendar</RouterLink></template>
    <div v-if="dates" class="two">
      <section class="card stack" aria-labelledby="kept-title">
        <h2 id="kept-title">As they stand</h2>
        <p v-if="!dates.visits.length" class="soft">
          No dates yet. Plan them back from the day she wants it: fittings, cutting and measuring fall into
          place with the house's gaps, closed days and what the days already hold.
        </p>
        <ol class="visits">
          <li v-for="planned in dates.visits" :key="keyOf(planned)" :class="{ been: planned.on < today() }">
            <span class="what">{{ planned.name }}</span>
            <span class="figure">{{ asWeekday(planned.on) }}</span>
            <span v-if="may('dates')" class="row do">
              <ElButton
                size="small"
                :aria-pressed="planned.settled"
                :aria-label="`${planned.settled ? 'Settled' : 'Settle'}: ${planned.name}`"
                @click="settle(planned)"
                >{{ planned.settled ? 'Settled' : 'Settle' }}</ElButton
              >
              <ElButton
                v-if="!planned.settled"
                size="small"
                :aria-label="`Move ${planned.name}`"
                @click="take(planned)"
                >Move</ElButton
              >
            </span>
          </li>
        </ol>
        <p v-if="late" class="decide">Delivery lies after the day she wants it.</p>
        <form v-if="moving" class="stack moving" @submit.prevent="move(false)">
          <div class="field">
            <label for="to">Move {{ moving.name }} to</label>
            <DayField id="to" v-model="to" :min="today()" required @update:model-value="said = undefined" />
          </div>
          <div v-if="said" role="status" class="stack said">
            <p v-if="!said.moves.length">Nothing else moves.</p>
            <p v-for="line in said.moves" :key="line">{{ line.charAt(0).toUpperCase() + line.slice(1) }}</p>
            <p v-if="said.late" class="decide">{{ said.late }}</p>
          </div>
          <div class="row">
            <ElButton v-if="!said" type="primary" native-type="submit" :aria-busy="busy"
              >What would move?</ElButton
            >
            <ElButton v-else type="primary" :aria-busy="busy" @click="move(true)">Move it</ElButton>
            <ElButton @click="moving = undefined">Never mind</ElButton>
          </div>
        </form>
        <ProblemNote :problem="refused ?? unplanned ?? unkept ?? unmoved ?? unsettled" />
      </section>
      <section class="card stack" aria-labelledby="plan-title">
        <h2 id="plan-title">Plan back from the wanted day</h2>
        <form class="stack" @submit.prevent="propose">
          <div class="fields">
            <div class="field">
              <label for="wanted">Wanted for</label>
              <DayField id="wanted" v-model="wish.wanted" />
            </div>
            <div class="field">
              <label for="toiles">How many toiles are planned</label>
              <input id="toiles" v-model.number="wish.toiles" class="plain" type="number" min="1" max="6" />
            </div>
          </div>
          <div><ElButton native-type="submit">Plan the dates</ElButton></div>
        </form>
        <template v-if="plan">
          <p v-for="line in plan.says" :key="line" :class="{ decide: !plan.feasible }">{{ line }}</p>
          <ol class="visits">
            <li v-for="planned in plan.visits" :key="keyOf(planned)">
              <span class="what">{{ planned.name }}</span>
              <span class="figure">{{ asWeekday(planned.on) }}</span>
              <span class="small soft do">{{ planned.settled ? 'settled' : '' }}</span>
            </li>
          </ol>
          <div class="row">
            <ElButton v-if="plan.feasible" type="primary" :aria-busy="keeping" @click="keep(false)"
              >Keep these dates</ElButton
            >
            <ElButton v-else type="primary" :aria-busy="keeping" @click="keep(true)"
              >Keep the earliest: {{ asDay(plan.earliest) }}</ElButton
            >
          </div>
        </template>
      </section>
    </div>
  </PageFrame>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: 1.2rem;
  align-items: start;
}
.fields {
  display: grid;
  grid-template-columns: 1.4fr 1fr;
  gap: 0.8rem;
}
.visits {
  list-style: none;
  margin: 0;
  padding: 0;
}
.visits li {
  display: grid;
  grid-template-columns: minmax(7rem, 1fr) minmax(9rem, 1.2fr) auto;
  gap: 0.3rem 0.8rem;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  padding: 0.4rem 0;
}
.what::first-letter {
  text-transform: uppercase;
}
.what {
  font-weight: 700;
}
.been {
  color: var(--ink-soft);
}
.do {
  justify-content: end;
}
.moving {
  border-left: 4px solid var(--woad);
  padding-left: 0.9rem;
}
.said {
  gap: 0.3rem;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 500px) {
  .visits li {
    grid-template-columns: 1fr auto;
  }
  .do {
    grid-column: 1 / -1;
    justify-content: start;
  }
}
</style>
