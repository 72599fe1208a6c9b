<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get } from '@/api/client'
import BackToForm from '@/components/draft/BackToForm.vue'
import BlockOnPaper from '@/components/draft/BlockOnPaper.vue'
import TracePanel from '@/components/draft/TracePanel.vue'
import BlockSheet from '@/components/drawing/BlockSheet.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const { may } = useHouse()
const props = defineProps<{ id: number }>()
const router = useRouter()
const { data: detail, problem } = useResource(() =>
  get('/api/blocks/{id}', { params: { path: { id: props.id } } }),
)
const chosen = ref<string>()
const tracing = ref(false)
const size = computed(() => {
  const sizes = detail.value?.sizes ?? []
  return sizes.find((each) => each.label === chosen.value) ?? sizes[Math.floor((sizes.length - 1) / 2)]
})
/** A nest of at least two drawn sizes can be traced between them. */
const nest = computed(() => (detail.value?.sizes.filter((each) => each.drawn.pieces.length) ?? []).length > 1)
</script>

<template>
  <PageFrame :title="detail?.block.name" width="wide" :problem="problem" :reading="!detail">
    <template v-if="detail" #lead>
      <p class="soft">
        {{ detail.block.why }} {{ detail.told }}
        <template v-if="detail.method">{{ detail.method }}, ease: {{ detail.ease }}. </template>
        <template v-if="detail.parent">
          From
          <RouterLink :to="{ name: 'block', params: { id: detail.parent.id } }"
            >{{ detail.parent.name }}, version {{ detail.parent.version }}</RouterLink
          >.
        </template>
        <template v-if="detail.drape">
          <RouterLink :to="{ name: 'drape', params: { id: detail.drape }, query: { at: 'drawn' } }"
            >Its marks and answers</RouterLink
          >.
        </template>
        Version {{ detail.block.version }}, {{ detail.block.made_by }}, {{ asDay(detail.block.made_at) }}.
        {{ detail.block.used ? 'In use: read-only.' : '' }}
      </p>
    </template>
    <template v-if="detail" #actions>
      <RouterLink v-if="detail.block.how !== 'card'" :to="{ name: 'block-beside', params: { id } }"
        >Lay it over another</RouterLink
      >
      <ElButton
        v-if="nest && may('cutting')"
        type="primary"
        :aria-expanded="tracing"
        @click="tracing = !tracing"
        >Trace a figure</ElButton
      >
      <ElButton
        v-if="detail.block.how === 'drafted' && !detail.block.client_id && may('cutting')"
        @click="router.push({ name: 'draft', query: { name: detail.block.name } })"
        >Draft a new version</ElButton
      >
    </template>
    <template v-if="detail && size">
      <p v-if="detail.constants.length" class="small">
        Set otherwise than the trade has it:
        {{ detail.constants.map((row) => `${row.name} ${row.value} (usually ${row.usual})`).join('; ') }}.
      </p>
      <TracePanel v-if="tracing" :block-id="detail.block.id" :garment="detail.block.garment" />
      <template v-else>
        <fieldset v-if="detail.sizes.length > 1" class="chips">
          <legend class="legend">Size</legend>
          <label v-for="each in detail.sizes" :key="each.label" class="chip">
            <input
              type="radio"
              name="size"
              :value="each.label"
              :checked="each.label === size.label"
              @change="chosen = each.label"
            />
            <span>{{ each.label }}</span>
          </label>
        </fieldset>
        <p v-if="size.made_for.length" class="soft small figure">
          {{ detail.block.how === 'card' ? 'Made' : 'Drafted' }} for: {{ size.made_for.join(', ') }}.
        </p>
        <BlockSheet :drawn="size.drawn" />
        <BlockOnPaper v-if="size.drawn.pieces.length" :block="detail.block.id" :size="size.label" />
        <BackToForm
          v-if="size.drawn.pieces.length && may('cutting')"
          :key="detail.block.id"
          :block="detail.block.id"
          :name="detail.block.name"
          :size="size.label"
          :drape="detail.drape"
        />
      </template>
    </template>
  </PageFrame>
</template>

<style scoped>
.wide {
  max-width: 1400px;
}
.chips {
  align-items: center;
}
</style>
