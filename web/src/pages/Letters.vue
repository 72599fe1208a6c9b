<script setup lang="ts">
/** The outbox: reminders as they are written; simulated until the house sets a mail server. */
import { ElButton } from 'element-plus'
import { ref } from 'vue'
import { RouterLink } from 'vue-router'
import { get, post } from '@/api/client'
import PageFrame from '@/components/PageFrame.vue'
import { useAction } from '@/composables/useAction'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const { data: outbox, problem, reload } = useResource(get('/api/letters'))
const said = ref('')

const {
  run: write,
  busy,
  problem: refused,
} = useAction(
  () => post('/api/letters'),
  async ({ written, sent }) => {
    said.value = written ? `${written} written, ${sent} sent.` : 'Nothing new is due.'
    await reload()
  },
  { repeats: true },
)
</script>

<template>
  <PageFrame title="Reminders" :problem="problem ?? refused" :reading="!outbox">
    <template #actions><RouterLink :to="{ name: 'calendar' }">Calendar</RouterLink></template>
    <p v-if="outbox?.simulated" class="soft">
      No mail server is set: letters are written here as they would go out, and stay here.
    </p>
    <div class="row">
      <ElButton :aria-busy="busy" @click="write">Write what is due</ElButton>
      <span role="status" class="soft">{{ said }}</span>
    </div>
    <p v-if="outbox && !outbox.letters.length" class="card">
      None yet: a reminder is written some days before each visit, as House says.
    </p>
    <article v-for="letter in outbox?.letters" :key="letter.id" class="card" :aria-label="letter.subject">
      <div class="between">
        <h2>{{ letter.subject }}</h2>
        <p class="small soft">written {{ asDay(letter.written_at) }}</p>
      </div>
      <p>
        To {{ letter.to_name }}<span v-if="letter.to_address" class="soft">, {{ letter.to_address }}</span
        ><span v-else class="decide">: no address is known</span>
      </p>
      <p v-if="letter.sent_at" class="small soft">Sent {{ asDay(letter.sent_at) }}.</p>
      <p v-else-if="letter.failed" class="small decide">Not sent: {{ letter.failed }}.</p>
      <pre>{{ letter.body }}</pre>
    </article>
  </PageFrame>
</template>

<style scoped>
pre {
  font: inherit;
  white-space: pre-wrap;
  margin: 0.6rem 0 0;
  border-left: 2px solid var(--rule);
  padding-left: 0.9rem;
}
</style>
