<script setup lang="ts">
/** What can be done with a garment at any time: renamed, made again, compared, cancelled, archived, brought back. */
import { ElButton, ElDropdown, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { get, post, put, send } from '@/api/client'
import type { OrderView, PutAwayName } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import DayField from '@/components/DayField.vue'
import FormDialog from '@/components/FormDialog.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import WhoChanged from '@/components/WhoChanged.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useCatalogue } from '@/composables/useCatalogue'
import { useHouse } from '@/composables/useHouse'
import { usePatterned } from '@/composables/usePatterned'
import { useResource } from '@/composables/useResource'
import { useUndo } from '@/composables/useUndo'
import { today } from '@/days'

const props = defineProps<{ order: OrderView }>()
const emit = defineEmits<{ changed: [] }>()
const router = useRouter()
const { may } = useHouse()
const { catalogue } = useCatalogue()
const undo = useUndo()

const dialog = ref<'rename' | 'again' | 'beside'>()
const changes = ref(false)
const entry = reactive({ garment: '', set: '', client: 0, wantedOn: '' })
const beside = ref<number>()
const path = computed(() => ({ id: props.order.id }))

const sets = computed(() => {
  const known = catalogue.value?.sets.map(({ code, name }) => ({ value: code, label: name })) ?? []
  // A house's own set that was changed since stays what it was.
  const own = { value: props.order.set_code, label: props.order.set_name }
  return known.some((each) => each.value === own.value) ? known : [own, ...known]
})
const { data: clients } = useResource(() => (dialog.value === 'again' ? get('/api/clients') : undefined))
const {
  garments,
  problem: unread,
  search: searchGarments,
} = usePatterned({
  asked: () => dialog.value === 'beside',
  client: () => props.order.client_id,
  isOwn: (order) => order.id === props.order.id,
  isChosen: (order) => order.id === beside.value,
})
const others = computed(() =>
  garments.value.map(({ id, client_id, garment, client }) => ({
    value: id,
    label: client_id === props.order.client_id ? garment : `${garment}, ${client}`,
  })),
)

type Deed = 'rename' | 'again' | 'beside' | 'changes' | PutAwayName | 'back'
function choose(deed: Deed): void {
  Object.assign(entry, {
    garment: props.order.garment,
    set: props.order.set_code,
    client: props.order.client_id,
    wantedOn: '',
  })
  if (deed === 'changes') changes.value = true
  else if (deed === 'cancelled' || deed === 'archived') void putAway(deed)
  else if (deed === 'back') void putAway(null)
  else dialog.value = deed
}

const {
  run: rename,
  busy: renaming,
  problem: unnamed,
} = useAction(
  () =>
    put('/api/orders/{id}', {
      params: { path: path.value },
      body: { revision: props.order.revision, garment: entry.garment, set_code: entry.set },
    }),
  () => {
    dialog.value = undefined
    emit('changed')
  },
  { opens: () => dialog.value === 'rename' },
)

const SAID = { cancelled: 'is cancelled; its dates are free', archived: 'is in the archive' }
const { run: putAway, problem: unput } = useAction(
  (why: PutAwayName | null) =>
    put('/api/orders/{id}/put-away', {
      params: { path: path.value },
      body: { revision: props.order.revision, put_away: why },
    }),
  (_, why) => {
    const { revision, put_away: before, garment } = props.order
    const body = { revision: revision + 1, put_away: before }
    const back = put('/api/orders/{id}/put-away', { params: { path: path.value }, body })
    if (why) undo(`“${garment}” ${SAID[why]}.`, back, () => emit('changed'))
    emit('changed')
  },
)

const {
  run: again,
  busy: copying,
  problem: uncopied,
} = useAction(
  () =>
    post('/api/orders/{id}/copy', {
      params: { path: path.value },
      body: { client_id: entry.client, garment: entry.garment, wanted_on: entry.wantedOn || null },
    }),
  async (made) => {
    dialog.value = undefined
    emit('changed')
    await router.push({ name: 'alter', params: { id: made.id } })
  },
  { opens: () => dialog.value === 'again' },
)

