<script setup lang="ts">
/** What is asked before anything is marked: how it was draped or drawn, and with which darts. It is kept with the block. */
import { ElButton, ElCheckbox, ElInput, ElSwitch } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { put } from '@/api/client'
import type { DartPlace, DrapeView } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import LengthField from '@/components/LengthField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { fieldsRead } from '@/composables/usePendingFields'

const props = defineProps<{ drape: DrapeView }>()
const emit = defineEmits<{ saved: [drape: DrapeView] }>()

const HANDS = [
  { value: 'careful', label: 'Careful: fine crosses, taken off at leisure' },
  { value: 'ordinary', label: 'Ordinary' },
  { value: 'rough', label: 'Rough: in a hurry, or with a thick pencil' },
] as const
const WAISTS = [
  { value: 'lower_edge', label: "At the tape's lower edge: length for moving is in it" },
  { value: 'middle', label: 'At its middle' },
] as const
const SIDES = [
  { value: null, label: 'both alike' },
  { value: 'left', label: 'her left' },
  { value: 'right', label: 'her right' },
] as const
const SEAMS = ['neckline', 'shoulder', 'armhole', 'side', 'waist', 'centre'] as const

const copy = <T,>(value: T): T => JSON.parse(JSON.stringify(value)) as T
const entry = reactive(copy({ name: props.drape.name, facts: props.drape.facts }))
const saved = ref(false)
const asKept = ref('')
watch(
  () => props.drape,
  (now) => {
    // What is half typed is not written over by a click of the front that was kept meanwhile.
    if (asKept.value && JSON.stringify(entry) !== asKept.value) return
    Object.assign(entry, copy({ name: now.name, facts: now.facts }))
    asKept.value = JSON.stringify(entry)
  },
  { immediate: true },
)
const given = computed(() => entry.facts.given)
const darts = computed(() => entry.facts.darts)
const isPaper = computed(() => given.value.material === 'paper')
const isSlashed = computed(() => given.value.material === 'slashed')
const isFixed = computed(() => props.drape.block_id !== null && props.drape.block_id !== undefined)

function toggle(piece: 'front' | 'back', dart: DartPlace, on: boolean): void {
  const own = darts.value[piece].filter((each) => each !== dart)
  // In the order of the walk.
  const order = props.drape[piece].darts
  darts.value[piece] = order.filter((each) => own.includes(each) || (on && each === dart))
}

/** What is traced: the stitching line, or the cutting line with what lies between. */
const isCutting = computed({
  get: () => given.value.allowance != null,
  set: (cutting: boolean) => {
    given.value.allowance = cutting
      ? { neckline: 15, shoulder: 15, armhole: 15, side: 15, waist: 15, centre: 0 }
      : null
  },
})
const allowance = computed(() => given.value.allowance)

const {
  run: save,
  busy,
  problem,
} = useAction(
  async () => {
    saved.value = false
    if (!(await fieldsRead())) return undefined
    const params = { path: { id: props.drape.id } }
    return put('/api/drapes/{id}', {
      params,
      body: { revision: props.drape.revision, ...copy({ ...entry }) },
    })
  },
  (now) => {
    saved.value = true
    asKept.value = ''
    emit('saved', now)
  },
  { repeats: true },
)
/** Keeps what was changed; true where the page may be left. */
async function leave(): Promise<boolean> {
  await fieldsRead()
  return isFixed.value || JSON.stringify(entry) === asKept.value || save()
}
defineExpose({ leave })
</script>

