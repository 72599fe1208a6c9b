<script setup lang="ts">
/** What she wishes of the garment: typed, drawn at once, and written down with the steps that make it. */
import { ElButton } from 'element-plus'
import { computed, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import type { Wish } from '@/api/types'
import FootBar from '@/components/FootBar.vue'
import LengthField from '@/components/LengthField.vue'
import PageFrame from '@/components/PageFrame.vue'
import PatternDrawing from '@/components/drawing/PatternDrawing.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useOrder } from '@/composables/useOrder'
import { useWishes } from '@/composables/useWishes'

const router = useRouter()
const { may } = useHouse()
const { data: order } = useOrder()
const { wished, drawn, problem, draw, valueOf, wish, write } = useWishes(() => order.value?.id)
watch(
  () => order.value?.pattern_id,
  (pattern) => pattern && void draw(),
  { immediate: true },
)

/** Why a wish cannot be made: on its block, or with what else is decided. */
function refusal({ name, refused }: Wish): string | undefined {
  const steps = drawn.value?.preview.steps.filter((step) => step.name === name)
  return refused ?? steps?.find((step) => step.state === 'refused')?.says ?? undefined
}
const made = computed(() => (drawn.value?.wishes ?? []).map((each) => ({ ...each, why: refusal(each) })))

/** What is wished and read by nothing here. */
const unmade = computed(() =>
  (drawn.value?.fields ?? []).filter((field) => field.unmade).map((field) => field.name.toLowerCase()),
)

const {
  run: writeDown,
  busy,
  problem: unwritten,
} = useAction(
  async () => {
    // A length that cannot be is mended before anything is written down.
    await draw()
    return order.value && !problem.value ? write(order.value.id) : undefined
  },
  async () => {
    await router.push({ name: 'alter', params: { id: order.value?.id } })
  },
  { repeats: true },
)
</script>

<template>
  <PageFrame
    right="cutting"
    title="What she wishes"
    width="bench"
    :problem="unwritten ?? problem"
    :reading="order && order.pattern_id !== null && !drawn && !problem"
  >
    <template #lead>
      <p class="soft small">
        Leave empty what she does not wish for this garment. What is already on the table stays.
      </p>
    </template>
    <p v-if="order && order.pattern_id === null">
      No pattern yet: it begins from a block on the
      <RouterLink :to="{ name: 'compare', params: { id: order.id } }">Compare</RouterLink> page.
    </p>
    <template v-else-if="drawn">
      <div class="bench">
        <section class="stack wishes" aria-labelledby="wishes-title">
          <h2 id="wishes-title" class="visually-hidden">Lengths and widths</h2>
          <div class="fields">
            <LengthField
              v-for="field in drawn.fields"
              :key="field.code"
              :label="field.name"
              :model-value="valueOf(field.code)"
              :least="field.low"
              :most="field.high"
              optional
              live
              @update:model-value="wish(field.code, $event)"
            />
          </div>
          <h2>What that makes</h2>
          <p v-if="!made.length" class="soft">Nothing is wished yet.</p>
          <p v-if="unmade.length" class="small soft">
            Of {{ unmade.join(' and ') }} nothing is made: this block is as it is wished, or a reading that it
            goes by is missing.
          </p>
          <ul>
            <li v-for="each in made" :key="each.alteration">
              <b>{{ each.name }}</b>
              <p class="small">{{ each.says }}</p>
              <p v-if="each.why" class="small decide">{{ each.why }}</p>
            </li>
          </ul>
        </section>
        <section class="stack drawing" aria-label="Drawing">
          <PatternDrawing :pieces="drawn.preview.now" :before="drawn.before" :moved="[]" />
          <p class="small soft">
            <span class="stroke before" /> as it is on the table <span class="stroke now" /> as she wishes it.
          </p>
        </section>
      </div>
      <FootBar v-if="may('cutting')">
        <ElButton type="primary" :aria-busy="busy" @click="writeDown">
          Write down, and to the cutting table
        </ElButton>
        <p v-if="Object.keys(wished).length" class="small soft">
          The lengths typed here go on her card, and the steps into the recipe.
        </p>
      </FootBar>
    </template>
  </PageFrame>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: 18rem minmax(0, 1fr);
  gap: 1.1rem;
  align-items: start;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(8.5rem, 1fr));
  gap: 0.4rem 0.8rem;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
@media (min-width: 801px) {
  .drawing {
    position: sticky;
    top: 0.8rem;
  }
  /* The whole drawing stays in sight above the foot of the window while one types. */
  .drawing :deep(svg) {
    max-height: max(18rem, calc(100dvh - 24rem));
  }
}
@media (max-width: 800px) {
  .bench {
    grid-template-columns: minmax(0, 1fr);
  }
  .drawing {
    order: -1;
  }
}
</style>
