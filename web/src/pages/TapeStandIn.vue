<script setup lang="ts">
/**
 * A stand-in for a digital tape: speaks to the server exactly as a real one would, five times a second, with a
 * trembling hand, a hold button and a connection that can be dropped.
 */
import { ElButton } from 'element-plus'
import { computed, onScopeDispose, ref } from 'vue'
import { useRoute } from 'vue-router'
import { post, send } from '@/api/client'
import ChoiceField from '@/components/ChoiceField.vue'
import PageFrame from '@/components/PageFrame.vue'

const route = useRoute()
const token = computed(() => String(route.query['token'] ?? ''))
const unit = ref<'inch' | 'cm'>('inch')
const millimetres = ref(900)
const jitter = ref(2)
const connected = ref(true)
const says = ref('')
const trouble = ref('')
/** Words a second. */
const RATE = 5

function reading(): string {
  const mm = Math.max(0, millimetres.value + (Math.random() * 2 - 1) * jitter.value)
  // A tape's own display: eighths as a decimal, or millimetres.
  return unit.value === 'inch' ? (Math.round((mm / 25.4) * 8) / 8).toFixed(3) : (mm / 10).toFixed(1)
}

async function speak(held: boolean): Promise<void> {
  const text = reading()
  says.value = text
  if (!connected.value) return
  const word = post('/api/tape', { body: { text, unit: unit.value, held } })
  const heard = await send(word, { bearer: token.value, tries: 1 })
  if (heard.ok) trouble.value = ''
  else if (heard.problem.status === 0)
    trouble.value = 'The server cannot be reached: the tape goes on trying.'
  else trouble.value = heard.problem.detail
}

const timer = setInterval(() => void speak(false), 1000 / RATE)
onScopeDispose(() => clearInterval(timer))
</script>

<template>
  <PageFrame title="Stand-in tape">
    <template #lead>
      <p class="soft">
        A digital tape that is not there. Set the length as if you pulled it, then hold: the length goes into
        the field of the session it is paired with.
      </p>
    </template>
    <p class="says figure" aria-live="off">{{ says }} {{ unit === 'inch' ? 'in' : 'cm' }}</p>
    <div class="field">
      <label for="length">Length pulled</label>
      <input id="length" v-model.number="millimetres" type="range" min="0" max="2000" step="1" />
    </div>
    <div class="row">
      <ElButton type="primary" size="large" @click="speak(true)">Hold</ElButton>
      <ElButton :aria-pressed="!connected" @click="connected = !connected">
        {{ connected ? 'Drop the connection' : 'Connect again' }}
      </ElButton>
    </div>
    <div class="row">
      <ChoiceField
        id="unit"
        v-model="unit"
        label="Unit"
        :choices="[
          { value: 'inch', label: 'inches' },
          { value: 'cm', label: 'centimetres' },
        ]"
      />
      <ChoiceField
        id="jitter"
        v-model="jitter"
        label="Trembling, mm"
        :choices="[0, 2, 6].map((value) => ({ value, label: String(value) }))"
      />
    </div>
    <p v-if="trouble" class="decide" role="alert">{{ trouble }}</p>
    <p v-if="!connected" class="soft" role="status">Not connected: nothing is sent.</p>
  </PageFrame>
</template>

<style scoped>
.says {
  font: 700 3.4rem var(--sans);
}
input[type='range'] {
  accent-color: var(--ink);
  min-height: 2.7rem;
}
.page {
  max-width: 34rem;
}
</style>
