<script setup lang="ts">
/** The second step of one's own sign-in: set up with an app on a telephone, set up anew, taken away. */
import { ElButton, ElInput } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { get, post, put } from '@/api/client'
import type { SharedKey } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const emit = defineEmits<{ changed: [] }>()

const { data: step, problem: unread, reload } = useResource(get('/api/me/second-factor'))
/** What an app is set up with: shown until the first code proves that it was. */
const key = ref<SharedKey>()
const entry = reactive({ code: '', password: '' })
/** The codes on paper, shown once. */
const codes = ref<string[]>()
const leaving = ref(false)
const copied = ref(false)

async function again(): Promise<void> {
  Object.assign(entry, { code: '', password: '' })
  key.value = undefined
  leaving.value = false
  await reload()
  emit('changed')
}

const begin = useAction(
  () => post('/api/me/second-factor/key'),
  (made) => {
    codes.value = undefined
    leaving.value = false
    key.value = made
  },
  { repeats: true },
)
const turnOn = useAction(
  () => key.value && put('/api/me/second-factor', { body: { ...entry, key: key.value.key } }),
  async (made) => {
    codes.value = made.codes
    copied.value = false
    await again()
  },
  { repeats: true },
)
const turnOff = useAction(
  () => post('/api/me/second-factor/off', { body: { password: entry.password } }),
  async () => {
    codes.value = undefined
    await again()
  },
  { repeats: true },
)

const onPaper = computed(() => {
  const left = step.value?.recovery_codes ?? 0
  return left === 1 ? 'One code on paper is left.' : `${left || 'No'} codes on paper are left.`
})

async function copy(): Promise<void> {
  await navigator.clipboard.writeText((codes.value ?? []).join('\n'))
  copied.value = true
}
</script>

<template>
  <section class="card stack" aria-labelledby="step-title">
    <h2 id="step-title">A second step at sign-in</h2>
    <ProblemNote :problem="unread" />
    <template v-if="codes">
      <p>
        It is on. Write these codes down and keep them away from your telephone: each lets you in once, should
        it be lost. <strong>They are shown only now.</strong>
      </p>
      <ol class="codes" aria-label="Codes on paper">
        <li v-for="code in codes" :key="code">{{ code }}</li>
      </ol>
      <div class="row">
        <ElButton @click="copy">Copy them</ElButton>
        <ElButton type="primary" @click="codes = undefined">I have kept them</ElButton>
        <span v-if="copied" role="status" class="soft">Copied.</span>
      </div>
    </template>
    <form v-else-if="key" class="stack" @submit.prevent="turnOn.run()">
      <p>
        Let an app for codes on your telephone read this picture, or type the key into it. On the telephone
        itself, <a :href="key.address">hand it to the app</a>.
      </p>
      <svg
        class="squares"
        :viewBox="`-4 -4 ${key.size + 8} ${key.size + 8}`"
        role="img"
        aria-label="The key as a picture for an app"
      >
        <path :d="key.squares" shape-rendering="crispEdges" />
      </svg>
      <p class="key">{{ key.key }}</p>
      <div class="field">
        <label for="step-code">The six digits the app shows now</label>
        <ElInput
          id="step-code"
          v-model="entry.code"
          autocomplete="one-time-code"
          inputmode="numeric"
          maxlength="12"
          required
        />
      </div>
      <div class="field">
        <label for="step-password">Your password</label>
        <ElInput
          id="step-password"
          v-model="entry.password"
          type="password"
          autocomplete="current-password"
          required
        />
      </div>
      <p class="small soft">Wherever else you are signed in, that ends.</p>
      <ProblemNote :problem="turnOn.problem.value" />
      <div class="row">
        <ElButton type="primary" native-type="submit" :aria-busy="turnOn.busy.value">Turn it on</ElButton>
        <ElButton @click="key = undefined">Leave it</ElButton>
      </div>
    </form>
    <form v-else-if="leaving" class="stack" @submit.prevent="turnOff.run()">
      <div class="field">
        <label for="step-password">Your password</label>
        <ElInput
          id="step-password"
          v-model="entry.password"
          type="password"
          autocomplete="current-password"
          required
        />
      </div>
      <p class="small soft">From then on the password alone lets you in, and whoever knows it.</p>
      <ProblemNote :problem="turnOff.problem.value" />
      <div class="row">
        <ElButton type="primary" native-type="submit" :aria-busy="turnOff.busy.value">Take it away</ElButton>
        <ElButton @click="leaving = false">Leave it on</ElButton>
      </div>
    </form>
    <template v-else-if="step?.since">
      <p>Signing in asks for a code from your app, since {{ asDay(step.since) }}. {{ onPaper }}</p>
      <ProblemNote :problem="begin.problem.value" />
      <div class="row">
        <ElButton :aria-busy="begin.busy.value" @click="begin.run()">New telephone or new codes</ElButton>
        <ElButton @click="leaving = true">Take it away</ElButton>
      </div>
    </template>
    <template v-else-if="step">
      <p>
        Besides the password, signing in asks for six digits from an app on your telephone. Whoever learns the
        password cannot come in with it alone.
      </p>
      <ProblemNote :problem="begin.problem.value" />
      <div>
        <ElButton :aria-busy="begin.busy.value" @click="begin.run()">Set it up</ElButton>
      </div>
    </template>
  </section>
</template>

<style scoped>
/* Dark on white in every light, or a telephone does not read it. */
.squares {
  width: 11rem;
  background: white;
  fill: black;
}
.key {
  font-family: ui-monospace, monospace;
  overflow-wrap: anywhere;
}
.codes {
  columns: 2;
  margin: 0;
  padding-left: 2rem;
  font-family: ui-monospace, monospace;
}
</style>
