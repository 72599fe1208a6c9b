<script setup lang="ts">
/** A block goes back to a form: a garment is begun there from it, fitted in rounds of its own, without a client. */
import { ElButton } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import ChoiceField from '@/components/ChoiceField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useResource } from '@/composables/useResource'

const props = defineProps<{
  block: number
  /** What the block is called. */
  name: string
  /** Which of its sizes. */
  size: string
  /** The drape it was made from. */
  drape?: number | null | undefined
}>()

const router = useRouter()
const { data: forms } = useResource(get('/api/forms'))
const { data: drape } = useResource(() =>
  props.drape == null ? undefined : get('/api/drapes/{id}', { params: { path: { id: props.drape } } }),
)
const form = ref<number>()
// It goes back to where it comes from.
watch(
  [forms, drape],
  () => (form.value ??= drape.value?.form_id ?? (forms.value?.length === 1 ? forms.value[0]?.id : undefined)),
)
const garment = ref(props.name)
const choices = computed(() => forms.value?.map(({ id: value, name: label }) => ({ value, label })) ?? [])
const {
  run: begin,
  busy,
  problem,
} = useAction(
  () =>
    form.value === undefined
      ? undefined
      : post('/api/forms/{id}/garments', {
          params: { path: { id: form.value } },
          body: { garment: garment.value, block_id: props.block, size: props.size },
        }),
  (made) => router.push({ name: 'toile', params: { id: made.id } }),
)
</script>

<template>
  <form class="card stack" @submit.prevent="begin">
    <h2>Back to the form</h2>
    <p class="small soft">
      It is cut in cloth again and put on a form: what the pins say there is written down in rounds, as of any
      garment, and nobody has to be a client for it.
    </p>
    <ProblemNote :problem="problem" />
    <p v-if="forms && !forms.length" class="small">
      The house has no form yet: <RouterLink :to="{ name: 'forms' }">write one down</RouterLink> with its
      figures.
    </p>
    <div v-else class="row fields">
      <ChoiceField id="back-to-form" v-model="form" label="Form" :choices="choices" />
      <TextField id="back-as" v-model="garment" label="What it is called there" :most="120" />
      <ElButton native-type="submit" :aria-busy="busy" :disabled="form === undefined || !garment.trim()"
        >Put it on the form</ElButton
      >
    </div>
  </form>
</template>

<style scoped>
.fields {
  align-items: end;
  gap: 0.8rem 1.2rem;
}
.fields > * {
  min-width: min(16rem, 100%);
}
.fields > .el-button {
  min-width: 0;
}
</style>
