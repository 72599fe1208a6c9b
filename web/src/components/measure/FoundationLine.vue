<script setup lang="ts">
/** What she wears under the tape: every reading of bust and waist is taken over it. Kept with the session. */
import { ElButton } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { put } from '@/api/client'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'

const props = defineProps<{
  session: number
  /** As it was said; empty where it was not. */
  worn: string
  /** The last time it was said. */
  before: string
  /** Signed: it stays as it is. */
  closed: boolean
}>()
const emit = defineEmits<{ said: [] }>()
const text = ref('')
const changing = ref(false)
watch(
  () => props.worn,
  (worn) => {
    text.value = worn
    changing.value = false
  },
  { immediate: true },
)
/** Another one than last time: what is read over it is not compared with what was read then. */
const isAnother = computed(
  () => props.worn !== '' && props.before !== '' && props.worn.trim() !== props.before.trim(),
)

const { run, busy, problem } = useAction(
  (said: string) =>
    put('/api/sessions/{id}/foundation', {
      params: { path: { id: props.session } },
      body: { foundation: said },
    }),
  () => emit('said'),
  { repeats: true },
)
</script>

<template>
  <div class="stack foundation">
    <p v-if="worn && !changing" class="row">
      <span
        >Under the tape: <strong>{{ worn }}</strong></span
      >
      <ElButton v-if="!closed" size="small" @click="changing = true">Change</ElButton>
    </p>
    <form v-else-if="!closed" class="stack" @submit.prevent="run(text.trim())">
      <label for="foundation">Under the tape she wears</label>
      <div class="row">
        <input
          id="foundation"
          v-model="text"
          class="plain"
          type="text"
          maxlength="120"
          autocomplete="off"
          :placeholder="before || 'her own bra, firm'"
        />
        <ElButton native-type="submit" :loading="busy">Keep</ElButton>
      </div>
      <ElButton v-if="before && !worn" size="small" class="again" @click="run(before)"
        >As last time: {{ before }}</ElButton
      >
    </form>
    <p v-if="isAnother" class="small decide" role="status">
      Last time it was {{ before }}: bust and waist are not compared with what was read over that.
    </p>
    <ProblemNote :problem="problem" />
  </div>
</template>

<style scoped>
.foundation {
  gap: 0.4rem;
}
.foundation input {
  flex: 1 1 8rem;
  min-width: 0;
}
.again {
  align-self: flex-start;
  max-width: 100%;
  white-space: normal;
  height: auto;
  padding-block: 0.3rem;
  text-align: left;
}
</style>
