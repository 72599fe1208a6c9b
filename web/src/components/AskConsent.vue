<script setup lang="ts">
/** Consent, asked where the first reading is taken: nothing is measured before she has agreed that it is kept. */
import { reactive } from 'vue'
import { post } from '@/api/client'
import DayField from '@/components/DayField.vue'
import FormDialog from '@/components/FormDialog.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { today } from '@/days'

const props = defineProps<{ client: number; open: boolean }>()
const emit = defineEmits<{ given: []; close: [] }>()
const entry = reactive({ givenOn: today(), purpose: 'Figures and patterns, to dress her.' })

const { run, busy, problem } = useAction(
  () =>
    post('/api/clients/{id}/consents', {
      params: { path: { id: props.client } },
      body: { given_on: entry.givenOn, purpose: entry.purpose, review_on: null },
    }),
  () => emit('given'),
  { opens: () => props.open },
)
</script>

<template>
  <FormDialog
    :open="open"
    title="Before the tape: has she agreed?"
    action="She agrees: go on"
    :busy="busy"
    :problem="problem"
    @close="emit('close')"
    @submit="run"
  >
    <p class="small soft">
      Her figures are private. Ask whether they may be kept, and for what; she can withdraw it at any time on
      her page.
    </p>
    <TextField id="consent-purpose" v-model="entry.purpose" label="Purpose" />
    <div class="field">
      <label for="consent-given">Agreed on</label>
      <DayField id="consent-given" v-model="entry.givenOn" required />
    </div>
  </FormDialog>
</template>
