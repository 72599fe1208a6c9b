<script setup lang="ts">
import { ElButton, ElInput, ElMessageBox } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post, put, remove } from '@/api/client'
import type { BlockView } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import DayField from '@/components/DayField.vue'
import AwayDays from '@/components/dates/AwayDays.vue'
import ClientTabs from '@/components/ClientTabs.vue'
import FigurePicture from '@/components/FigurePicture.vue'
import ClientMenu from '@/components/client/ClientMenu.vue'
import ClientNotes from '@/components/client/ClientNotes.vue'
import FormDialog from '@/components/FormDialog.vue'
import GarmentMenu from '@/components/garment/GarmentMenu.vue'
import SmallDrawing from '@/components/drawing/SmallDrawing.vue'
import PageFrame from '@/components/PageFrame.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { pageOf } from '@/composables/useOrder'
import { useCatalogue } from '@/composables/useCatalogue'
import { useResource } from '@/composables/useResource'
import { useUndo } from '@/composables/useUndo'
import { asDay, today } from '@/days'

const { may } = useHouse()
const props = defineProps<{ id: number }>()
const router = useRouter()
const undo = useUndo()
const {
  data: client,
  problem,
  reload,
} = useResource(() => get('/api/clients/{id}', { params: { path: { id: props.id } } }))
/** What stands for a dress form is no client: its page is the form's. */
watch(client, (now) => {
  if (now?.form_id != null) void router.replace({ name: 'form', params: { id: now.form_id } })
})
const { data: blocks } = useResource(() => get('/api/blocks', { params: { query: { client: props.id } } }))
/** A block that was drafted for her is called what it is of; one from cloth or paper has a name of its own. */
const calledBlock = ({ how, garment, name }: BlockView) =>
  how === 'draped' || how === 'paper' ? name : `Her own ${garment === 'bodice' ? 'block' : garment}`
const ownBlocks = computed(() => blocks.value?.filter((block) => block.client_id !== null) ?? [])
const dialog = ref<'edit' | 'order' | 'consent'>()
const entry = reactive({ name: '', contact: '', notes: '' })
const order = reactive({ garment: '', wantedOn: '', toiles: 2, set: 'bodice_direct' })
const { catalogue } = useCatalogue()
const consent = reactive({ givenOn: today(), purpose: 'Figures and patterns, to dress her.', reviewOn: '' })
const newestFirst = computed(() => [...(client.value?.story ?? [])].reverse())

function open(which: 'edit' | 'order' | 'consent'): void {
  const { name = '', contact = '', notes = '' } = client.value ?? {}
  Object.assign(entry, { name, contact, notes })
  Object.assign(order, { garment: '', wantedOn: '', toiles: 2 })
  dialog.value = which
}

async function done(): Promise<void> {
  dialog.value = undefined
  await reload()
}

const {
  run: saveEntry,
  busy: savingEntry,
  problem: entryProblem,
} = useAction(
  () =>
    client.value &&
    put('/api/clients/{id}', {
      params: { path: { id: props.id } },
      body: { revision: client.value.revision, ...entry },
    }),
  done,
  { opens: () => dialog.value === 'edit' },
)
const {
  run: saveConsent,
  busy: savingConsent,
  problem: consentProblem,
} = useAction(
  () =>
    post('/api/clients/{id}/consents', {
      params: { path: { id: props.id } },
      body: {
        given_on: consent.givenOn,
        purpose: consent.purpose,
        review_on: consent.reviewOn || null,
      },
    }),
  done,
  { opens: () => dialog.value === 'consent' },
)
const { run: withdraw, problem: unwithdrawn } = useAction(
  async (id: number) => {
    try {
      await ElMessageBox.confirm(
        'Nothing more is measured of her until she agrees again. What is kept stays for the garments in hand; to take that away too, erase her on her Figures page.',
        'She withdraws her consent',
        { confirmButtonText: 'Write it down', cancelButtonText: 'Never mind' },
      )
    } catch {
      return undefined
    }
    return post('/api/clients/{id}/consents/{consent}/withdraw', {
      params: { path: { id: props.id, consent: id } },
    })
  },
  async (_, consent) => {
    await reload()
    const params = { path: { id: props.id, consent } }
    undo(
      'She has withdrawn her consent.',
      remove('/api/clients/{id}/consents/{consent}/withdraw', { params }),
      reload,
    )
  },
)
const {
  run: takeOrder,
  busy: taking,
  problem: orderProblem,
} = useAction(
  () =>
    post('/api/clients/{id}/orders', {
      params: { path: { id: props.id } },
      body: {
        garment: order.garment,
        set_code: order.set,
        wanted_on: order.wantedOn || null,
        toiles: order.toiles,
      },
    }),
  (made) => router.push({ name: 'measure', params: { id: made.id } }),
  { opens: () => dialog.value === 'order' },
)

