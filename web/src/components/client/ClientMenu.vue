<script setup lang="ts">
/** What can be done with a client's entry at any time: made one with another, archived, taken along, looked into. */
import { ElButton, ElDialog, ElDropdown, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { computed, ref } from 'vue'
import { get, post, put, remove, send } from '@/api/client'
import type { ClientView } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import FormDialog from '@/components/FormDialog.vue'
import JobLine from '@/components/JobLine.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import WhoChanged from '@/components/WhoChanged.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useJob } from '@/composables/useJob'
import { useUndo } from '@/composables/useUndo'

const props = defineProps<{ client: ClientView }>()
const emit = defineEmits<{ changed: [] }>()
const { may } = useHouse()
const undo = useUndo()
const changes = ref(false)
const merging = ref(false)
const other = ref<number>()
const path = computed(() => ({ id: props.client.id }))

type Deed = 'merge' | 'archive' | 'changes' | 'take'
function choose(deed: Deed): void {
  if (deed === 'merge') {
    other.value = undefined
    merging.value = true
    void search('')
  } else if (deed === 'archive') void archive(!props.client.archived_at)
  else if (deed === 'changes') changes.value = true
  else void take()
}

/** All of hers is put together by the server, which may take a while; the browser then takes the file in, and the page stays. */
const taking = ref(false)
const asked = ref<number>()
const file = computed(() => `/api/clients/${props.client.id}/everything.zip`)
const { run: take, problem: notAsked } = useAction(
  () => post('/api/clients/{id}/everything', { params: { path: path.value } }),
  ({ id }) => {
    asked.value = id
    taking.value = true
  },
  { repeats: true },
)
const {
  job,
  problem: untold,
  stop,
} = useJob(asked, ({ state }) => {
  if (taking.value && state === 'done') window.location.assign(file.value)
})

const found = ref<{ value: number; label: string }[]>([])
async function search(q: string): Promise<void> {
  const result = await send(get('/api/clients', { params: { query: { q, archived: true } } }))
  const items = result.ok ? result.value.items.filter((each) => each.id !== props.client.id) : []
  found.value = items.map(({ id, name, contact }) => ({
    value: id,
    label: contact ? `${name}, ${contact}` : name,
  }))
}

const {
  run: merge,
  busy,
  problem: unmerged,
} = useAction(
  () =>
    other.value === undefined
      ? undefined
      : post('/api/clients/{id}/merged', {
          params: { path: path.value },
          body: { revision: props.client.revision, other: other.value },
        }),
  () => {
    const id = other.value ?? 0
    merging.value = false
    emit('changed')
    undo('Two entries are one now.', remove('/api/clients/{id}/merged', { params: { path: { id } } }), () =>
      emit('changed'),
    )
  },
  { opens: merging },
)

const archived = (now: boolean, revision: number) =>
  put('/api/clients/{id}/archived', { params: { path: path.value }, body: { revision, archived: now } })
const { run: archive, problem: unarchived } = useAction(
  (now: boolean) => archived(now, props.client.revision),
  (_, now) => {
    const back = archived(!now, props.client.revision + 1)
    if (now) undo(`${props.client.name} is in the archive.`, back, () => emit('changed'))
    emit('changed')
  },
)
</script>

<template>
  <ElDropdown trigger="click" @command="choose">
    <ElButton :aria-label="`More of ${client.name}`">More</ElButton>
    <template #dropdown>
      <ElDropdownMenu>
        <ElDropdownItem v-if="may('readings')" command="take">All of hers as one file</ElDropdownItem>
        <ElDropdownItem command="changes">Who changed this</ElDropdownItem>
        <ElDropdownItem v-if="may('dates')" command="merge">Same woman as another entry</ElDropdownItem>
        <ElDropdownItem v-if="may('readings')" command="archive" divided>{{
          client.archived_at ? 'Bring back from the archive' : 'Put into the archive'
        }}</ElDropdownItem>
      </ElDropdownMenu>
    </template>
  </ElDropdown>
  <ProblemNote :problem="unarchived ?? notAsked" />
  <ElDialog v-model="taking" title="All of hers as one file" width="min(560px, 94vw)" align-center>
    <div class="stack">
      <p>
        Entry, consents and notes, readings, her own blocks, patterns as data and on paper, stories and
        photographs, put together. You may go on working meanwhile.
      </p>
      <ProblemNote :problem="untold" />
      <JobLine v-if="job" :job="job" @stop="stop" />
      <p v-if="job?.state === 'done'">
        <a :href="file" download>Save the file</a>. It is kept until tomorrow.
      </p>
    </div>
  </ElDialog>
  <FormDialog
    :open="merging"
    title="The same woman as another entry"
    action="Make them one"
    :busy="busy"
    :problem="unmerged"
    @close="merging = false"
    @submit="merge"
  >
    <p>
      Everything of the other entry comes here: readings, garments, consents, notes. Number and notes are
      added to these. The other entry is out of sight then, and can be parted again.
    </p>
    <ChoiceField id="other-entry" v-model="other" label="The other entry" :choices="found" :remote="search" />
  </FormDialog>
  <WhoChanged v-model:open="changes" :of="{ client: client.id }" />
</template>
