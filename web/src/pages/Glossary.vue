<script setup lang="ts">
/** The words of the trade, each explained; the same that a marked word says. */
import { ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import PageFrame from '@/components/PageFrame.vue'
import { useHouse } from '@/composables/useHouse'

const { craft } = useHouse()
const search = ref('')
const terms = computed(() => {
  const looked = search.value.trim().toLowerCase()
  const all = [...(craft.value?.glossary ?? [])].sort((a, b) => a.name.localeCompare(b.name))
  return all.filter(({ name, says }) => `${name} ${says}`.toLowerCase().includes(looked))
})
</script>

<template>
  <PageFrame title="Words of the trade" :reading="!craft">
    <div class="field search">
      <label for="word">A word</label>
      <ElInput id="word" v-model="search" autocomplete="off" clearable />
    </div>
    <p v-if="craft && !terms.length" class="soft">No word like that is explained here.</p>
    <dl>
      <template v-for="term in terms" :key="term.code">
        <dt>{{ term.name }}</dt>
        <dd>{{ term.says }}</dd>
      </template>
    </dl>
  </PageFrame>
</template>

<style scoped>
.search {
  max-width: 22rem;
}
dl {
  display: grid;
  grid-template-columns: minmax(9rem, 14rem) minmax(0, 60ch);
  gap: 0.6rem 1.4rem;
  margin: 0;
}
dt {
  font: 600 1.1rem var(--serif);
}
dd {
  margin: 0;
}
@media (max-width: 700px) {
  dl {
    grid-template-columns: minmax(0, 1fr);
    gap: 0.1rem;
  }
  dd {
    margin-bottom: 0.8rem;
  }
}
</style>
