<script setup lang="ts">
/** The dress forms of the house. */
import { ElButton } from 'element-plus'
import { ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import type { FormView } from '@/api/types'
import PageFrame from '@/components/PageFrame.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const router = useRouter()
const { unit } = useHouse()
const { data: forms, problem } = useResource(get('/api/forms'))
const name = ref('')
const text = (form: FormView, code: string) => form.figures.find((figure) => figure.code === code)?.text ?? ''

const {
  run: add,
  busy,
  problem: refused,
} = useAction(
  () => post('/api/forms', { body: { name: name.value, figures: [], levels: [] } }),
  (made) => router.push({ name: 'form', params: { id: made.id } }),
)
</script>

<template>
  <PageFrame right="cutting" title="Dress forms" :problem="problem ?? refused" :reading="!forms">
    <template #actions><RouterLink :to="{ name: 'level' }">Level lines and hems</RouterLink></template>
    <p v-if="forms && !forms.length" class="soft">
      No form yet. Enter one with its own figures, once: then it can be padded for a client level by level.
    </p>
    <table v-if="forms?.length">
      <thead>
        <tr>
          <th scope="col">Form</th>
          <th scope="col" class="num">Bust, {{ unit }}</th>
          <th scope="col" class="num">Waist</th>
          <th scope="col" class="num">Hip</th>
          <th scope="col" class="num">Nape to waist</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="form in forms" :key="form.id">
          <th scope="row">
            <RouterLink :to="{ name: 'form', params: { id: form.id } }">{{ form.name }}</RouterLink>
          </th>
          <td class="num">{{ text(form, 'bust_girth') }}</td>
          <td class="num">{{ text(form, 'waist_girth') }}</td>
          <td class="num">{{ text(form, 'hip_girth') }}</td>
          <td class="num">{{ text(form, 'nape_to_waist_back') }}</td>
        </tr>
      </tbody>
    </table>
    <form class="card row" @submit.prevent="add">
      <TextField
        id="form-name"
        v-model="name"
        label="Name of a new form"
        :most="120"
        placeholder="Linen form, size 12"
      />
      <ElButton type="primary" native-type="submit" :aria-busy="busy" :disabled="!name.trim()"
        >Add the form</ElButton
      >
    </form>
  </PageFrame>
</template>

<style scoped>
form {
  align-items: end;
}
.field {
  min-width: 16rem;
}
</style>
