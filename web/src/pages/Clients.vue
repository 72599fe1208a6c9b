<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post, send } from '@/api/client'
import type { ClientSummary } from '@/api/types'
import DayField from '@/components/DayField.vue'
import FormDialog from '@/components/FormDialog.vue'
import PageFrame from '@/components/PageFrame.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { asDay, today } from '@/days'

const { may } = useHouse()
const router = useRouter()
const search = ref('')
/** Those of the archive too. */
const archived = ref(false)
const { data: found, problem } = useResource(() =>
  get('/api/clients', { params: { query: { q: search.value, archived: archived.value } } }),
)

/** Pages after the first, as they were asked for; another search begins anew. */
const later = ref<ClientSummary[]>([])
const next = ref<string>()
watch(found, (page) => {
  later.value = []
  next.value = page?.next ?? undefined
})
const clients = computed(() => [...(found.value?.items ?? []), ...later.value])
async function more(): Promise<void> {
  const asked = { q: search.value, archived: archived.value, after: next.value }
  const page = await send(get('/api/clients', { params: { query: asked } }))
  // Another search was begun meanwhile.
  if (!page.ok || asked.q !== search.value || asked.archived !== archived.value) return
  later.value.push(...page.value.items)
  next.value = page.value.next ?? undefined
}

const adding = ref(false)
const entry = reactive({ name: '', contact: '', notes: '', agreed: false, givenOn: today(), purpose: '' })

function ageOf(days?: number): string {
  if (days === undefined) return 'not measured'
  if (days === 0) return 'measured today'
  return days === 1 ? 'readings a day old' : `readings ${days} days old`
}

/** What one looks for in the list: garments in hand, when she was here, how old her readings are. */
function stands(client: ClientSummary): string {
  const said = client.archived ? ['in the archive'] : []
  if (client.in_hand)
    said.push(client.in_hand === 1 ? 'a garment in hand' : `${client.in_hand} garments in hand`)
  if (client.here_at) said.push(`here ${asDay(client.here_at)}`)
  said.push(ageOf(client.readings_age ?? undefined))
  return said.join(', ')
}

function begin(): void {
  Object.assign(entry, {
    name: search.value,
    contact: '',
    notes: '',
    agreed: false,
    givenOn: today(),
    purpose: 'Figures and patterns, to dress her.',
  })
  adding.value = true
}

const {
  run: add,
  busy,
  problem: refused,
} = useAction(
  () => {
    const consent = entry.agreed ? { given_on: entry.givenOn, purpose: entry.purpose } : null
    const { name, contact, notes } = entry
    return post('/api/clients', { body: { name, contact, notes, consent } })
  },
  (made) => router.push({ name: 'client', params: { id: made.id } }),
  { opens: adding },
)
</script>

<template>
  <PageFrame title="Clients" :problem="problem">
    <template #actions
      ><ElButton v-if="may('readings')" type="primary" @click="begin">Add a client</ElButton></template
    >
    <div class="field search">
      <label for="search">Search by any part of name, number or note</label>
      <ElInput id="search" v-model="search" autocomplete="off" clearable />
      <ElCheckbox v-model="archived">Those of the archive too</ElCheckbox>
    </div>
    <p v-if="found && !found.items.length" class="card">
      Nobody in the book is called that or has it in her notes.
      <button type="button" class="link" @click="begin">Add her</button>.
    </p>
    <ul class="list" aria-label="Clients found">
      <li v-for="client in clients" :key="client.id">
        <RouterLink :to="{ name: 'client', params: { id: client.id } }" class="entry">
          <strong>{{ client.name }}</strong>
          <span class="soft">{{ client.contact }}</span>
          <span class="small stands">{{ stands(client) }}</span>
        </RouterLink>
      </li>
    </ul>
    <div v-if="next"><ElButton @click="more">Show more</ElButton></div>
    <FormDialog
      :open="adding"
      title="Add a client"
      action="Save client"
      :busy="busy"
      :problem="refused"
      @close="adding = false"
      @submit="add"
    >
      <TextField id="name" v-model="entry.name" label="Name" :most="120" />
      <TextField id="contact" v-model="entry.contact" label="Telephone or address" :most="254" />
      <div class="field">
        <label for="notes">Notes</label>
        <ElInput id="notes" v-model="entry.notes" type="textarea" :rows="3" />
      </div>
      <ElCheckbox v-model="entry.agreed" label="She agrees that her figures are kept" />
      <div v-if="entry.agreed" class="consent">
        <div class="field">
          <label for="given">Agreed on</label>
          <DayField id="given" v-model="entry.givenOn" required />
        </div>
        <TextField id="purpose" v-model="entry.purpose" label="Purpose" />
      </div>
      <p v-else class="small soft">Without consent she can be entered now and asked before measuring.</p>
    </FormDialog>
  </PageFrame>
</template>

<style scoped>
.search {
  max-width: 26rem;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
}
.entry {
  display: grid;
  grid-template-columns: minmax(12rem, 1fr) minmax(10rem, 1.2fr) 1.4fr;
  gap: 1rem;
  padding: 0.6rem 0;
  border-bottom: 1px solid var(--rule);
  text-decoration: none;
}
.entry strong {
  font: 600 1.15rem var(--serif);
}
.entry:hover strong {
  text-decoration: underline;
}
.consent {
  display: grid;
  grid-template-columns: 11rem 1fr;
  gap: 0.8rem;
}
.link {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  text-decoration: underline;
  cursor: pointer;
}
@media (max-width: 700px) {
  .entry,
  .consent {
    grid-template-columns: 1fr;
    gap: 0.2rem;
  }
}
</style>