<template>
  <form class="card stack facts" @submit.prevent="save">
    <ProblemNote :problem="problem" />
    <fieldset v-if="!isSlashed" class="chips">
      <legend class="legend">What lies on the table</legend>
      <label class="chip"
        ><input v-model="given.material" type="radio" value="toile" :disabled="isFixed" /><span
          >A toile that was draped</span
        ></label
      >
      <label class="chip"
        ><input v-model="given.material" type="radio" value="paper" :disabled="isFixed" /><span
          >A paper pattern</span
        ></label
      >
    </fieldset>
    <div class="grid">
      <TextField id="drape-name" v-model="entry.name" label="Name" :most="120" />
      <fieldset v-for="piece in isSlashed ? [] : (['front', 'back'] as const)" :key="piece" class="chips">
        <legend class="legend">Darts of the {{ piece }}</legend>
        <label v-for="dart in drape[piece].darts" :key="dart" class="chip"
          ><input
            type="checkbox"
            :checked="darts[piece].includes(dart)"
            :disabled="isFixed"
            @change="toggle(piece, dart, ($event.target as HTMLInputElement).checked)"
          /><span
            ><span class="visually-hidden">{{ piece === 'front' ? 'Front' : 'Back' }}: </span>{{ dart }}</span
          ></label
        >
      </fieldset>
    </div>
    <p v-if="isSlashed" class="small soft">
      The back as it comes off her: slashed level from the centre towards the armhole, held open by pins or a
      strip, the new centre back drawn on it. Press it flat and open it as it was pinned.
    </p>
    <template v-else-if="!isPaper">
      <fieldset class="chips">
        <legend class="legend">Which side of the body</legend>
        <label v-for="side in SIDES" :key="side.label" class="chip"
          ><input
            type="radio"
            name="side"
            :checked="(entry.facts.side ?? null) === side.value"
            :disabled="isFixed"
            @change="entry.facts.side = side.value"
          /><span>{{ side.label }}</span></label
        >
      </fieldset>
      <div class="grid">
        <div class="field">
          <label for="skin-tight" class="legend">Draped skin tight</label>
          <ElSwitch
            id="skin-tight"
            v-model="given.skin_tight"
            active-text="ease is added under the arm"
            inactive-text="it has its ease"
          />
        </div>
        <ChoiceField
          id="waist-marked"
          v-model="given.waist_marked"
          label="The waist was marked"
          :choices="WAISTS"
        />
        <LengthField
          v-if="given.waist_marked === 'middle'"
          label="The tape is wide"
          :model-value="given.tape_width ?? 12"
          :least="2"
          :most="40"
          exactly
          @update:model-value="given.tape_width = $event ?? 12"
        />
        <div class="field">
          <label for="span-ease" class="legend">Bust span</label>
          <ElCheckbox id="span-ease" v-model="given.span_ease">ruled in with its ease</ElCheckbox>
          <ElCheckbox v-model="given.armhole_tuck"
            >a tuck for ease was pinned in the front armhole</ElCheckbox
          >
        </div>
        <div class="field">
          <label for="excess" class="legend">Where the rest of the excess went</label>
          <ElInput
            id="excess"
            v-model="entry.facts.excess"
            maxlength="200"
            placeholder="into the armhole, 6"
          />
        </div>
      </div>
    </template>
    <template v-else>
      <div class="grid">
        <TextField
          id="printed"
          :model-value="entry.facts.printed ?? ''"
          label="The size that is printed on it"
          :most="40"
          @update:model-value="entry.facts.printed = $event"
        />
        <div class="field">
          <label for="cutting-line" class="legend">What is traced</label>
          <ElSwitch
            id="cutting-line"
            v-model="isCutting"
            active-text="the cutting line"
            inactive-text="the stitching line"
          />
        </div>
        <LengthField
          label="Front darts are drawn short of their turning point by"
          :model-value="given.backed_off_front ?? null"
          :least="0"
          :most="60"
          exactly
          @update:model-value="given.backed_off_front = $event ?? 25"
        />
        <LengthField
          label="Back darts by"
          :model-value="given.backed_off_back ?? null"
          :least="0"
          :most="60"
          exactly
          @update:model-value="given.backed_off_back = $event ?? 12"
        />
      </div>
      <div v-if="allowance" class="allowances">
        <LengthField
          v-for="seam in SEAMS"
          :key="seam"
          :label="`Allowance, ${seam}`"
          :model-value="allowance[seam]"
          :least="0"
          :most="60"
          exactly
          @update:model-value="allowance[seam] = $event ?? 0"
        />
      </div>
    </template>
    <div class="grid">
      <ChoiceField
        v-if="!isPaper"
        id="hand"
        v-model="given.hand"
        label="The hand that marked"
        :choices="HANDS"
      />
      <LengthField
        v-if="!isSlashed"
        label="The back shoulder is meant to be longer by"
        :model-value="given.shoulder_ease ?? 0"
        :least="0"
        :most="12"
        exactly
        @update:model-value="given.shoulder_ease = $event ?? 0"
      />
    </div>
    <div v-if="!isFixed" class="row">
      <ElButton native-type="submit" :aria-busy="busy">Save what is stated</ElButton>
      <span v-if="saved" role="status" class="soft">Saved.</span>
    </div>
  </form>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(18rem, 100%), 1fr));
  gap: 0.8rem 1.4rem;
}
.field {
  align-content: start;
}
.allowances {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(9rem, 1fr));
  gap: 0.6rem 1rem;
}
</style>
