<script setup lang="ts">
/** The digital tape of this session: what it says, pairing one, letting it go. */
import { ElButton, ElDialog } from 'element-plus'
import { ref, shallowRef } from 'vue'
import { RouterLink } from 'vue-router'
import { post, remove, send } from '@/api/client'
import type { Problem, TapeView } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'

const props = defineProps<{ session: number; tape?: TapeView }>()
const token = ref('')
const dialog = ref(false)
const problem = shallowRef<Problem>()

async function pair(): Promise<void> {
  const result = await send(post('/api/sessions/{id}/tape', { params: { path: { id: props.session } } }))
  problem.value = result.ok ? undefined : result.problem
  token.value = result.ok ? result.value.token : ''
  dialog.value = true
}

async function unpair(): Promise<void> {
  const result = await send(remove('/api/sessions/{id}/tape', { params: { path: { id: props.session } } }))
  problem.value = result.ok ? undefined : result.problem
  dialog.value = false
}
</script>

<template>
  <div class="row tape-line">
    <template v-if="tape">
      <span v-if="tape.alive" class="figure"
        >Tape: <strong>{{ tape.text }} {{ tape.unit === 'inch' ? 'in' : tape.unit }}</strong></span
      >
      <span v-else class="decide" role="status">{{
        tape.seq ? 'The tape is silent: its last word is kept.' : 'A tape is paired and has not spoken yet.'
      }}</span>
      <ElButton size="small" @click="unpair">Let the tape go</ElButton>
    </template>
    <ElButton v-else size="small" @click="pair">Pair a tape</ElButton>
    <ElDialog v-model="dialog" title="Pair a tape" width="min(520px, 94vw)" align-center>
      <ProblemNote :problem="problem" />
      <div v-if="token" class="stack">
        <p>
          A digital tape sends what it reads with this word. Hold its button and the length goes into the
          field you are at.
        </p>
        <p class="token figure">{{ token }}</p>
        <p>
          No tape at hand?
          <RouterLink :to="{ name: 'tape', query: { token } }" target="_blank"
            >Open the stand-in tape</RouterLink
          >
          here or on another device, or run <code>yardwand tape</code>.
        </p>
      </div>
    </ElDialog>
  </div>
</template>

<style scoped>
.token {
  white-space: normal;
  overflow-wrap: anywhere;
  background: var(--paper);
  padding: 0.5rem 0.7rem;
  border-radius: var(--radius);
}
</style>
