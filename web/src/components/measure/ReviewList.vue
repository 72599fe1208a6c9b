<script setup lang="ts">
/** Before a session is closed: everything doubtful first, then what is missing, then the rest. */
import { ElButton, ElInput } from 'element-plus'
import { computed, onMounted, ref } from 'vue'
import type { EntryView, SessionRowView } from '@/api/types'
import FootBar from '@/components/FootBar.vue'
import TextField from '@/components/TextField.vue'
import FindingLine from './FindingLine.vue'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{ rows: readonly SessionRowView[]; waiting: number }>()
defineEmits<{
  go: [index: number]
  stands: [row: SessionRowView, entry: EntryView, initials: string]
  back: []
  sign: [name: string]
}>()
const { me, ofSide } = useHouse()
const signed = ref(me.value?.name ?? '')
const initials = ref(
  (me.value?.name ?? '')
    .split(/\s+/)
    .map((word) => word[0] ?? '')
    .join(''),
)

interface Line {
  index: number
  row: SessionRowView
  entry: EntryView
}
const lines = computed<Line[]>(() =>
  props.rows.flatMap((row, index) => row.entries.map((entry) => ({ index, row, entry }))),
)
const isDoubtful = ({ entry }: Line) =>
  !entry.stands && entry.findings.some((finding) => finding.grade !== 'note')
const doubtful = computed(() => lines.value.filter(isDoubtful))
const sound = computed(() => lines.value.filter((line) => !isDoubtful(line)))
const missing = computed(() =>
  props.rows.map((row, index) => ({ row, index })).filter(({ row }) => !row.entries.length),
)
/** The focus stands where the next thing is typed. */
onMounted(() => document.getElementById(doubtful.value.length ? 'review-initials' : 'signed')?.focus())
</script>

<template>
  <section class="stack" aria-labelledby="page-title">
    <div class="between">
      <h1 id="page-title">Before it is signed</h1>
      <ElButton @click="$emit('back')">Back to measuring</ElButton>
    </div>
    <p v-if="doubtful.length" class="decide">
      {{ doubtful.length === 1 ? 'One reading is doubtful.' : `${doubtful.length} readings are doubtful.` }}
    </p>
    <p v-else>No reading is in doubt.</p>
    <div v-if="doubtful.length" class="card stack">
      <div class="field initials">
        <label for="review-initials">Your initials, for what was measured again and stands</label>
        <ElInput id="review-initials" v-model="initials" maxlength="12" />
      </div>
      <div v-for="line in doubtful" :key="`${line.row.measurement.code}${line.entry.side}`" class="doubtful">
        <div class="between">
          <strong>{{ line.row.measurement.name }}{{ ofSide(line.entry.side) }}</strong>
          <span class="big figure">{{ line.entry.figure.text }}</span>
        </div>
        <FindingLine
          v-for="(finding, index) in line.entry.findings.filter((f) => f.grade !== 'note')"
          :key="index"
          :finding="finding"
          quiet
        />
        <div class="row">
          <ElButton @click="$emit('go', line.index)">Measure it again</ElButton>
          <ElButton :disabled="!initials.trim()" @click="$emit('stands', line.row, line.entry, initials)"
            >It stands</ElButton
          >
        </div>
      </div>
    </div>
    <div v-if="missing.length" class="card">
      <h2>Not taken</h2>
      <ul>
        <li v-for="each in missing" :key="each.row.measurement.code">
          <button type="button" class="link" @click="$emit('go', each.index)">
            {{ each.row.measurement.name }}
          </button>
          <span class="soft">{{
            each.row.skipped != null ? ` left out${each.row.skipped ? `: ${each.row.skipped}` : ''}` : ''
          }}</span>
        </li>
      </ul>
    </div>
    <table v-if="sound.length">
      <thead>
        <tr>
          <th scope="col">Reading</th>
          <th scope="col" class="num">Figure</th>
          <th scope="col">As taken</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in sound" :key="`${line.row.measurement.code}${line.entry.side}`">
          <th scope="row">{{ line.row.measurement.name }}{{ ofSide(line.entry.side) }}</th>
          <td class="num">{{ line.entry.figure.text }}</td>
          <td class="soft small">
            {{ line.entry.takes.map((take) => take.typed).join(' · ')
            }}<template v-if="line.entry.stands">; stands ({{ line.entry.stands }})</template
            ><template v-for="said in line.entry.takes.at(-1)?.method ?? []" :key="said"
              >; {{ said }}</template
            >
          </td>
        </tr>
      </tbody>
    </table>
    <form class="through" @submit.prevent="$emit('sign', signed)">
      <FootBar>
        <TextField id="signed" v-model="signed" label="Signed by" :most="120" />
        <ElButton type="primary" native-type="submit" :disabled="!signed.trim() || waiting > 0"
          >Sign and close</ElButton
        >
        <span v-if="waiting" class="decide">{{ waiting }} not sent yet: wait for the line.</span>
        <span v-else class="soft small">After that nothing in it changes; a new session measures again.</span>
      </FootBar>
    </form>
  </section>
</template>

<style scoped>
.doubtful {
  display: grid;
  gap: 0.4rem;
  padding-top: 0.6rem;
  border-top: 1px solid var(--rule);
}
.big {
  font-size: 1.5rem;
  font-weight: 700;
}
.initials {
  max-width: 24rem;
}
.sign {
  align-items: end;
}
.sign .field {
  min-width: 16rem;
}
ul {
  columns: 16rem;
}
.link {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0.2rem 0;
  min-height: 24px;
  text-decoration: underline;
  cursor: pointer;
}
th {
  font-weight: 400;
  font-size: 1rem;
  color: var(--ink);
}
</style>
