<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { post, send } from '@/api/client'
import type { Problem } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
import TheDoor from '@/components/TheDoor.vue'
import { useHouse } from '@/composables/useHouse'

const route = useRoute()
const router = useRouter()
const { enter } = useHouse()
const email = ref('')
const password = ref('')
const problem = shallowRef<Problem>()
const busy = ref(false)

async function signIn(): Promise<void> {
  busy.value = true
  const result = await send(post('/api/sign-in', { body: { email: email.value, password: password.value } }))
  busy.value = false
  problem.value = result.ok ? undefined : result.problem
  if (!result.ok || !(await enter())) return
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
      <ProblemNote :problem="problem" />
      <ElButton type="primary" native-type="submit" :loading="busy">Sign in</ElButton>
    </form>
  </TheDoor>
</template>
