<script setup lang="ts">
/** The fitting room: one round, used standing. What is entered is kept here first and sent once. */
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { post, put } from '@/api/client'
import type { Call } from '@/api/client'
import type {
  AsideEntry,
  CauseOffer,
  Decision,
  Mark,
  MoreSaid,
  ObservationEntry,
  ObservationView,
  Problem,
  Suggestion,
} from '@/api/types'
import BalanceBench from '@/components/fit/BalanceBench.vue'
import CauseCard from '@/components/fit/CauseCard.vue'
import EarlierCard from '@/components/fit/EarlierCard.vue'
import HemBench from '@/components/fit/HemBench.vue'
import ObservationCard from '@/components/fit/ObservationCard.vue'
import StillAsked from '@/components/fit/StillAsked.vue'
import TellApart from '@/components/fit/TellApart.vue'
import TestsMade from '@/components/fit/TestsMade.vue'
import ObservationForm from '@/components/fit/ObservationForm.vue'
import PhotographWall from '@/components/fit/PhotographWall.vue'
import RoundClose from '@/components/fit/RoundClose.vue'
import WaitingLine from '@/components/fit/WaitingLine.vue'
import { decidedFor, taking } from '@/components/fit/decided'
import PageFrame from '@/components/PageFrame.vue'
import StripField from '@/components/StripField.vue'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { useRound } from '@/composables/useRound'
import { useUndo } from '@/composables/useUndo'
import { asDay } from '@/days'

const props = defineProps<{ roundId?: number }>()
const { may, stageName } = useHouse()
const { data: order, reload: reloadOrder } = useOrder()
const id = computed(() => props.roundId ?? order.value?.round_id ?? undefined)
const { round, causes, notWeighed, problem, returned, letGo, pending, outbox, photographs, refresh } =
  useRound(id)
const form = useTemplateRef('form')

const closed = computed(() => Boolean(round.value?.closed_at))
const undecided = computed(() => round.value?.observations.filter((seen) => !seen.decision) ?? [])
const unmarked = computed(
  () =>
    round.value?.earlier.filter((seen) => !seen.marks.some((mark) => mark.round === round.value?.number)) ??
    [],
)

const PARTS = [
  { value: 'earlier', name: 'Before' },
  { value: 'see', name: 'Seen' },
  { value: 'lines', name: 'Lines' },
  { value: 'photographs', name: 'Photos' },
  { value: 'close', name: 'Close' },
] as const
type Part = (typeof PARTS)[number]['value']
const part = ref<Part>('see')
const counts = computed<Partial<Record<Part, number>>>(() => ({
  earlier: unmarked.value.length,
  see: undecided.value.length,
}))
// Opens where something is asked first.
watch(
  () => round.value?.id,
  () => (part.value = !closed.value && unmarked.value.length ? 'earlier' : 'see'),
)
const parts = computed(() => PARTS.filter((each) => each.value !== 'earlier' || round.value?.earlier.length))
// Whatever changes here changes where the garment stands.
watch(
  () => [round.value?.observations, round.value?.earlier],
  () => void reloadOrder(),
)

/** Said only once a try has found no line: what goes through at once is not worth a word. */
const lost = computed(() => outbox.lost.value || photographs.lost.value)

/** Sends a write of the round that is shown. */
async function write(
  call: (params: { path: { id: number } }) => Call<unknown>,
): Promise<Problem | undefined> {
  return round.value && outbox.send(call({ path: { id: round.value.id } }))
}
const observe = (body: ObservationEntry) =>
  write((params) => post('/api/rounds/{id}/observations', { params, body }))
const decide = (seen: ObservationView, decision: Decision) => {
  const body = { revision: seen.revision, decision }
  return outbox.send(put('/api/observations/{id}/decision', { params: { path: { id: seen.id } }, body }))
}
const mark = (seen: ObservationView, as: Mark, left: string) => {
  const body = { observation_id: seen.id, mark: as, left }
  return write((params) => put('/api/rounds/{id}/marks', { params, body }))
}
const aside = (body: AsideEntry) => write((params) => put('/api/rounds/{id}/aside', { params, body }))

const weighed = (seen: ObservationView) => causes.value?.each.find((each) => each.observation_id === seen.id)
/** Another observation of this round for which the same was already decided. */
const takenFor = (cause: Suggestion, alteration: string, but?: ObservationView): string | undefined =>
  round.value && decidedFor(round.value.observations, cause, alteration, but)?.said
/** Which of this round's observations a cause explains. */
const explained = (cause: Suggestion) =>
  cause.explains
    .map((index) => causes.value?.observations[index])
    .flatMap((number) => {
      const seen = round.value?.observations.find((each) => each.id === number)
      return seen ? [seen] : []
    })

