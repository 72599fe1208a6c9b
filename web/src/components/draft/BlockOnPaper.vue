<script setup lang="ts">
/** A block on paper: the card to trace round, or a pattern to cut by, with what is added at each edge and how its darts are marked. */
import { ElButton } from 'element-plus'
import { reactive, ref } from 'vue'
import type { Allowances, BackOff } from '@/api/types'
import AllowanceFields from '@/components/AllowanceFields.vue'
import LengthField from '@/components/LengthField.vue'
import PaperChoice from '@/components/PaperChoice.vue'
import type { Paper } from '@/components/PaperChoice.vue'
import { useHouse } from '@/composables/useHouse'
import { fieldsRead } from '@/composables/usePendingFields'

const props = defineProps<{
  block: number
  /** The size that is looked at. */
  size: string
}>()
const { craft } = useHouse()
const paper = ref<Paper>('a4')
/** In millimetres; what the house usually adds until it is changed here. */
const allowance = ref<Partial<Allowances>>({ ...craft.value?.allowances })
const POINTS = [
  ['front', "Front darts' points backed off by"],
  ['back', "Back darts' points by"],
  ['shoulder', "Back shoulder dart's point by"],
] as const
/** In millimetres; as the house has it until it is changed here. */
const points = reactive<Partial<BackOff>>({ ...craft.value?.back_off })
const folded = ref<'centre' | 'side'>('centre')
const across = ref<'down' | 'up'>('down')

const card = () =>
  `/api/blocks/${props.block}/card.pdf?${new URLSearchParams({ size: props.size, paper: paper.value })}`
/** The sheet as the fields say: a length typed a moment ago is read first. */
async function take(): Promise<void> {
  if (!(await fieldsRead())) return
  const ask = new URLSearchParams({
    size: props.size,
    paper: paper.value,
    folded: folded.value,
    folded_across: across.value,
  })
  for (const [edge, mm] of Object.entries(allowance.value)) ask.set(edge, String(mm))
  for (const [dart, mm] of Object.entries(points)) ask.set(`${dart}_point`, String(mm))
  location.assign(`/api/blocks/${props.block}/cutting.pdf?${ask}`)
}
</script>

<template>
  <section class="card stack" aria-labelledby="on-paper-title">
    <div class="between">
      <h2 id="on-paper-title">On paper</h2>
      <PaperChoice v-model="paper" />
    </div>
    <p>
      <a :href="card()" download>Card to trace round (PDF)</a>
      <span class="soft">: net, with holes at pivots and points, the grain both ways</span>
    </p>
    <details>
      <summary>A pattern to cut by</summary>
      <form class="stack" @submit.prevent="take">
        <AllowanceFields v-model="allowance">
          <LengthField
            v-for="[code, name] in POINTS"
            :key="code"
            :label="name"
            :model-value="points[code] ?? 0"
            :least="0"
            :most="60"
            exactly
            @update:model-value="points[code] = $event ?? 0"
          />
        </AllowanceFields>
        <div class="row">
          <fieldset class="chips">
            <legend class="legend">Waist and shoulder darts are folded</legend>
            <label class="chip"
              ><input v-model="folded" type="radio" name="folded" value="centre" /><span
                >towards the centre</span
              ></label
            >
            <label class="chip"
              ><input v-model="folded" type="radio" name="folded" value="side" /><span
                >towards the side</span
              ></label
            >
          </fieldset>
          <fieldset class="chips">
            <legend class="legend">Side darts</legend>
            <label class="chip"
              ><input v-model="across" type="radio" name="folded-across" value="down" /><span
                >downwards</span
              ></label
            >
            <label class="chip"
              ><input v-model="across" type="radio" name="folded-across" value="up" /><span
                >upwards</span
              ></label
            >
          </fieldset>
        </div>
        <p class="small soft">Nothing is added on the fold. The cap of each dart is cut as it is folded.</p>
        <div><ElButton native-type="submit">Pattern to cut by (PDF)</ElButton></div>
      </form>
    </details>
  </section>
</template>

<style scoped>
form {
  padding-top: 0.8rem;
}
summary {
  cursor: pointer;
}
</style>
