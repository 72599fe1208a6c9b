<script setup lang="ts">
/** Corrects one reading of a signed session, with the reason; the old one is kept. */
import { computed, reactive, watch } from 'vue'
import { post } from '@/api/client'
import FormDialog from '@/components/FormDialog.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'

const props = defineProps<{
  /** The reading; the dialog is open while there is one. */
  reading?: { id: number; name: string; typed: string }
}>()
const emit = defineEmits<{ close: []; corrected: [] }>()
const entry = reactive({ text: '', why: '', stands: '' })
watch(
  () => props.reading,
  () => Object.assign(entry, { text: '', why: '', stands: '' }),
)
const open = computed(() => props.reading !== undefined)

const { run, busy, problem } = useAction(
  () =>
    props.reading &&
    post('/api/readings/{id}/correction', {
      params: { path: { id: props.reading.id } },
      body: { text: entry.text, why: entry.why, stands: entry.stands.trim() || null },
    }),
  () => {
    emit('corrected')
    emit('close')
  },
  { opens: open },
)
</script>

<template>
  <FormDialog
    :open="open"
    :title="`Correct: ${reading?.name ?? ''}`"
    action="Correct it"
    :busy="busy"
    :problem="problem"
    @close="$emit('close')"
    @submit="run"
  >
    <p class="soft">It says {{ reading?.typed }}. The old reading stays in the book, with your reason.</p>
    <TextField id="corrected" v-model="entry.text" label="What it should be" inputmode="decimal" />
    <TextField
      id="corrected-why"
      v-model="entry.why"
      label="Why"
      :most="200"
      placeholder="written down wrongly"
    />
    <TextField
      v-if="problem?.pointer === '/stands'"
      id="corrected-stands"
      v-model="entry.stands"
      label="It stands: your initials"
      :most="12"
    />
  </FormDialog>
</template>
