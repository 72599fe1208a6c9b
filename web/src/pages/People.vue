<script setup lang="ts">
/** Who works in the house: asked in by a link, given another role, let go. The owner's page. */
import { ElButton, ElInput, ElTable, ElTableColumn } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { get, post, put } from '@/api/client'
import type { EntryLink, HousePerson, RoleName } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import FormDialog from '@/components/FormDialog.vue'
import PageFrame from '@/components/PageFrame.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useMedia } from '@/composables/useMedia'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const { me, enter } = useHouse()
/** On a phone a row's words stand under the name, so that its buttons stay in sight. */
const narrow = useMedia('(max-width: 700px)')
const { data: house, problem, reload } = useResource(get('/api/people'))

const people = computed(() => house.value?.people)
const roleOf = (role: RoleName) => house.value?.roles.find((each) => each.role === role)?.name ?? ''
const roles = computed(
  () => house.value?.roles.map(({ role, name, may }) => ({ value: role, label: `${name}: ${may}` })) ?? [],
)

/** Who is being changed; somebody new where there is no row. */
const open = ref(false)
const changed = ref<HousePerson>()
const entry = reactive({ name: '', email: '', role: 'assistant' as RoleName })
function begin(person?: HousePerson): void {
  changed.value = person
  Object.assign(entry, {
    name: person?.name ?? '',
    email: person?.email ?? '',
    role: person?.role ?? 'assistant',
  })
  open.value = true
}

/** What was made last: shown until the page is left, and never again. */
const link = ref<EntryLink & { name: string }>()
const address = computed(() => link.value && `${location.origin}${link.value.path}`)
const copied = ref(false)
async function copy(): Promise<void> {
  await navigator.clipboard.writeText(address.value ?? '')
  copied.value = true
}
function show(made: EntryLink, name: string): void {
  copied.value = false
  link.value = { ...made, name }
}

const askIn = useAction(
  () => post('/api/people', { body: { ...entry } }),
  (made) => show(made, entry.name),
  { opens: open },
)
const change = useAction(
  () =>
    changed.value &&
    put('/api/people/{id}', {
      params: { path: { id: changed.value.id } },
      body: { ...entry, revision: changed.value.revision },
    }),
  undefined,
  { opens: open },
)
const action = computed(() => (changed.value ? change : askIn))

async function save(): Promise<void> {
  if (!(await action.value.run())) return
  open.value = false
  await reload()
  // Whoever changed herself may see other things now.
  if (changed.value?.id === me.value?.id) await enter()
}

const {
  run: askInAgain,
  busy: asking,
  problem: unasked,
} = useAction(
  (person: HousePerson) => post('/api/people/{id}/link', { params: { path: { id: person.id } } }),
  async (made, person) => {
    show(made, person.name)
    await reload()
  },
  { repeats: true },
)
const {
  run: letGo,
  busy: leaving,
  problem: kept,
} = useAction(
  (person: HousePerson) =>
    post('/api/people/{id}/leave', {
      params: { path: { id: person.id } },
      body: { revision: person.revision },
    }),
  () => reload(),
  { repeats: true },
)
const stepTaken = useAction(
  () =>
    changed.value &&
    post('/api/people/{id}/second-factor/off', { params: { path: { id: changed.value.id } } }),
  async () => {
    changed.value = changed.value && { ...changed.value, second_factor: false }
    await reload()
  },
  { opens: open },
)

/** A table gives its rows to its columns without their type. */
const personIn = (row: unknown) => row as HousePerson
function standing(person: HousePerson): string {
  if (person.left_at) return `left ${asDay(person.left_at)}`
  if (person.asked_in_until) return `asked in, until ${asDay(person.asked_in_until)}`
  return person.second_factor ? 'signs in with a code too' : ''
}
</script>

