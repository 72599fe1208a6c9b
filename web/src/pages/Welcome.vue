<script setup lang="ts">
/** Somebody comes in by a link and chooses a password. */
import { ElButton, ElInput } from 'element-plus'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import ProblemNote from '@/components/ProblemNote.vue'
import TheDoor from '@/components/TheDoor.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ token: string }>()
const router = useRouter()
const { enterAnew } = useHouse()
const params = () => ({ path: { token: props.token } })
const { data: welcome, problem: ended } = useResource(() => get('/api/entry/{token}', { params: params() }))
const password = ref('')
const {
  run: comeIn,
  busy,
  problem,
} = useAction(
  () => post('/api/entry/{token}', { params: params(), body: { password: password.value } }),
  async () => {
    // Whoever has set up a second step signs in with the new password and a code.
    if (welcome.value?.second_factor) await router.push('/sign-in')
    else if (await enterAnew()) await router.push('/')
  },
)
</script>

<template>
  <TheDoor :title="welcome ? `Welcome, ${welcome.name}` : 'Yardwand'">
    <template #under>{{ welcome ? `To the book of ${welcome.house}.` : '' }}</template>
    <ProblemNote :problem="ended" />
    <form v-if="welcome" class="stack" @submit.prevent="comeIn">
      <div class="field">
        <label for="password">A password of your own, at least twelve characters</label>
        <ElInput
          id="password"
          v-model="password"
          type="password"
          autocomplete="new-password"
          minlength="12"
          maxlength="200"
          required
        />
        <p class="small soft">Three words do well.</p>
        <p v-if="welcome.second_factor" class="small soft">Then you sign in with it, and with a code.</p>
      </div>
      <ProblemNote :problem="problem" />
      <ElButton type="primary" native-type="submit" :aria-busy="busy">Come in</ElButton>
    </form>
  </TheDoor>
</template>
