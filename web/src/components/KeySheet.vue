<script setup lang="ts">
/** The sheet of keys: opened by `?` from anywhere. */
import { useEventListener } from '@vueuse/core'
import { ElDialog } from 'element-plus'
import { ref } from 'vue'
import { KEYS, isTyping } from '@/keys'

const open = ref(false)
useEventListener(document, 'keydown', (event) => {
  if (event.key !== '?' || event.defaultPrevented || event.ctrlKey || event.metaKey || isTyping(event)) return
  event.preventDefault()
  open.value = true
})
</script>

<template>
  <ElDialog v-model="open" title="Keys" width="min(640px, 94vw)" align-center>
    <div class="groups">
      <section v-for="group in KEYS" :key="group.name">
        <h3>{{ group.name }}</h3>
        <dl>
          <template v-for="each in group.keys" :key="each.key">
            <dt>
              <kbd>{{ each.key }}</kbd>
            </dt>
            <dd>{{ each.does }}</dd>
          </template>
        </dl>
      </section>
    </div>
  </ElDialog>
</template>

<style scoped>
.groups {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: 1rem 1.6rem;
}
dl {
  display: grid;
  grid-template-columns: 5.5rem 1fr;
  gap: 0.25rem 0.6rem;
  margin: 0.3rem 0 0;
}
dd {
  margin: 0;
}
</style>
