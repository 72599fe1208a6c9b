<script setup lang="ts">
/** A card: a bought or old block measured by hand into the table. Enough to compare, to plan and for a worksheet. */
import { ElButton, ElInput } from 'element-plus'
import { reactive } from 'vue'
import { useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import PageFrame from '@/components/PageFrame.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const router = useRouter()
const { units } = useHouse()
const { data: fields, problem: unread } = useResource(get('/api/cards'))
const entry = reactive({ name: '', why: '', size: '', bust: '', upper_bust: '' })
const figures = reactive<Record<string, string>>({})

const {
  run: keep,
  busy,
  problem,
} = useAction(
  () => post('/api/cards', { body: { ...entry, figures } }),
  (made) => router.push({ name: 'block', params: { id: made.id } }),
)
const fault = (pointer: string) => (problem.value?.pointer === pointer ? problem.value.detail : undefined)
</script>

<template>
  <PageFrame right="cutting" title="Measure a card" :problem="problem ?? unread">
    <template #lead>
      <p class="soft">
        For a block that exists only on paper: measure net lines, darts closed, and write down what you find,
        in
        {{ units }}. Girths are all round, everything else as it lies. What is left empty is not compared.
      </p>
    </template>
    <form class="stack" @submit.prevent="keep">
      <div class="card grid">
        <TextField id="card-name" v-model="entry.name" label="Name of the card" :most="120" />
        <TextField id="card-size" v-model="entry.size" label="Size" :most="40" />
        <TextField
          id="card-why"
          v-model="entry.why"
          label="Where it comes from, and why it is kept"
          :most="400"
        />
        <div class="field">
          <label for="card-bust">Bust it is meant for, where it says so</label>
          <ElInput id="card-bust" v-model="entry.bust" />
          <span v-if="fault('/bust')" role="alert" class="small decide">{{ fault('/bust') }}</span>
        </div>
        <div class="field">
          <label for="card-upper">Upper bust it is meant for</label>
          <ElInput id="card-upper" v-model="entry.upper_bust" />
          <span v-if="fault('/upper_bust')" role="alert" class="small decide">{{
            fault('/upper_bust')
          }}</span>
        </div>
      </div>
      <fieldset class="card grid">
        <legend class="legend">Measured on the block, in {{ units }}</legend>
        <div v-for="field in fields" :key="field.figure" class="line">
          <label :for="`figure-${field.figure}`">{{ field.name }}{{ field.needed ? ', needed' : '' }}</label>
          <input
            :id="`figure-${field.figure}`"
            v-model="figures[field.figure]"
            class="plain figure"
            type="text"
            autocomplete="off"
            :aria-invalid="fault(`/figures/${field.figure}`) !== undefined"
          />
          <span v-if="fault(`/figures/${field.figure}`)" role="alert" class="small decide">{{
            fault(`/figures/${field.figure}`)
          }}</span>
        </div>
      </fieldset>
      <div class="saves">
        <ElButton type="primary" native-type="submit" :aria-busy="busy">Keep the card</ElButton>
      </div>
    </form>
  </PageFrame>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(19rem, 100%), 1fr));
  gap: 0.5rem 1.4rem;
  margin: 0;
}
.line {
  display: grid;
  grid-template-columns: 1fr 7rem;
  gap: 0.1rem 0.6rem;
  align-items: center;
}
.line .decide {
  grid-column: 1 / -1;
}
</style>
