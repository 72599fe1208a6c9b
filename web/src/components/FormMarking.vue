<script setup lang="ts">
/** How a dress form is marked before anything is draped on it: its centre front by halving, its tape, and the bust's bridge. */
import type { MarkingEntry, MarkingView } from '@/api/types'
import { useHouse } from '@/composables/useHouse'

defineProps<{
  /** As it was saved last: the halves, and what is to be seen to. */
  saved: MarkingView
}>()
const marking = defineModel<MarkingEntry>({ required: true })
const { unit } = useHouse()

/** What was said of the bust; an answer can be taken back by the last choice. */
const BRIDGED = [
  { value: true, label: 'a taut tape' },
  { value: false, label: 'nothing' },
  { value: null, label: 'not said' },
] as const
const isAsSaved = (line: string, across: string, saved: MarkingView) =>
  saved.centre.find((mark) => mark.line === line && mark.across === across)
</script>

<template>
  <h2>Centre front</h2>
  <p class="small soft">
    At each line from side seam to side seam across the front; half of it is the centre. Then hang a plumb
    line from the neck: how far does each mark lie beside it, with a minus to the right.
  </p>
  <table>
    <thead>
      <tr>
        <th scope="col">At the line</th>
        <th scope="col">Seam to seam, {{ unit }}</th>
        <th scope="col" class="num">Half</th>
        <th scope="col">Beside the plumb line</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="mark in marking.centre" :key="mark.line">
        <th scope="row">{{ mark.line }}</th>
        <td>
          <input
            v-model="mark.across"
            class="plain figure"
            type="text"
            :aria-label="`From side seam to side seam at the ${mark.line} line`"
          />
        </td>
        <td class="num main">{{ isAsSaved(mark.line, mark.across, saved)?.half.text ?? '' }}</td>
        <td>
          <input
            v-model="mark.off"
            class="plain figure"
            type="text"
            :aria-label="`Beside the plumb line at the ${mark.line} line`"
          />
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="saved.check?.straight" class="small soft">On one plumb line.</p>
  <p v-else-if="saved.check" class="decide small">{{ saved.check.says }}</p>
  <div class="row">
    <div class="field">
      <label for="tape-width">Width of the tape, {{ unit }}</label>
      <input id="tape-width" v-model="marking.tape_width" class="plain figure" type="text" />
    </div>
    <fieldset class="chips">
      <legend class="legend">Across the bust points lies</legend>
      <label v-for="each in BRIDGED" :key="each.label" class="chip"
        ><input v-model="marking.bridged" type="radio" name="bridged" :value="each.value" /><span>{{
          each.label
        }}</span></label
      >
    </fieldset>
  </div>
  <p v-if="saved.not_bridged && marking.bridged === false" class="small">{{ saved.not_bridged }}</p>
</template>

<style scoped>
.main {
  font-weight: 700;
}
</style>
