<script setup lang="ts">
/** The "before you cut" list: the rules, each with its figures; a rule that fails is shown on the drawing. */
import { computed, ref } from 'vue'
import type { Check } from '@/api/types'

const props = defineProps<{ checks: readonly Check[] }>()
const emit = defineEmits<{ show: [code: string | undefined] }>()

const picked = ref<string>()
/** Checks under their rules, in the order of the rules. */
const rules = computed(() => {
  const numbers = [...new Set(props.checks.map((check) => check.rule))].sort((a, b) => a - b)
  return numbers.map((number) => {
    const checks = props.checks.filter((check) => check.rule === number)
    return { number, name: checks[0]?.heading ?? '', checks, passed: checks.every((check) => check.passed) }
  })
})
const failed = computed(() => rules.value.filter((rule) => !rule.passed).length)

const verdict = computed(() => {
  if (!failed.value) return `All ${rules.value.length} rules hold`
  return `${failed.value === 1 ? 'One rule does' : `${failed.value} rules do`} not hold`
})

function pick(code: string): void {
  picked.value = picked.value === code ? undefined : code
  emit('show', picked.value)
}
</script>

<template>
  <section aria-labelledby="cut-list" class="stack">
    <h2 id="cut-list">Before you cut</h2>
    <details :open="failed > 0">
      <summary :class="{ decide: failed }">{{ verdict }}</summary>
      <ol>
        <li v-for="rule in rules" :key="rule.number" :class="{ failed: !rule.passed }">
          <details :open="!rule.passed">
            <summary>
              <strong>{{ rule.passed ? 'Pass' : 'Fail' }}</strong> {{ rule.name }}
            </summary>
            <div v-for="check in rule.checks" :key="check.code" class="check">
              <p class="small">{{ check.name }}: {{ check.says }}.</p>
              <button
                v-if="!check.passed"
                type="button"
                :aria-pressed="picked === check.code"
                @click="pick(check.code)"
              >
                {{ picked === check.code ? 'Show every fault' : 'Show only this' }}
              </button>
            </div>
          </details>
        </li>
      </ol>
    </details>
  </section>
</template>

<style scoped>
ol {
  margin: 0;
  padding-left: 1.4rem;
  display: grid;
  gap: 0.15rem;
}
summary {
  cursor: pointer;
}
summary strong {
  display: inline-block;
  width: 2.6rem;
}
.failed strong {
  color: var(--madder);
}
.check {
  padding: 0.2rem 0 0.3rem 2.6rem;
  line-height: 1.3;
}
button {
  font: inherit;
  font-size: 0.88rem;
  min-height: 2rem;
  color: var(--ink);
  background: var(--raised);
  border: 1px solid var(--rule);
  border-radius: var(--radius);
  cursor: pointer;
}
</style>
