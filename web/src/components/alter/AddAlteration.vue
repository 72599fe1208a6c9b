<script setup lang="ts">
/** Finding an alteration: from the plan, by its name or what it is for, or at the place that was pointed at. */
import { ElButton } from 'element-plus'
import { computed, nextTick, ref, useId, useTemplateRef, watch } from 'vue'
import type { AlterationView, Garment, PlanLine, Wish } from '@/api/types'

const props = defineProps<{
  alterations: readonly AlterationView[]
  /** Codes that are built for the pattern as it is now. */
  fits: readonly string[]
  /** What the pattern is of: of another garment nothing is told. */
  garment: Garment
  /** Lines of the plan that are not in the recipe yet. */
  planned: readonly PlanLine[]
  /** What she wishes of the garment and the recipe has not yet. */
  wished: readonly Wish[]
  /** A seam that was pointed at, with its name. */
  place?: { seam: string; name: string }
}>()
const emit = defineEmits<{
  add: [code: string]
  plan: [line: PlanLine]
  wish: [wish: Wish]
  /** The place that was pointed at does not count any more. */
  anywhere: []
}>()

const id = useId()
const open = ref(false)
const sought = ref('')
const field = useTemplateRef<HTMLInputElement>('field')

const found = computed(() => {
  const words = sought.value.toLowerCase().split(/\s+/).filter(Boolean)
  return props.alterations.filter((each) => {
    const said = `${each.name} ${each.why}`.toLowerCase()
    const here = !props.place || each.seams.some((seam) => seam === props.place?.seam)
    return here && each.garments.includes(props.garment) && words.every((word) => said.includes(word))
  })
})
const fitting = computed(() => found.value.filter((each) => props.fits.includes(each.code)))
const others = computed(() => found.value.filter((each) => !props.fits.includes(each.code)))
const lines = computed(() => (props.place || sought.value ? [] : props.planned))
const wishes = computed(() => (props.place || sought.value ? [] : props.wished))

watch(
  () => props.place,
  (place) => {
    if (place) open.value = true
  },
)

async function toggle(): Promise<void> {
  open.value = !open.value
  sought.value = ''
  emit('anywhere')
  await nextTick()
  field.value?.focus()
}

function chosen(act: () => void): void {
  act()
  open.value = false
  sought.value = ''
  emit('anywhere')
}
</script>

<template>
  <div class="add">
    <ElButton :aria-expanded="open" :aria-controls="id" @click="toggle">Add an alteration</ElButton>
    <div v-if="open" :id="id" class="card stack panel">
      <div class="field">
        <label :for="`${id}-find`">Find</label>
        <input
          :id="`${id}-find`"
          ref="field"
          v-model="sought"
          class="plain"
          type="text"
          autocomplete="off"
          placeholder="shoulder, gape, width …"
          @keydown.esc="open = false"
        />
      </div>
      <p v-if="place" class="between small">
        <span>At the {{ place.name }}</span>
        <ElButton size="small" @click="emit('anywhere')">Anywhere</ElButton>
      </p>
      <template v-if="lines.length">
        <p class="legend">From the plan</p>
        <ul>
          <li v-for="line in lines" :key="line.key">
            <button type="button" @click="chosen(() => emit('plan', line))">
              {{ line.name }}
              <span class="small soft">{{ line.reason }}</span>
            </button>
          </li>
        </ul>
      </template>
      <template v-if="wishes.length">
        <p class="legend">She wishes</p>
        <ul>
          <li v-for="wish in wishes" :key="wish.says">
            <button type="button" :disabled="wish.refused !== null" @click="chosen(() => emit('wish', wish))">
              {{ wish.name }}
              <span class="small soft">{{ wish.says }}</span>
            </button>
            <span v-if="wish.refused" class="small decide">{{ wish.refused }}</span>
          </li>
        </ul>
      </template>
      <p v-if="lines.length || wishes.length" class="legend">All</p>
      <ul>
        <li v-for="each in fitting" :key="each.code">
          <button
            type="button"
            :aria-describedby="`${id}-${each.code}`"
            @click="chosen(() => emit('add', each.code))"
          >
            {{ each.name }}
          </button>
          <span :id="`${id}-${each.code}`" class="small soft">{{ each.why }}</span>
        </li>
      </ul>
      <p v-if="!fitting.length" class="small">Nothing of that name fits this pattern.</p>
      <p v-if="others.length" class="small soft">
        Not for this pattern as it is: {{ others.map((each) => each.name.toLowerCase()).join(', ') }}.
      </p>
    </div>
  </div>
</template>

<style scoped>
.panel {
  margin-top: 0.5rem;
  padding: 0.7rem 0.8rem;
  gap: 0.5rem;
  max-height: 26rem;
  overflow-y: auto;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.3rem;
}
li {
  display: grid;
}
li button {
  font: 600 1rem var(--serif);
  color: var(--ink);
  background: none;
  border: 0;
  padding: 0.25rem 0;
  min-height: 1.9rem;
  text-align: left;
  cursor: pointer;
  display: grid;
}
li button:hover {
  color: var(--woad);
}
li span {
  font-family: var(--sans);
  font-weight: 400;
  line-height: 1.3;
}
input {
  width: 100%;
}
</style>