const firstOpen = (cause: Suggestion) => explained(cause).find((each) => !each.decision)
/** A cause that is to be taken of all together, while what it depends on is asked first. */
const taken = shallowRef<{ seen: ObservationView; cause: Suggestion; offer: CauseOffer }>()
function takeTogether(cause: Suggestion, offer: CauseOffer): void {
  const seen = firstOpen(cause)
  if (!seen) return
  if (weighed(seen)?.asks.length) taken.value = { seen, cause, offer }
  else void decide(seen, taking(cause, offer))
}
function takeAllTheSame(): void {
  if (taken.value) void decide(taken.value.seen, taking(taken.value.cause, taken.value.offer))
  taken.value = undefined
}
async function sayOfTaken(more: MoreSaid): Promise<Problem | undefined> {
  const turnedDown = taken.value && (await say(taken.value.seen, more))
  if (!turnedDown) taken.value = undefined
  return turnedDown
}
function leaveTogether(cause: Suggestion, reason: string): void {
  const seen = firstOpen(cause)
  if (seen) void decide(seen, { what: 'leave', reason })
}
const answer = (cause: string, holds: boolean | null) =>
  round.value &&
  outbox.send(
    put('/api/rounds/{id}/tests/{cause}', {
      params: { path: { id: round.value.id, cause } },
      body: { holds },
    }),
  )
const say = (seen: ObservationView, change: MoreSaid) => {
  const body = { revision: seen.revision, ...change }
  return outbox.send(put('/api/observations/{id}/more', { params: { path: { id: seen.id } }, body }))
}

/** Puts an entry the server turned down back into the form. */
function takeUp(key: string, entry: Record<string, unknown>): void {
  part.value = 'see'
  form.value?.takeUp(entry as Partial<ObservationEntry>)
  letGo(key)
}

const undo = useUndo()
/** The card is gone with its observation: the way back is the page's. */
function offerBack(id: number, said: string): void {
  void refresh()
  const back = post('/api/observations/{id}/restore', { params: { path: { id } } })
  undo(`“${said}” is taken out.`, back, refresh)
}

async function flush(): Promise<number> {
  await outbox.flush()
  return outbox.waiting.value.length + photographs.waiting.value
}

async function afterClose(): Promise<void> {
  await Promise.all([refresh(), reloadOrder()])
}
</script>