const PUT_AWAY = { cancelled: 'Cancelled.', archived: 'In the archive.' }
</script>

<template>
  <PageFrame :title="client?.name" :problem="problem ?? unwithdrawn" :reading="!client">
    <template v-if="client" #lead>
      <p class="soft">
        {{ client.contact }}
        <b v-if="client.archived_at">In the archive since {{ asDay(client.archived_at) }}.</b>
      </p>
    </template>
    <template v-if="client" #actions>
      <ClientMenu :client="client" @changed="reload" />
      <ElButton v-if="may('readings')" @click="open('edit')">Edit</ElButton>
      <ElButton v-if="may('dates')" type="primary" @click="open('order')">New garment</ElButton>
    </template>
    <template v-if="client">
      <ClientTabs :id="id" />
      <p v-if="client.notes" class="notes">{{ client.notes }}</p>
      <p v-if="!client.consents.length" class="card">
        <span class="decide">No consent yet.</span> Ask before you measure.
        <ElButton v-if="may('readings')" size="small" @click="open('consent')">Record consent</ElButton>
      </p>
      <div class="two">
        <div class="stack">
          <section class="card stack" aria-labelledby="garments-title">
            <h2 id="garments-title">Garments</h2>
            <p v-if="!client.orders.length" class="soft">No garment yet: begin one, and measure for it.</p>
            <ul class="plain">
              <li v-for="garment in client.orders" :key="garment.id" class="garment">
                <SmallDrawing v-if="garment.pattern_id" :id="garment.pattern_id" of="patterns" />
                <span v-else class="undrawn" />
                <RouterLink :to="pageOf(garment)"
                  ><strong>{{ garment.garment }}</strong></RouterLink
                >
                <span class="soft waits">{{
                  garment.put_away ? PUT_AWAY[garment.put_away] : garment.standing.waits_for
                }}</span>
                <span class="small row"
                  ><RouterLink :to="{ name: 'story', params: { id: garment.id } }"
                    >Story<span class="visually-hidden"> of {{ garment.garment }}</span></RouterLink
                  >
                  <RouterLink :to="{ name: 'dates', params: { id: garment.id } }"
                    >Dates<span class="visually-hidden"> of {{ garment.garment }}</span></RouterLink
                  ><GarmentMenu :order="garment" @changed="reload"
                /></span>
              </li>
            </ul>
          </section>
          <ClientNotes :client="id" />
          <section class="card stack" aria-labelledby="story-title">
            <h2 id="story-title">Her story</h2>
            <ol class="story" reversed>
              <li v-for="(happened, index) in newestFirst" :key="index" :class="happened.kind">
                <span class="when small soft figure">{{ asDay(happened.at) }}</span>
                <div>
                  <RouterLink
                    v-if="happened.kind === 'measured' && happened.of_id"
                    :to="{ name: 'session', params: { id: happened.of_id } }"
                    ><strong>{{ happened.title }}</strong></RouterLink
                  >
                  <strong v-else>{{ happened.title }}</strong>
                  <p v-for="(line, at) in happened.lines" :key="at" class="small">{{ line }}</p>
                </div>
              </li>
            </ol>
          </section>
        </div>
        <div class="stack">
          <section class="card stack" aria-labelledby="figures-title">
            <div class="between">
              <h2 id="figures-title">Her figures</h2>
              <RouterLink
                v-if="client.profile.length && may('cutting')"
                :to="{ name: 'own-draft', params: { id } }"
                >Draft her own block</RouterLink
              >
              <RouterLink v-if="may('cutting')" :to="{ name: 'cloth', query: { client: id } }"
                >Cloth to drape her in</RouterLink
              >
              <RouterLink v-if="may('cutting')" :to="{ name: 'drapes', query: { client: id } }"
                >A toile draped for her</RouterLink
              >
            </div>
            <p v-if="ownBlocks.length" class="row">
              <RouterLink
                v-for="block in ownBlocks"
                :key="block.id"
                :to="{ name: 'block', params: { id: block.id } }"
                ><SmallDrawing :id="block.id" of="blocks" />{{ calledBlock(block) }}, version
                {{ block.version }}</RouterLink
              >
            </p>
            <div class="figures">
              <FigurePicture
                :figure="client.figure"
                :label="`Figure of ${client.name}, in the proportions of her readings`"
              />
              <table v-if="client.profile.length">
                <tbody>
                  <tr v-for="row in client.profile" :key="row.code">
                    <th scope="row">{{ row.name }}</th>
                    <td class="num" :title="`typed ${row.typed}, ${asDay(row.taken_at)}`">{{ row.text }}</td>
                  </tr>
                </tbody>
              </table>
              <p v-else class="soft">Not measured yet.</p>
            </div>
          </section>
          <AwayDays :client="id" />
          <section class="card stack" aria-labelledby="consent-title">
            <div class="between">
              <h2 id="consent-title">Consent</h2>
              <ElButton size="small" @click="open('consent')">Record</ElButton>
            </div>
            <div
              v-for="given in client.consents"
              :key="given.id"
              class="between"
              :class="{ soft: given.withdrawn_on }"
            >
              <p>
                {{ asDay(given.given_on) }}: {{ given.purpose }}
                <span v-if="given.withdrawn_on" class="small"
                  >Withdrawn {{ asDay(given.withdrawn_on) }}.</span
                >
                <span v-else-if="given.review_on" class="soft small">
                  Ask again on {{ asDay(given.review_on) }}.
                </span>
              </p>
              <ElButton v-if="!given.withdrawn_on" size="small" @click="withdraw(given.id)"
                >Withdraw</ElButton
              >
            </div>
          </section>
        </div>
      </div>
      <FormDialog
        :open="dialog === 'edit'"
        title="Edit client"
        action="Save"
        :busy="savingEntry"
        :problem="entryProblem"
        @close="dialog = undefined"
        @submit="saveEntry"
      >
        <TextField id="name" v-model="entry.name" label="Name" :most="120" />
        <TextField id="contact" v-model="entry.contact" label="Telephone or address" :most="254" />
        <div class="field">
          <label for="notes">Notes</label>
          <ElInput id="notes" v-model="entry.notes" type="textarea" :rows="4" />
        </div>
      </FormDialog>
      <FormDialog
        :open="dialog === 'order'"
        title="A new garment"
        action="Take it in hand and measure"
        :busy="taking"
        :problem="orderProblem"
        @close="dialog = undefined"
        @submit="takeOrder"
      >
        <TextField
          id="garment"
          v-model="order.garment"
          label="Garment"
          :most="120"
          placeholder="Concert dress"
        />
        <ChoiceField
          id="set"
          v-model="order.set"
          label="What is measured for it"
          :choices="
            catalogue?.sets.map(({ code, name, codes }) => ({
              value: code,
              label: `${name}: ${codes.length} readings`,
            })) ?? []
          "
        />
        <div class="field">
          <label for="wanted">Wanted for</label>
          <DayField id="wanted" v-model="order.wantedOn" :min="today()" />
        </div>
        <div class="field">
          <label for="toiles">How many toiles are planned</label>
          <input id="toiles" v-model.number="order.toiles" class="plain" type="number" min="1" max="6" />
        </div>
      </FormDialog>
      <FormDialog
        :open="dialog === 'consent'"
        title="Record consent"
        action="Save consent"
        :busy="savingConsent"
        :problem="consentProblem"
        @close="dialog = undefined"
        @submit="saveConsent"
      >
        <div class="field">
          <label for="given">Agreed on</label>
          <DayField id="given" v-model="consent.givenOn" required />
        </div>
        <TextField id="purpose" v-model="consent.purpose" label="Purpose" />
        <div class="field">
          <label for="review">Ask again on</label>
          <DayField id="review" v-model="consent.reviewOn" />
        </div>
      </FormDialog>
    </template>
  </PageFrame>
</template>

<style scoped>
.notes {
  max-width: 60ch;
}
.two {
  display: grid;
  grid-template-columns: 1.15fr 1fr;
  gap: 1rem;
  align-items: start;
}
.figures {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 1rem;
}
.figures th {
  font-weight: 400;
  font-size: 0.95rem;
  color: var(--ink);
}
.figures td,
.figures th {
  padding-top: 0.12rem;
  padding-bottom: 0.12rem;
}
.plain,
.story {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
.garment {
  display: grid;
  grid-template-columns: 5.5rem minmax(0, 1fr);
  column-gap: 0.9rem;
}
.garment > :first-child {
  grid-row: 1 / span 3;
}
.story li {
  display: grid;
  grid-template-columns: 6.6rem 1fr;
  border-left: 2px solid var(--rule);
  padding-left: 0.8rem;
}
.story .round,
.story .pattern {
  border-color: var(--woad);
}
.story .done {
  border-color: var(--ink);
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: 1fr;
  }
}
@media (max-width: 500px) {
  .story li {
    grid-template-columns: 1fr;
  }
  .figures {
    grid-template-columns: 1fr;
  }
  .figures :deep(svg) {
    max-height: 240px;
  }
}
</style>
