<script setup lang="ts">
/** The dress forms of the house. */
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import PageFrame from '@/components/PageFrame.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const router = useRouter()
const { unit } = useHouse()
const { data: forms, problem } = useResource(get('/api/forms'))
const name = ref('')
const columns = computed(
  () =>
    [
      ['bust_girth', `Bust, ${unit.value}`],
      ['waist_girth', 'Waist'],
      ['hip_girth', 'Hip'],
      ['nape_to_waist_back', 'Nape to waist'],
    ] as const,
)
/** A row a form: its name, and its figures by their codes. */
const rows = computed(() =>
  forms.value?.map(({ id, name, figures }) => ({
    id,
    name,
    ...Object.fromEntries(figures.map((figure) => [figure.code, figure.text])),
  })),
)

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
    <ElTable
      v-if="rows"
      :data="rows"
      empty-text="No form yet. Enter one with its own figures, once: then it can be padded for a client level by level."
    >
      <ElTableColumn prop="name" label="Form" min-width="140" sortable>
        <template #default="{ row }"
          ><RouterLink :to="{ name: 'form', params: { id: row.id } }">{{ row.name }}</RouterLink></template
        >
      </ElTableColumn>
      <ElTableColumn
        v-for="[code, label] in columns"
        :key="code"
        :prop="code"
        :label="label"
        align="right"
        min-width="90"
      />
    </ElTable>
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
