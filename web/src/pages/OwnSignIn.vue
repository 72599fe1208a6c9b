<script setup lang="ts">
/** One's own password, where one is signed in, and the second step of signing in. */
import { ElButton, ElInput } from 'element-plus'
import { reactive, ref } from 'vue'
import { get, put, remove } from '@/api/client'
import PageFrame from '@/components/PageFrame.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import SecondStep from '@/components/house/SecondStep.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const { me } = useHouse()
const { data: signIns, problem: unread, reload } = useResource(get('/api/me/sign-ins'))
const entry = reactive({ now: '', password: '' })
const saved = ref(false)

const {
  run: change,
  busy,
  problem,
} = useAction(
  () => {
    saved.value = false
    return put('/api/me/password', { body: { ...entry } })
  },
  async () => {
    Object.assign(entry, { now: '', password: '' })
    saved.value = true
    await reload()
  },
  { repeats: true },
)
const {
  run: end,
  busy: ending,
  problem: held,
} = useAction(
  (id: number) => remove('/api/me/sign-ins/{id}', { params: { path: { id } } }),
  () => reload(),
  { repeats: true },
)
</script>

<template>
  <PageFrame :title="me?.name">
    <div class="two">
      <form class="card stack" @submit.prevent="change">
        <h2>Your password</h2>
        <!-- A password manager keeps the new one under this name. -->
        <input
          type="text"
          name="username"
          autocomplete="username"
          :value="me?.name"
          class="visually-hidden"
          tabindex="-1"
          aria-hidden="true"
        />
        <div class="field">
          <label for="own-now">The one you sign in with</label>
          <ElInput
            id="own-now"
            v-model="entry.now"
            type="password"
            autocomplete="current-password"
            required
          />
        </div>
        <div class="field">
          <label for="own-password">The new one, at least twelve characters</label>
          <ElInput
            id="own-password"
            v-model="entry.password"
            type="password"
            autocomplete="new-password"
            minlength="12"
            maxlength="200"
            required
          />
        </div>
        <p class="small soft">Wherever else you are signed in, that ends.</p>
        <ProblemNote :problem="problem" />
        <div class="row saves">
          <ElButton type="primary" native-type="submit" :aria-busy="busy">Change the password</ElButton>
          <span v-if="saved" role="status" class="soft">Changed.</span>
        </div>
      </form>
      <div class="stack">
        <section class="card stack" aria-labelledby="where-title">
          <h2 id="where-title">Where you are signed in</h2>
          <ProblemNote :problem="unread ?? held" />
          <ul>
            <li v-for="each in signIns" :key="each.id" class="between">
              <span>
                {{ each.device || 'An unnamed device' }}
                <span class="small soft">since {{ asDay(each.since) }}</span>
              </span>
              <span v-if="each.is_this" class="soft">this one</span>
              <ElButton v-else size="small" :aria-busy="ending" @click="end(each.id)">End it</ElButton>
            </li>
          </ul>
        </section>
        <SecondStep @changed="reload" />
      </div>
    </div>
  </PageFrame>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(22rem, 100%), 1fr));
  gap: 1.2rem;
  align-items: start;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
</style>
