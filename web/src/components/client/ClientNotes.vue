<script setup lang="ts">
/** Notes about a client outside a fitting, each with its photographs. */
import { ElButton, ElInput, ElUpload } from 'element-plus'
import type { UploadUserFile } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import { get, post, remove, send } from '@/api/client'
import type { NoteView, Problem } from '@/api/types'
import PhotographGrid from '@/components/photographs/PhotographGrid.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { useUndo } from '@/composables/useUndo'
import { asDay } from '@/days'

const props = defineProps<{ client: number }>()
const { may } = useHouse()
const undo = useUndo()
const words = ref('')
const files = ref<UploadUserFile[]>([])
const half = computed(() => words.value.trim() !== '' || files.value.length > 0)
const {
  data: notes,
  problem,
  reload,
} = useResource(() => get('/api/clients/{id}/notes', { params: { path: { id: props.client } } }))

/** A photograph that did not arrive: the note is there without it. */
const unsent = shallowRef<Problem>()
const {
  run: write,
  busy,
  problem: unwritten,
} = useAction(
  () =>
    half.value
      ? post('/api/clients/{id}/notes', {
          params: { path: { id: props.client } },
          body: { words: words.value },
        })
      : undefined,
  async (made) => {
    unsent.value = undefined
    const left: UploadUserFile[] = []
    for (const file of files.value) {
      if (!file.raw) continue
      const params = { path: { id: made.id } }
      const sent = await send(post('/api/notes/{id}/photographs', { params, body: file.raw }), {
        key: crypto.randomUUID(),
      })
      if (sent.ok) continue
      unsent.value = sent.problem
      left.push(file)
    }
    words.value = ''
    files.value = left
    await reload()
  },
  { repeats: true },
)

const { run: takeOut, problem: unremoved } = useAction(
  (note: NoteView) => remove('/api/notes/{id}', { params: { path: { id: note.id } } }),
  async (_, note) => {
    await reload()
    const back = post('/api/notes/{id}/restore', { params: { path: { id: note.id } } })
    undo('The note is taken out.', back, reload)
  },
)

const TYPES = 'image/jpeg,image/png,image/webp'
</script>

<template>
  <section class="card stack" aria-labelledby="notes-title">
    <h2 id="notes-title">Notes</h2>
    <form v-if="may('readings')" class="stack" @submit.prevent="write">
      <div class="field">
        <label for="note">Worth keeping, in neutral words</label>
        <ElInput id="note" v-model="words" type="textarea" :rows="2" maxlength="2000" />
      </div>
      <ElUpload
        v-model:file-list="files"
        :auto-upload="false"
        :accept="TYPES"
        list-type="text"
        multiple
        class="upload"
      >
        <span class="el-button el-button--small">Add a photograph</span>
      </ElUpload>
      <div v-if="half">
        <ElButton type="primary" native-type="submit" :aria-busy="busy">Keep the note</ElButton>
      </div>
    </form>
    <ProblemNote :problem="problem ?? unwritten ?? unsent ?? unremoved" />
    <p v-if="notes && !notes.length" class="soft">None yet.</p>
    <ul v-if="notes?.length" class="notes">
      <li v-for="note in notes" :key="note.id">
        <p class="small soft between">
          <span>{{ asDay(note.written_at) }}, {{ note.written_by }}</span>
          <ElButton
            v-if="may('readings')"
            size="small"
            :aria-label="`Take out: note of ${asDay(note.written_at)}`"
            @click="takeOut(note)"
            >Take out</ElButton
          >
        </p>
        <p v-if="note.words" class="words">{{ note.words }}</p>
        <PhotographGrid
          v-if="note.photographs.length"
          :photographs="note.photographs"
          :drawable="may('fitting')"
          @drawn="reload"
        />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.notes {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.8rem;
}
.words {
  white-space: pre-line;
}
</style>
