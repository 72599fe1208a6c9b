<script setup lang="ts">
/** Who changed what of one client or one garment, the newest first: beside the page, while it is asked. */
import { ElButton, ElDrawer } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { get } from '@/api/client'
import ProblemNote from '@/components/ProblemNote.vue'
import { useMedia } from '@/composables/useMedia'
import { useResource } from '@/composables/useResource'
import { asMoment } from '@/days'

const props = defineProps<{
  /** Whose changes, or of which garment. */
  of: { client: number } | { garment: number }
}>()
const open = defineModel<boolean>('open', { required: true })
const narrow = useMedia('(max-width: 700px)')

/** The pages before the one that is shown. */
const after = ref<number>()
watch(open, () => (after.value = undefined))
const { data: page, problem } = useResource(() => {
  if (!open.value) return undefined
  const query = { after: after.value }
  return 'client' in props.of
    ? get('/api/clients/{id}/changes', { params: { path: { id: props.of.client }, query } })
    : get('/api/orders/{id}/changes', { params: { path: { id: props.of.garment }, query } })
})
const ofGarment = computed(() => 'garment' in props.of)
</script>

<template>
  <ElDrawer v-model="open" title="Who changed this" :size="narrow ? '100%' : '430px'">
    <ProblemNote :problem="problem" />
    <p v-if="page && !page.items.length" class="soft">Nothing was changed yet.</p>
    <ol v-if="page" class="changes">
      <li v-for="each in page.items" :key="each.id">
        <p class="small soft">{{ asMoment(each.at) }}, {{ each.person ?? 'by itself' }}</p>
        <p class="says">
          {{ each.says }}<span v-if="!ofGarment && each.garment" class="soft"> ({{ each.garment }})</span>
        </p>
      </li>
    </ol>
    <ElButton v-if="page?.next" size="small" @click="after = Number(page.next)">Older</ElButton>
    <ElButton v-if="after" size="small" @click="after = undefined">Newest</ElButton>
  </ElDrawer>
</template>

<style scoped>
.changes {
  list-style: none;
  margin: 0 0 1rem;
  padding: 0;
  display: grid;
  gap: 0.6rem;
}
.says::first-letter {
  text-transform: uppercase;
}
</style>