<template>
  <PageFrame
    right="fitting"
    :title="round ? `Fitting round ${round.number}` : 'Fitting'"
    width="bench"
    class="fit"
    :problem="round ? undefined : problem"
    :reading="id !== undefined && !round"
  >
    <template v-if="round" #lead>
      <p class="soft">
        Version {{ round.version }} on the body, {{ stageName(round.stage) }}, {{ asDay(round.opened_at) }},
        {{ round.opened_by }}. {{ round.worn ? `Worn: ${round.worn}` : '' }}
      </p>
    </template>
    <template v-if="round && order && order.round_id !== round.id" #actions>
      <nav aria-label="Rounds" class="row small">
        <RouterLink :to="{ name: 'fit', params: { id: order.id } }">to round {{ order.round }}</RouterLink>
      </nav>
    </template>
    <template v-if="order && !id">
      <p>
        No round yet: open the first on the
        <RouterLink :to="{ name: 'toile', params: { id: order.id } }">Toile</RouterLink> page when it is on
        her.
      </p>
    </template>
    <template v-else-if="round && order">
      <StripField v-model="part" label="Parts of the round" :choices="parts" class="parts">
        <template #behind="{ choice }"
          ><b v-if="!closed && counts[choice.value]" class="count">{{ counts[choice.value] }}</b></template
        >
      </StripField>

      <section v-if="part === 'earlier'" class="stack" aria-labelledby="earlier-title">
        <h2 id="earlier-title">From earlier rounds</h2>
        <EarlierCard
          v-for="seen in round.earlier"
          :key="seen.id"
          :seen="seen"
          :round="round.number"
          :closed="closed"
          :mark="(as, left) => mark(seen, as, left)"
        />
      </section>

      <div v-show="part === 'see'" class="two" :class="{ alone: closed }">
        <section v-if="!closed && may('fitting')" class="stack form" aria-labelledby="see-title">
          <h2 id="see-title">Add an observation</h2>
          <ObservationForm ref="form" :round="round" :keep="observe" />
        </section>
        <section class="stack" aria-labelledby="seen-title">
          <h2 id="seen-title">Seen in this round</h2>
          <p v-if="!round.observations.length && !pending.length" class="soft">
            Nothing yet: tap the place on her figure, or draw the line you see.
          </p>
          <article v-for="entry in pending" :key="entry.key" class="card waiting">
            <strong>{{ entry.body['kind'] }} at {{ entry.body['place'] }}</strong>
            <p class="small soft">Kept on this device; it goes when the line is back.</p>
          </article>
          <details v-if="!closed && undecided.length > 1 && causes?.together.length" class="card">
            <summary><strong>All of it together</strong></summary>
            <p class="small soft">
              What all {{ causes.observations.length }} observations come from, weighed at once.
            </p>
            <p v-for="says in causes.contradictions" :key="says" class="decide">{{ says }}</p>
            <TellApart
              v-if="causes.tell_apart"
              :test="causes.tell_apart"
              @answer="(holds) => answer(causes!.tell_apart!.cause, holds)"
            />
            <StillAsked
              v-if="taken"
              :key="taken.seen.id"
              :seen="taken.seen"
              :asks="weighed(taken.seen)?.asks ?? []"
              :say="sayOfTaken"
              @all-the-same="takeAllTheSame"
            />
            <ol class="together">
              <CauseCard
                v-for="(cause, index) in causes.together"
                :key="cause.cause"
                :cause="cause"
                :rank="index + 1"
                :open="index === 0"
                :taken-for="(alteration) => takenFor(cause, alteration)"
                :takes="firstOpen(cause) !== undefined"
                @take="(offer) => takeTogether(cause, offer)"
                @leave="(reason) => leaveTogether(cause, reason)"
              >
                Explains:
                {{
                  explained(cause)
                    .map((seen) => seen.said.toLowerCase())
                    .join('; ') || 'an earlier one'
                }}.
              </CauseCard>
            </ol>
          </details>
          <TestsMade
            v-if="causes"
            :tests="causes.tests"
            :closed="closed"
            @take-back="(cause) => answer(cause, null)"
          />
          <ObservationCard
            v-for="seen in round.observations"
            :key="seen.id"
            :seen="seen"
            :weighed="weighed(seen)"
            :not-weighed="notWeighed?.title"
            :closed="closed"
            :next="seen.id === undecided[0]?.id"
            :taken-for="(cause, alteration) => takenFor(cause, alteration, seen)"
            :answer="async (cause, holds) => answer(cause, holds)"
            :say="(more) => say(seen, more)"
            :decide="(decision) => decide(seen, decision)"
            @gone="offerBack"
          />
        </section>
      </div>

      <section v-if="part === 'lines'" class="stack" aria-labelledby="lines-title">
        <h2 id="lines-title">Level lines</h2>
        <BalanceBench :round="round" :closed="closed" :write="outbox.send" />
        <HemBench v-if="!closed" />
      </section>

      <section v-if="part === 'photographs'" class="stack" aria-labelledby="photographs-title">
        <h2 id="photographs-title">Photographs</h2>
        <PhotographWall
          :photographs="round.photographs"
          :observations="round.observations"
          :waiting="photographs.waiting.value"
          :problem="photographs.problem.value"
          :closed="closed"
          @take="photographs.take"
          @changed="refresh"
        />
      </section>

      <RoundClose
        v-if="part === 'close'"
        :round="round"
        :order="order"
        :undecided="undecided.length"
        :unmarked="unmarked.length"
        :flush="flush"
        :aside="aside"
        @closed="afterClose"
        @reopened="afterClose"
      />
      <WaitingLine
        :waiting="lost ? outbox.waiting.value.length + photographs.waiting.value : 0"
        :returned="returned"
        @take-up="takeUp"
        @let-go="letGo"
      />
    </template>
  </PageFrame>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
  gap: 1.4rem;
  align-items: start;
}
.two.alone {
  grid-template-columns: minmax(0, 52rem);
}
.parts {
  position: sticky;
  top: 0;
  z-index: 3;
  background: var(--paper);
  padding: 0.35rem 0;
}
.count {
  display: inline-block;
  min-width: 1.4em;
  margin-left: 0.4rem;
  border-radius: 999px;
  background: var(--madder);
  color: var(--paper);
  font-size: 0.85rem;
  text-align: center;
}
.together {
  list-style: none;
  margin: 0.5rem 0 0;
  padding: 0;
}
.two > .form {
  position: sticky;
  top: 3.6rem;
}
.waiting {
  border-style: dashed;
  border-color: var(--ink-soft);
}
.waiting strong {
  text-transform: capitalize;
}
@media (max-width: 1100px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .two > .form {
    position: static;
  }
}
@media (max-width: 700px) {
  /* The figure comes first where there is little room. */
  #see-title {
    position: absolute;
    clip-path: inset(50%);
  }
  .parts {
    flex-wrap: nowrap;
  }
  .parts :deep(button) {
    flex: 1 1 auto;
    padding: 0.3rem;
    min-height: 2.8rem;
  }
}
</style>
