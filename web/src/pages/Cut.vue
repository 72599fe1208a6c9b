<script setup lang="ts">
import { ElButton } from 'element-plus'
import { watch } from 'vue'
import { RouterLink } from 'vue-router'
import { put } from '@/api/client'
import FootBar from '@/components/FootBar.vue'
import LastingPanel from '@/components/fit/LastingPanel.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { asDay } from '@/days'

const { may } = useHouse()
const { data: order, reload } = useOrder()

const { run: finish, problem: refused } = useAction(
  (finished: boolean) =>
    order.value &&
    put('/api/orders/{id}/finished', {
      params: { path: { id: order.value.id } },
      body: { revision: order.value.revision, finished },
    }),
  reload,
)
watch(refused, () => void reload())
</script>

<template>
  <PageFrame v-if="order" right="dates" title="Cut and hand over" width="bench" :problem="refused">
    <section class="card stack">
      <p v-if="order.finished_at">Handed over on {{ asDay(order.finished_at) }}.</p>
      <template v-else>
        <p v-if="order.standing.stage === 'cut'">
          Nothing is left to pin. Print version {{ order.version }} and cut the cloth.
        </p>
        <p v-else><span class="decide">Not yet:</span> {{ order.standing.waits_for }}</p>
      </template>
      <p v-if="order.version">
        <RouterLink :to="{ name: 'toile', params: { id: order.id } }">Print the pattern</RouterLink>
        ·
        <RouterLink :to="{ name: 'story', params: { id: order.id } }">Read its story</RouterLink>
      </p>
    </section>
    <LastingPanel v-if="order.version" :order="order.id" />
    <FootBar>
      <ElButton v-if="order.finished_at && may('dates')" @click="finish(false)">Take it up again</ElButton>
      <ElButton v-else-if="may('dates')" type="primary" :disabled="order.version === 0" @click="finish(true)"
        >Hand it over</ElButton
      >
    </FootBar>
  </PageFrame>
</template>
