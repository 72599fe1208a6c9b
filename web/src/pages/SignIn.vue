<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { ref, shallowRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { post, send } from '@/api/client'
import type { Problem } from '@/api/types'
import ProblemNote from '@/components/ProblemNote.vue'
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
  <main class="door">
    <section class="card stack" aria-labelledby="sign-in-title">
      <div>
        <h1 id="sign-in-title">Yardwand</h1>
        <p class="soft">Measure, compare, alter, fit: the workroom's book and its arithmetic.</p>
      </div>
      <form class="stack" @submit.prevent="signIn">
        <div class="field">
          <label for="email">E-mail address</label>
          <ElInput id="email" v-model="email" type="email" autocomplete="username" required />
        </div>
        <div class="field">
          <label for="password">Password</label>
          <ElInput
            id="password"
            v-model="password"
            type="password"
            autocomplete="current-password"
            required
          />
        </div>
        <ProblemNote :problem="problem" />
        <ElButton type="primary" native-type="submit" :loading="busy">Sign in</ElButton>
      </form>
    </section>
  </main>
</template>

<style scoped>
.door {
  min-height: 100vh;
  display: grid;
  place-items: center;
  padding: 1rem;
  background:
    repeating-linear-gradient(to right, var(--rule) 0 1px, transparent 1px 25.4px) 0 100% / 100% 14px
      no-repeat,
    var(--paper);
}
.card {
  width: min(420px, 100%);
  padding: 1.8rem;
}
h1 {
  font-size: 2.6rem;
}
</style>
