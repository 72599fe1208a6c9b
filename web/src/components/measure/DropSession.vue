<script setup lang="ts">
/** Drops a measuring session: its readings count no longer. A signed one wants the reason, and either can be brought back. */
import { ElButton } from 'element-plus'
import { ref } from 'vue'
import { remove } from '@/api/client'
import FormDialog from '@/components/FormDialog.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'

const props = defineProps<{
  session: number
  /** It is signed. */
  signed: boolean
}>()
const emit = defineEmits<{ dropped: [] }>()
const open = ref(false)
const why = ref('')

const { run, busy, problem } = useAction(
  () => remove('/api/sessions/{id}', { params: { path: { id: props.session }, query: { why: why.value } } }),
  () => {
    open.value = false
    emit('dropped')
  },
  { opens: open },
)
</script>

<template>
  <ElButton size="small" @click="open = true">Drop this session</ElButton>
  <FormDialog
    :open="open"
    title="Drop this session"
    action="Drop it"
    :busy="busy"
    :problem="problem"
    @close="open = false"
    @submit="run"
  >
    <p>
      What was read in it counts no longer; her other sessions stay. It can be brought back from her history.
    </p>
    <TextField
      id="drop-why"
      v-model="why"
      :label="signed ? 'Why' : 'Why, if you like'"
      :most="200"
      :placeholder="signed ? 'another client’s figures' : ''"
    />
  </FormDialog>
</template>
