<script setup lang="ts">
/** What the book has of this reading: its takes, what was corrected, why it is left out, the last time. */
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import type { EntryView, SessionRowView } from '@/api/types'
import { useHouse } from '@/composables/useHouse'
import CorrectReading from './CorrectReading.vue'

const props = defineProps<{
  row: SessionRowView
  entry?: EntryView
  previous?: SessionRowView['previous'][number]
  closed: boolean
}>()
defineEmits<{ corrected: [] }>()
const { may } = useHouse()
const correcting = ref<{ id: number; name: string; typed: string }>()
const last = computed(() => props.entry?.takes.at(-1))
</script>

<template>
  <p v-if="entry" class="small soft">
    Saved: {{ entry.takes.map((take) => take.typed).join(' · ')
    }}<template v-if="entry.takes.length > 1">, the middle counts: {{ entry.figure.text }}</template
    ><template v-if="last?.ease">, less {{ last?.ease?.text }} of ease: {{ entry.figure.text }}</template
    ><template v-if="entry.stands">, stands ({{ entry.stands }})</template>, by {{ last?.taken_by }}.
    <template v-if="!closed">A new reading keeps this one in the book.</template>
    <template v-if="entry.corrected.length">
      Corrected: {{ entry.corrected.map((take) => take.typed).join(', ')
      }}{{ last?.corrected_why ? ` (${last.corrected_why})` : '' }}.</template
    >
    <template v-if="last?.note"> Note: {{ last?.note }}.</template>
  </p>
  <p v-if="entry && closed && may('readings')" class="row">
    <ElButton
      v-for="take in entry.takes"
      :key="take.id"
      size="small"
      @click="correcting = { id: take.id, name: row.measurement.name, typed: take.typed }"
      >Correct {{ take.typed }}</ElButton
    >
  </p>
  <CorrectReading :reading="correcting" @close="correcting = undefined" @corrected="$emit('corrected')" />
  <p v-if="row.skipped != null" class="small soft">Left out{{ row.skipped ? `: ${row.skipped}` : '' }}.</p>
  <p v-if="previous" class="small soft">
    Last time {{ previous.length.text }}{{ previous.side === 'both' ? '' : ` (${previous.side})` }},
    {{ previous.days_ago === 0 ? 'today' : `${previous.days_ago} days ago`
    }}<template v-for="said in previous.method" :key="said">; {{ said }}</template
    >.
  </p>
</template>
