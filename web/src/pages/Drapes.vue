<script setup lang="ts">
/** From cloth and paper: toiles and paper patterns on their way to a block, and those that became one. */
import { ElButton } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import ChoiceField from '@/components/ChoiceField.vue'
import PageFrame from '@/components/PageFrame.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { asMoment } from '@/days'

const props = defineProps<{
  /** Begun for this client. */
  client?: number | undefined
  /** Begun on this form. */
  form?: number | undefined
  /** What lies on the table: begun as a toile. */
  material?: 'slashed' | undefined
}>()

const router = useRouter()
const { may } = useHouse()
const { data: drapes, problem } = useResource(get('/api/drapes'))
const { data: clients } = useResource(get('/api/clients'))
const { data: forms } = useResource(get('/api/forms'))

const entry = reactive({ name: '', material: (props.material ?? 'toile') as 'toile' | 'paper' | 'slashed' })
const LIKE = {
  toile: 'Bodice on the linen form',
  paper: 'Blouse from the drawer, size 14',
  slashed: 'Her back, first toile',
}
const client = ref(props.client)
const form = ref(props.form)
/** A pattern of the house, a client's body, or a form. */
const of = ref<'client' | 'form' | 'house'>(
  props.client !== undefined ? 'client' : props.form !== undefined ? 'form' : 'house',
)
/** A back is slashed on somebody, whose pattern it corrects. */
watch(
  () => entry.material,
  (material) => {
    if (material === 'slashed' && of.value === 'house') of.value = 'client'
  },
  { immediate: true },
)
const ofChoices = computed(() => OF.filter(({ value }) => value !== 'house' || entry.material !== 'slashed'))
const OF = [
  { value: 'form', label: 'A form of the house' },
  { value: 'client', label: 'A client, or a form padded for her' },
  { value: 'house', label: 'Nobody: a pattern of the house' },
] as const

const inHand = computed(() => drapes.value?.filter((drape) => drape.block_id == null) ?? [])
const kept = computed(() => drapes.value?.filter((drape) => drape.block_id != null) ?? [])

const {
  run: begin,
  busy,
  problem: refused,
} = useAction(
  () =>
    post('/api/drapes', {
      body: {
        ...entry,
        client: of.value === 'client' ? (client.value ?? null) : null,
        form: of.value === 'form' ? (form.value ?? null) : null,
      },
    }),
  (made) => router.push({ name: 'drape', params: { id: made.id } }),
)
</script>

<template>
  <PageFrame title="From cloth and paper" right="cutting" :problem="problem ?? refused" :reading="!drapes">
    <template #lead>
      <p class="soft">
        A toile that was draped and marked, or a paper pattern, becomes a block: click its marks in a
        photograph or type them, look at what is drawn, say yes to what was corrected. A back that was slashed
        on her sets the rounded back of her pattern. Every click is kept.
      </p>
    </template>
    <template #actions><RouterLink :to="{ name: 'blocks' }">Blocks</RouterLink></template>
    <template v-if="drapes">
      <form v-if="may('cutting')" class="card stack" @submit.prevent="begin">
        <h2>Begin</h2>
        <fieldset class="chips">
          <legend class="legend">What lies on the table</legend>
          <label class="chip"
            ><input v-model="entry.material" type="radio" name="material" value="toile" /><span
              >A toile that was draped</span
            ></label
          >
          <label class="chip"
            ><input v-model="entry.material" type="radio" name="material" value="paper" /><span
              >A paper pattern</span
            ></label
          >
          <label class="chip"
            ><input v-model="entry.material" type="radio" name="material" value="slashed" /><span
              >A back that was slashed on her</span
            ></label
          >
        </fieldset>
        <div class="grid">
          <TextField
            id="new-drape"
            v-model="entry.name"
            label="Name"
            :most="120"
            :placeholder="LIKE[entry.material]"
          />
          <ChoiceField id="drape-of" v-model="of" label="Whose body it is for" :choices="ofChoices" />
          <ChoiceField
            v-if="of === 'client'"
            id="drape-client"
            v-model="client"
            label="Client"
            :choices="clients?.items.map(({ id: value, name: label }) => ({ value, label })) ?? []"
          />
          <ChoiceField
            v-if="of === 'form'"
            id="drape-form"
            v-model="form"
            label="Form"
            :choices="forms?.map(({ id: value, name: label }) => ({ value, label })) ?? []"
          />
        </div>
        <div class="row">
          <ElButton
            type="primary"
            native-type="submit"
            :aria-busy="busy"
            :disabled="!entry.name.trim() || (of === 'client' && !client) || (of === 'form' && !form)"
            >Begin</ElButton
          >
        </div>
      </form>
      <section v-if="inHand.length" class="stack" aria-labelledby="in-hand">
        <h2 id="in-hand">In hand</h2>
        <ul class="rows">
          <li v-for="drape in inHand" :key="drape.id" class="card between">
            <RouterLink :to="{ name: 'drape', params: { id: drape.id } }" class="title">{{
              drape.name
            }}</RouterLink>
            <span class="small soft"
              ><template v-if="drape.slashed">a slashed back, </template
              ><template v-if="drape.client ?? drape.form">{{ drape.client ?? drape.form }}, </template
              >{{ drape.changed_by }}, {{ asMoment(drape.changed_at) }}</span
            >
          </li>
        </ul>
      </section>
      <section v-if="kept.length" class="stack" aria-labelledby="became-blocks">
        <h2 id="became-blocks">Became a block</h2>
        <ul class="rows">
          <li v-for="drape in kept" :key="drape.id" class="card between">
            <RouterLink :to="{ name: 'drape', params: { id: drape.id } }" class="title">{{
              drape.name
            }}</RouterLink>
            <RouterLink :to="{ name: 'block', params: { id: drape.block_id! } }" class="small"
              >its block</RouterLink
            >
          </li>
        </ul>
      </section>
    </template>
  </PageFrame>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(18rem, 100%), 1fr));
  gap: 0.6rem 1.4rem;
}
.rows {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
.title {
  font: 600 1.15rem var(--serif);
}
</style>
