<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { post, put } from '@/api/client'
import type { Mark, Problem, RoundView } from '@/api/types'
import ObservationCard from '@/components/ObservationCard.vue'
import ObservationForm from '@/components/ObservationForm.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useOrder } from '@/composables/useOrder'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const props = defineProps<{ round?: string }>()
const { data: order, reload: reloadOrder } = useOrder()
const {
  data: round,
  problem,
  reload,
} = useResource<RoundView>(() => {
  const id = props.round ?? order.value?.round_id
  return id ? `/api/rounds/${id}` : undefined
})
const refused = shallowRef<Problem>()
const comfort = ref('')
watch(round, (now) => (comfort.value = now?.comfort ?? ''))

const closed = computed(() => round.value?.closed_at)
const undecided = computed(() => round.value?.observations.filter((seen) => !seen.decision).length ?? 0)
const MARKS: { mark: Mark; name: string }[] = [
  { mark: 'gone', name: 'Gone' },
  { mark: 'better', name: 'Better' },
  { mark: 'same', name: 'Same' },
  { mark: 'worse', name: 'Worse' },
]

async function after(result: { ok: true } | { ok: false; problem: Problem }): Promise<void> {
  refused.value = result.ok ? undefined : result.problem
  await Promise.all([reload(), reloadOrder()])
}

const mark = async (observation: number, as: Mark) =>
  after(await put(`/api/rounds/${round.value?.id}/marks`, { observation_id: observation, mark: as }))
const keepComfort = async () =>
  after(await put(`/api/rounds/${round.value?.id}/comfort`, { words: comfort.value }))
const close = async () => after(await post(`/api/rounds/${round.value?.id}/close`))
const markOf = (seen: RoundView['earlier'][number]) =>
  seen.marks.find((each) => each.round === round.value?.number)?.mark
</script>

<template>
  <main class="stack" aria-labelledby="fit-title">
    <ProblemNote :problem="problem" />
    <template v-if="order && !order.round_id">
      <h1 id="fit-title">Fitting</h1>
      <p>
        No round yet: open the first on the
        <RouterLink :to="{ name: 'toile', params: { id: order.id } }">Toile</RouterLink> page when it is on
        her.
      </p>
    </template>
    <template v-else-if="round && order">
      <div class="between">
        <div>
          <h1 id="fit-title">Fitting round {{ round.number }}</h1>
          <p class="soft">
            Version {{ round.version }} on the body, {{ asDay(round.opened_at) }}, {{ round.opened_by }}.
            {{ round.worn ? `Worn: ${round.worn}` : '' }}
          </p>
        </div>
        <nav v-if="order.round > 1" aria-label="Rounds" class="row small">
          <RouterLink
            v-if="String(order.round_id) !== String(round.id)"
            :to="{ name: 'fit', params: { id: order.id } }"
            >to round {{ order.round }}</RouterLink
          >
        </nav>
      </div>
      <ProblemNote :problem="refused" />
      <section v-if="round.earlier.length" class="stack" aria-labelledby="earlier-title">
        <h2 id="earlier-title">From earlier rounds</h2>
        <article v-for="seen in round.earlier" :key="seen.id" class="card earlier">
          <div>
            <strong>{{ seen.kind_name }} at {{ seen.place }}</strong>
            <p class="small">{{ seen.note }}</p>
            <p class="small soft">Round {{ seen.round }}: {{ seen.decided ?? 'not decided' }}</p>
          </div>
          <fieldset class="chips" :disabled="Boolean(closed)">
            <legend class="visually-hidden">{{ seen.kind_name }} at {{ seen.place }} is now</legend>
            <label v-for="each in MARKS" :key="each.mark" class="chip">
              <input
                type="radio"
                :name="`mark-${seen.id}`"
                :checked="markOf(seen) === each.mark"
                @change="mark(seen.id, each.mark)"
              />
              <span>{{ each.name }}</span>
            </label>
          </fieldset>
        </article>
      </section>
      <div class="two">
        <section class="stack" aria-labelledby="seen-title">
          <h2 id="seen-title">Seen in this round</h2>
          <p v-if="!round.observations.length" class="soft">Nothing yet.</p>
          <ObservationCard
            v-for="seen in round.observations"
            :key="seen.id"
            :seen="seen"
            :closed="Boolean(closed)"
            @decided="after({ ok: true })"
          />
        </section>
        <section v-if="!closed" class="stack" aria-labelledby="see-title">
          <h2 id="see-title">Add an observation</h2>
          <ObservationForm
            :round="round.id"
            :front="round.front"
            :back="round.back"
            :places="round.places"
            @kept="after({ ok: true })"
          />
        </section>
      </div>
      <section class="card stack close" aria-labelledby="close-title">
        <h2 id="close-title">{{ closed ? 'Closed' : 'Close the round' }}</h2>
        <div v-if="!closed" class="field">
          <label for="comfort">Comfort, in her words</label>
          <ElInput id="comfort" v-model="comfort" maxlength="1000" @change="keepComfort" />
        </div>
        <p v-else-if="round.comfort">“{{ round.comfort }}”</p>
        <template v-if="closed">
          <p v-if="round.made_version">
            It made version {{ round.made_version }} of the pattern.
            <RouterLink :to="{ name: 'toile', params: { id: order.id } }">Cut the next toile</RouterLink>.
          </p>
          <p v-else>Nothing was altered.</p>
        </template>
        <template v-else>
          <p class="soft">
            {{ undecided ? `${undecided} still to decide. ` : '' }}Decided alterations become the next version
            of the pattern; what is left or watched stays in the story.
          </p>
          <div>
            <ElButton type="primary" @click="close">Close round {{ round.number }}</ElButton>
          </div>
        </template>
      </section>
    </template>
  </main>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1.1fr 1fr;
  gap: 1.4rem;
  align-items: start;
}
.earlier {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem 1.4rem;
  justify-content: space-between;
  align-items: center;
}
.close {
  max-width: 46rem;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
