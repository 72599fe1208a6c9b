<script setup lang="ts">
import { ElButton } from 'element-plus'
import { shallowRef } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { post } from '@/api/client'
import type { ClientView, Made, OwnDraft, Problem } from '@/api/types'
import BlockSheet from '@/components/BlockSheet.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ id: string }>()
const router = useRouter()
const { data: client } = useResource<ClientView>(() => `/api/clients/${props.id}`)
const { data: draft, problem } = useResource<OwnDraft>(() => `/api/clients/${props.id}/draft`)
const refused = shallowRef<Problem>()

async function keep(): Promise<void> {
  const result = await post<Made>(`/api/clients/${props.id}/blocks`)
  refused.value = result.ok ? undefined : result.problem
  if (result.ok) await router.push({ name: 'block', params: { id: result.value.id } })
}

/** Opens a session with just the readings that are wanting. */
async function measure(): Promise<void> {
  const result = await post<Made>(`/api/clients/${props.id}/sessions`, { codes: draft.value?.readings })
  refused.value = result.ok ? undefined : result.problem
  if (result.ok) await router.push({ name: 'session', params: { id: result.value.id } })
}
</script>

<template>
  <main class="page stack" aria-labelledby="draft-title">
    <div class="between">
      <div>
        <h1 id="draft-title">Her own block</h1>
        <p class="soft">
          Drafted from the readings of
          <RouterLink :to="{ name: 'client', params: { id } }">{{ client?.name }}</RouterLink> by the direct
          method.
        </p>
      </div>
      <ElButton v-if="draft?.drawn && !draft.refused" type="primary" @click="keep">Keep this block</ElButton>
    </div>
    <ProblemNote :problem="problem ?? refused" />
    <div v-if="draft?.refused" class="card stack">
      <p>
        <span class="decide">Not yet.</span> {{ draft.refused }}
        <template v-if="draft.drawn">
          Below it is drawn with what her other readings make of them: to look at, not to keep or to cut.
        </template>
      </p>
      <div v-if="draft.readings.length"><ElButton @click="measure">Measure these now</ElButton></div>
    </div>
    <BlockSheet v-if="draft?.drawn" :drawn="draft.drawn" />
  </main>
</template>
