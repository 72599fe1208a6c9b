<script setup lang="ts">
/** Moves a visit to another day: says first what would move along, and moves it only then. */
import { computed, ref, watch } from 'vue'
import { get, post, send } from '@/api/client'
import type { MoveSaid, Problem, VisitView } from '@/api/types'
import FormDialog from '@/components/FormDialog.vue'
import { useAction } from '@/composables/useAction'
import { asWeekday } from '@/days'

const props = defineProps<{
  /** The visit and the day it is carried to; the dialog is open while there is one. */
  moving?: { visit: VisitView; to: string }
}>()
const emit = defineEmits<{ close: []; moved: [] }>()
const open = computed(() => props.moving !== undefined)
const said = ref<MoveSaid>()
const refused = ref<Problem>()
/** The garment's revision that what is said is true of. */
let revision = 0

const bodyOf = (keep: boolean) =>
  props.moving && { revision, visit: props.moving.visit.visit, to: props.moving.to, keep }

async function ask(): Promise<void> {
  said.value = undefined
  refused.value = undefined
  const moving = props.moving
  if (!moving) return
  const params = { path: { id: moving.visit.order_id } }
  const dates = await send(get('/api/orders/{id}/dates', { params }))
  if (!dates.ok) return void (refused.value = dates.problem)
  revision = dates.value.revision
  const body = bodyOf(false)
  const answer = body && (await send(post('/api/orders/{id}/dates/move', { params, body })))
  // Another one was taken up meanwhile.
  if (!answer || props.moving !== moving) return
  if (answer.ok) said.value = answer.value
  else refused.value = answer.problem
}
watch(() => props.moving, ask)

const { run, busy, problem } = useAction(
  () => {
    const body = bodyOf(true)
    if (!body || !props.moving || !said.value) return undefined
    return post('/api/orders/{id}/dates/move', {
      params: { path: { id: props.moving.visit.order_id } },
      body,
    })
  },
  () => {
    emit('moved')
    emit('close')
  },
  { opens: open, repeats: true },
)
</script>

<template>
  <FormDialog
    :open="open"
    title="Move the visit"
    action="Move it"
    :busy="busy"
    :problem="refused ?? problem"
    @close="$emit('close')"
    @submit="run"
  >
    <p v-if="moving">
      <b>{{ moving.visit.client }}</b>, {{ moving.visit.name }}, {{ moving.visit.garment }}: from
      {{ asWeekday(moving.visit.on) }} to <b>{{ asWeekday(moving.to) }}</b>.
    </p>
    <ul v-if="said?.moves.length">
      <li v-for="line in said.moves" :key="line">{{ line }}</li>
    </ul>
    <p v-if="said?.late" class="decide">{{ said.late }}</p>
  </FormDialog>
</template>