<template>
  <PageFrame title="People of the house" :problem="problem ?? unasked ?? kept" :reading="!people">
    <template v-if="people" #actions
      ><ElButton type="primary" @click="begin()">Ask somebody in</ElButton></template
    >
    <section v-if="link" class="card stack" aria-labelledby="link-title" role="status">
      <h2 id="link-title">A link for {{ link.name }}</h2>
      <p class="link">{{ address }}</p>
      <p class="small soft">
        It is shown only now and holds until {{ asDay(link.until) }}. Whoever opens it chooses a password:
        pass it on to {{ link.name }} alone.
      </p>
      <div class="row">
        <ElButton @click="copy">Copy the link</ElButton>
        <span v-if="copied" class="soft">Copied.</span>
      </div>
    </section>
    <div v-if="people" class="card">
      <ElTable :data="people" row-key="id" empty-text="Nobody yet">
        <ElTableColumn prop="name" label="Name" min-width="150" sortable>
          <template #default="{ row }">
            {{ row.name }}
            <template v-if="narrow">
              <br /><span class="small soft email">{{ row.email }}</span> <br /><span class="small soft">{{
                roleOf(personIn(row).role)
              }}</span>
              <br v-if="standing(personIn(row))" /><span class="small">{{ standing(personIn(row)) }}</span>
            </template>
          </template>
        </ElTableColumn>
        <ElTableColumn v-if="!narrow" prop="email" label="Signs in as" min-width="210" sortable />
        <ElTableColumn v-if="!narrow" prop="role" label="Role" min-width="110" sortable>
          <template #default="{ row }">{{ roleOf(personIn(row).role) }}</template>
        </ElTableColumn>
        <ElTableColumn v-if="!narrow" label="Now" min-width="150">
          <template #default="{ row }">{{ standing(personIn(row)) }}</template>
        </ElTableColumn>
        <ElTableColumn label="Change" :min-width="narrow ? 150 : 300">
          <template #default="{ row }">
            <div class="row" role="group" :aria-label="`Change ${row.name}`">
              <ElButton
                v-if="row.left_at"
                size="small"
                :aria-busy="asking"
                @click="askInAgain(personIn(row))"
              >
                Bring back with a link
              </ElButton>
              <template v-else>
                <ElButton size="small" @click="begin(personIn(row))">Change</ElButton>
                <ElButton size="small" :aria-busy="asking" @click="askInAgain(personIn(row))"
                  >New password link</ElButton
                >
                <ElButton
                  v-if="row.id !== me?.id"
                  size="small"
                  :aria-busy="leaving"
                  @click="letGo(personIn(row))"
                >
                  Let go
                </ElButton>
              </template>
            </div>
          </template>
        </ElTableColumn>
      </ElTable>
    </div>
    <p v-if="people" class="small soft">
      Whoever is let go is signed out at once; what they measured and cut stays under their name, and a link
      brings them back.
    </p>
    <FormDialog
      :open="open"
      :title="changed ? changed.name : 'Ask somebody in'"
      :action="changed ? 'Save' : 'Make a link'"
      :busy="action.busy.value"
      :problem="action.problem.value"
      @close="open = false"
      @submit="save"
    >
      <TextField id="person-name" v-model="entry.name" label="Name" :most="120" />
      <div class="field">
        <label for="person-email">E-mail address</label>
        <ElInput id="person-email" v-model="entry.email" type="email" maxlength="254" required />
      </div>
      <ChoiceField id="person-role" v-model="entry.role" label="May change" :choices="roles" />
      <div v-if="changed?.second_factor" class="stack">
        <p class="small soft">
          Signs in with a password and a code from an app. Where telephone and codes on paper are lost, the
          password can be made enough again.
        </p>
        <div>
          <ElButton :aria-busy="stepTaken.busy.value" @click="stepTaken.run()"
            >Take the second step away</ElButton
          >
        </div>
        <ProblemNote :problem="stepTaken.problem.value" />
      </div>
    </FormDialog>
  </PageFrame>
</template>

<style scoped>
.link {
  overflow-wrap: anywhere;
  font-weight: 700;
}
.email {
  overflow-wrap: anywhere;
}
</style>