async function compare(): Promise<void> {
  if (!beside.value) return
  dialog.value = undefined
  await router.push({ name: 'beside', params: { id: props.order.id, other: beside.value } })
}

/** More clients than one page holds are looked for by name. */
async function look(q: string) {
  const found = await send(get('/api/clients', { params: { query: { q } } }))
  return found.ok ? found.value.items : []
}
const found = ref<{ value: number; label: string }[]>()
async function search(q: string): Promise<void> {
  found.value = (await look(q)).map(({ id, name }) => ({ value: id, label: name }))
}
const people = computed(() => {
  const hers = { value: props.order.client_id, label: props.order.client }
  const known = found.value ?? clients.value?.items.map(({ id, name }) => ({ value: id, label: name })) ?? []
  return known.some((each) => each.value === hers.value) ? known : [hers, ...known]
})
</script>

<template>
  <ElDropdown trigger="click" @command="choose">
    <ElButton size="small" :aria-label="`More of ${order.garment}`">More</ElButton>
    <template #dropdown>
      <ElDropdownMenu>
        <ElDropdownItem v-if="may('dates')" command="rename">Rename</ElDropdownItem>
        <ElDropdownItem v-if="may('cutting') && order.pattern_id" command="again"
          >Make it again</ElDropdownItem
        >
        <ElDropdownItem v-if="order.pattern_id" command="beside">Compare with another</ElDropdownItem>
        <ElDropdownItem command="changes">Who changed this</ElDropdownItem>
        <template v-if="may('dates')">
          <ElDropdownItem v-if="order.put_away" command="back" divided>Bring back</ElDropdownItem>
          <ElDropdownItem v-else-if="order.finished_at" command="archived" divided
            >Put into the archive</ElDropdownItem
          >
          <ElDropdownItem v-else command="cancelled" divided>Cancel</ElDropdownItem>
        </template>
      </ElDropdownMenu>
    </template>
  </ElDropdown>
  <ProblemNote :problem="unput" />
  <FormDialog
    :open="dialog === 'rename'"
    title="Rename the garment"
    action="Save"
    :busy="renaming"
    :problem="unnamed"
    @close="dialog = undefined"
    @submit="rename"
  >
    <TextField :id="`name-${order.id}`" v-model="entry.garment" label="Garment" :most="120" />
    <ChoiceField
      :id="`set-${order.id}`"
      v-model="entry.set"
      label="What is measured for it"
      :choices="sets"
    />
  </FormDialog>
  <FormDialog
    :open="dialog === 'again'"
    title="Make it again"
    action="Begin it"
    :busy="copying"
    :problem="uncopied"
    @close="dialog = undefined"
    @submit="again"
  >
    <p class="soft small">
      The same block with the same corrections. For another client only the corrections go along, not what was
      said of this one.
    </p>
    <TextField :id="`copy-${order.id}`" v-model="entry.garment" label="Garment" :most="120" />
    <ChoiceField
      :id="`for-${order.id}`"
      v-model="entry.client"
      label="For"
      :choices="people"
      :remote="search"
    />
    <div class="field">
      <label :for="`wanted-${order.id}`">Wanted for</label>
      <DayField :id="`wanted-${order.id}`" v-model="entry.wantedOn" :min="today()" />
    </div>
  </FormDialog>
  <FormDialog
    :open="dialog === 'beside'"
    title="Compare with another garment"
    action="Compare"
    :problem="unread"
    @close="dialog = undefined"
    @submit="compare"
  >
    <ChoiceField
      :id="`beside-${order.id}`"
      v-model="beside"
      label="Which"
      :choices="others"
      :remote="searchGarments"
    />
  </FormDialog>
  <WhoChanged v-model:open="changes" :of="{ garment: order.id }" />
</template>
