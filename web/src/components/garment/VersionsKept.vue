<script setup lang="ts">
/** Withdraws the newest version before it is cut, and lets one that was withdrawn stand again. */
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { post, remove } from '@/api/client'
import type { PatternView } from '@/api/types'
import FormDialog from '@/components/FormDialog.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{ pattern: PatternView }>()
const emit = defineEmits<{ changed: [] }>()
const { may } = useHouse()
const open = ref(false)
const why = ref('')
const newest = computed(() => props.pattern.versions[0])

const {
  run: withdraw,
  busy,
  problem: kept,
} = useAction(
  () =>
    newest.value &&
    post('/api/versions/{id}/withdraw', {
      params: { path: { id: newest.value.id } },
      body: { why: why.value },
    }),
  () => {
    open.value = false
    why.value = ''
    emit('changed')
  },
  { opens: open },
)
const { run: letStand, problem } = useAction(
  (id: number) => remove('/api/versions/{id}/withdraw', { params: { path: { id } } }),
  () => emit('changed'),
  { repeats: true },
)
</script>

<template>
  <div v-if="may('cutting')" class="stack">
    <div v-if="newest">
      <ElButton size="small" @click="open = true">Withdraw version {{ newest.version }}</ElButton>
    </div>
    <ul v-if="pattern.withdrawn.length" class="small">
      <li v-for="each in pattern.withdrawn" :key="each.id" class="between">
        <span class="soft">Version {{ each.version }} is withdrawn. {{ each.withdrawn }}</span>
        <ElButton size="small" @click="letStand(each.id)">Let {{ each.version }} stand</ElButton>
      </li>
    </ul>
    <ProblemNote :problem="problem" />
    <FormDialog
      :open="open"
      :title="`Withdraw version ${newest?.version}`"
      action="Withdraw it"
      :busy="busy"
      :problem="kept"
      @close="open = false"
      @submit="withdraw"
    >
      <p>It is not cut then, and its number is not given again. The recipe stays as it is in your hand.</p>
      <TextField id="withdraw-why" v-model="why" label="Why" :most="200" />
    </FormDialog>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
