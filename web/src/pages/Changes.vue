<script setup lang="ts">
/** Everything that was changed in the house, for its owner: by whom, of what kind, as a file. */
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { get } from '@/api/client'
import type { ChangedThing } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useResource } from '@/composables/useResource'
import { asMoment } from '@/days'

const person = ref<number>()
const of = ref<ChangedThing>()
/** Where each page that was looked at begins; the last is shown. */
const pages = ref<(number | undefined)[]>([undefined])
watch([person, of], () => (pages.value = [undefined]))

const query = computed(() => ({ person: person.value, of: of.value }))
const { data: changes, problem } = useResource(() =>
  get('/api/changes', { params: { query: { ...query.value, after: pages.value.at(-1) } } }),
)
const page = computed(() => changes.value?.page)
const { data: house } = useResource(get('/api/people'))
const people = computed(() => house.value?.people.map(({ id, name }) => ({ value: id, label: name })) ?? [])

const things = computed(
  () => changes.value?.things.map(({ thing, name }) => ({ value: thing, label: name })) ?? [],
)
const file = computed(() => {
  const asked = new URLSearchParams()
  if (person.value) asked.set('person', String(person.value))
  if (of.value) asked.set('of', of.value)
  return `/api/changes.csv?${asked}`
})
</script>

<template>
  <PageFrame title="Who changed what" :problem="problem" :reading="!page">
    <template #actions><a class="el-button" :href="file">As a file</a></template>
    <div class="row">
      <ChoiceField id="by" v-model="person" label="By" none="anybody" :choices="people" />
      <ChoiceField id="of" v-model="of" label="Of" none="everything" :choices="things" />
    </div>
    <ElTable v-if="page" :data="page.items" empty-text="Nothing was changed">
      <ElTableColumn label="When" width="170">
        <template #default="{ row }">{{ asMoment(row.at) }}</template>
      </ElTableColumn>
      <ElTableColumn label="Who" width="130">
        <template #default="{ row }">{{ row.person ?? 'by itself' }}</template>
      </ElTableColumn>
      <ElTableColumn label="What" min-width="240">
        <template #default="{ row }"
          ><span class="says">{{ row.says }}</span></template
        >
      </ElTableColumn>
      <ElTableColumn prop="client" label="Client" min-width="130" />
      <ElTableColumn prop="garment" label="Garment" min-width="130" />
    </ElTable>
    <div class="row">
      <ElButton v-if="pages.length > 1" @click="pages.pop()">Newer</ElButton>
      <ElButton v-if="page?.next" @click="pages.push(Number(page.next))">Older</ElButton>
    </div>
  </PageFrame>
</template>

<style scoped>
.says {
  display: inline-block;
}
.says::first-letter {
  text-transform: uppercase;
}
</style>
