<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, nextTick, ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { post, send } from '@/api/client'
import type { Problem } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import TheDoor from '@/components/TheDoor.vue'
import { useHouse } from '@/composables/useHouse'

const route = useRoute()
const router = useRouter()
const { enterAnew } = useHouse()
const email = ref('')
const password = ref('')
/** Wanted of those who have set up a second step, and asked for only when the password was theirs. */
const code = ref('')
const wantsCode = ref(false)
const problem = shallowRef<Problem>()
const busy = ref(false)
const entry = computed(() => ({
  email: email.value,
  password: password.value,
  code: wantsCode.value ? code.value : null,
}))

async function signIn(): Promise<void> {
  if (busy.value) return
  busy.value = true
  const result = await send(post('/api/sign-in', { body: entry.value }))
  busy.value = false
  problem.value = result.ok ? undefined : result.problem
  if (!result.ok && result.problem.type === 'urn:yardwand:code-wanted') {
    problem.value = undefined
    wantsCode.value = true
    await nextTick()
    document.getElementById('code')?.focus()
  }
  if (!result.ok || !(await enterAnew())) return
  const next =
    typeof route.query.next === 'string' && route.query.next.startsWith('/') ? route.query.next : '/'
  await router.push(next)
}
</script>

<template>
  <TheDoor title="Yardwand">
    <template #under>Measure, compare, alter, fit: the workroom's book and its arithmetic.</template>
    <form class="stack" @submit.prevent="signIn">
      <div class="field">
        <label for="email">E-mail address</label>
        <ElInput id="email" v-model="email" type="email" autocomplete="username" required />
      </div>
      <div class="field">
        <label for="password">Password</label>
        <ElInput id="password" v-model="password" type="password" autocomplete="current-password" required />
      </div>
      <div v-if="wantsCode" class="field">
        <label for="code">The six digits your app shows now</label>
        <ElInput id="code" v-model="code" autocomplete="one-time-code" maxlength="40" required />
        <p class="small soft">Without your telephone: one of the codes you have on paper.</p>
      </div>
      <ProblemNote :problem="problem" />
      <ElButton type="primary" native-type="submit" :loading="busy">Sign in</ElButton>
    </form>
  </TheDoor>
</template>
