<script setup lang="ts">
/** The drafting table: a client's own block, a form's, or a house master from a size table. */
import { ElButton, ElInput } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post } from '@/api/client'
import ChoiceField from '@/components/ChoiceField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import BesidePanel from '@/components/draft/BesidePanel.vue'
import ConstantsPanel from '@/components/draft/ConstantsPanel.vue'
import MeasuresPanel from '@/components/draft/MeasuresPanel.vue'
import BlockSheet from '@/components/drawing/BlockSheet.vue'
import ConstructionPlayer from '@/components/drawing/ConstructionPlayer.vue'
import PageFrame from '@/components/PageFrame.vue'
import TextField from '@/components/TextField.vue'
import { useAction } from '@/composables/useAction'
import { useDraft } from '@/composables/useDraft'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'

const props = defineProps<{ id?: number; form?: number; name?: string }>()
const router = useRouter()
const { craft } = useHouse()
const { data: client } = useResource(() =>
  props.id ? get('/api/clients/{id}', { params: { path: { id: props.id } } }) : undefined,
)
const {
  drafting,
  reloadDrafting,
  choice,
  constants,
  draft,
  problem,
  table,
  size,
  method,
  sheet,
  takeHouseMethod,
} = useDraft(
  () => props.id,
  () => props.form,
)
const { data: dressForm } = useResource(() =>
  props.form ? get('/api/forms/{id}', { params: { path: { id: props.form } } }) : undefined,
)
/** Of one body, and not of a table's sizes. */
const isOfOne = computed(() => props.id !== undefined || props.form !== undefined)

const VIEWS = [
  { code: 'block', name: 'Block' },
  { code: 'construction', name: 'Construction' },
  { code: 'measures', name: 'Measures' },
  { code: 'constants', name: 'Constants' },
  { code: 'beside', name: 'Beside another method' },
] as const
const view = ref<(typeof VIEWS)[number]['code']>('block')
const keeping = ref(false)
const entry = reactive({ name: props.name ?? '', why: '', sizes: [] as string[] })
const methodName = ref('')
const methodSaid = ref('')
const drafted = computed(() => drafting.value?.kinds.find((each) => each.kind === choice.kind))
/** Other constructions of the same garment: a bodice lies beside no skirt. */
const others = computed(
  () =>
    drafting.value?.kinds.filter(
      (each) => each.kind !== choice.kind && each.garment === drafted.value?.garment,
    ) ?? [],
)

const views = computed(() =>
  VIEWS.filter(
    ({ code }) => (code !== 'beside' || others.value.length) && (code !== 'measures' || isOfOne.value),
  ),
)

function show(code: (typeof VIEWS)[number]['code']): void {
  view.value = code
  choice.measures = code === 'measures'
  if (code === 'beside' && !choice.beside) choice.beside = others.value.at(-1)?.kind ?? ''
  if (code !== 'beside') choice.beside = ''
}

// Of another garment nothing can be laid beside it.
watch(others, (now) => {
  if (!now.some((each) => each.kind === choice.beside)) choice.beside = ''
  if (view.value === 'beside') show(now.length ? 'beside' : 'block')
})

const {
  run: keep,
  busy,
  problem: unkept,
} = useAction(
  () => {
    const ease_set = choice.ease_set ?? null
    const drafted = { why: entry.why, method: method.value, ease_set }
    if (props.id)
      return post('/api/clients/{id}/blocks', { params: { path: { id: props.id } }, body: drafted })
    if (props.form)
      return post('/api/forms/{id}/blocks', { params: { path: { id: props.form } }, body: drafted })
    return post('/api/blocks', {
      body: { ...drafted, name: entry.name, table: choice.table, sizes: entry.sizes },
    })
  },
  (made) => router.push({ name: 'block', params: { id: made.id } }),
)

const {
  run: keepMethod,
  busy: keepingMethod,
  problem: methodProblem,
} = useAction(
  () => post('/api/house/methods', { body: { name: methodName.value, method: method.value } }),
  async () => {
    methodSaid.value = `Kept as “${methodName.value}”.`
    methodName.value = ''
    await reloadDrafting()
  },
)

/** Opens a session with just the readings that are wanting or contradict each other. */
const { run: measure, problem: unmeasured } = useAction(
  () =>
    props.id === undefined
      ? undefined
      : post('/api/clients/{id}/sessions', {
          params: { path: { id: props.id } },
          body: { codes: draft.value?.readings },
        }),
  (made) => router.push({ name: 'session', params: { id: made.id } }),
)
</script>

<template>
  <PageFrame
    right="cutting"
    :title="id ? 'Her own block' : form ? 'Block of a form' : 'Draft a master'"
    width="wide"
  >
    <template #lead>
      <p class="soft">
        <template v-if="id">
          From the readings of
          <RouterLink :to="{ name: 'client', params: { id } }">{{ client?.name }}</RouterLink>.
        </template>
        <template v-else-if="form">
          From the figures of
          <RouterLink :to="{ name: 'form', params: { id: form } }">{{ dressForm?.name }}</RouterLink>.
        </template>
        <template v-else>From a size table; every size is drafted alike.</template>
      </p>
    </template>
    <template #actions>
      <a v-if="draft?.drawn && !draft.refused" :href="sheet" download>Worksheet (PDF)</a>
      <ElButton
        v-if="draft?.drawn && !draft.refused"
        type="primary"
        :aria-expanded="keeping"
        @click="isOfOne ? keep() : (keeping = !keeping)"
        >{{ isOfOne ? 'Keep this block' : 'Keep as a master' }}</ElButton
      >
    </template>
    <form v-if="keeping && !isOfOne" class="card keep" @submit.prevent="keep">
      <TextField
        id="master-name"
        v-model="entry.name"
        label="Name of the master"
        :most="120"
        placeholder="House bodice"
      />
      <TextField id="master-why" v-model="entry.why" label="Why it is made" :most="400" />
      <fieldset class="chips">
        <legend class="legend">Sizes; all of them where none is chosen</legend>
        <label v-for="each in table?.sizes" :key="each" class="chip">
          <input v-model="entry.sizes" type="checkbox" :value="each" /><span>{{ each }}</span>
        </label>
      </fieldset>
      <div class="saves">
        <ElButton type="primary" native-type="submit" :aria-busy="busy">Keep the master</ElButton>
      </div>
    </form>
    <div class="card controls">
      <template v-if="!isOfOne">
        <ChoiceField
          id="table"
          v-model="choice.table"
          label="Size table"
          :choices="drafting?.tables.map(({ code, name }) => ({ value: code, label: name })) ?? []"
        />
        <ChoiceField
          id="draft-size"
          class="narrow"
          :model-value="size"
          label="Size shown"
          :choices="table?.sizes.map((each) => ({ value: each, label: each })) ?? []"
          @update:model-value="(now) => now && (choice.size = now)"
        />
      </template>
      <ChoiceField
        id="kind"
        v-model="choice.kind"
        label="Method"
        :choices="drafting?.kinds.map(({ kind, name }) => ({ value: kind, label: name })) ?? []"
      />
      <ChoiceField
        v-if="drafting?.methods.length"
        id="house-method"
        :model-value="choice.house_method"
        label="Constants of"
        none="the trade"
        :choices="drafting.methods.map(({ id: value, name }) => ({ value, label: name }))"
        @update:model-value="takeHouseMethod"
      />
      <ChoiceField
        id="draft-ease"
        v-model="choice.ease_set"
        label="Ease"
        :none="drafted?.usual_ease ?? 'the house\'s usual'"
        :choices="craft?.ease_sets.map(({ code, name }) => ({ value: code, label: name })) ?? []"
      />
      <label v-if="drafted?.garment === 'bodice'" class="tick"
        ><input v-model="choice.with_sleeve" type="checkbox" /> with a sleeve</label
      >
    </div>
    <p v-if="drafting" class="small soft">{{ drafted?.trusts }} {{ isOfOne ? '' : table?.note }}</p>
    <ProblemNote :problem="problem ?? unkept ?? methodProblem ?? unmeasured" />
    <div v-if="draft?.refused" class="card stack">
      <p>
        <span class="decide">Not yet.</span> {{ draft.refused }}
        <template v-if="draft.drawn">
          Below it is drawn with what her other readings make of them: to look at, not to keep or to cut.
        </template>
      </p>
      <div v-if="id && draft.readings.length"><ElButton @click="measure">Measure these now</ElButton></div>
    </div>
    <fieldset class="chips">
      <legend class="visually-hidden">What is shown</legend>
      <label v-for="each in views" :key="each.code" class="chip">
        <input type="radio" name="view" :checked="view === each.code" @change="show(each.code)" />
        <span>{{ each.name }}</span>
      </label>
    </fieldset>
    <template v-if="draft">
      <BlockSheet v-if="view === 'block' && draft.drawn" :drawn="draft.drawn" />
      <ConstructionPlayer
        v-if="view === 'construction' && draft.drawn"
        :steps="draft.steps"
        :pieces="draft.drawn.pieces"
      />
      <MeasuresPanel v-if="view === 'measures'" :measures="draft.measures" />
      <template v-if="view === 'constants'">
        <ConstantsPanel v-model="constants" :parameters="draft.parameters" :problem="problem" />
        <form class="row" @submit.prevent="keepMethod">
          <ElInput
            v-model="methodName"
            class="method"
            maxlength="120"
            aria-label="Name of the method"
            placeholder="Name of the method"
          />
          <ElButton native-type="submit" :aria-busy="keepingMethod">Keep as a method of the house</ElButton>
          <span v-if="methodSaid" role="status" class="soft">{{ methodSaid }}</span>
        </form>
      </template>
      <template v-if="view === 'beside'">
        <ChoiceField
          id="beside"
          v-model="choice.beside"
          class="narrow"
          label="Beside"
          :choices="others.map(({ kind, name }) => ({ value: kind, label: name }))"
        />
        <BesidePanel :draft="draft" />
      </template>
    </template>
  </PageFrame>
</template>

<style scoped>
.wide {
  max-width: 1400px;
}
.controls {
  display: flex;
  flex-wrap: wrap;
  gap: 0.7rem 1.1rem;
  align-items: end;
}
.controls .field {
  flex: 1 1 9rem;
}
.narrow {
  max-width: 16rem;
}
.tick {
  min-height: 2.2rem;
  display: flex;
  gap: 0.4rem;
  align-items: center;
}
.tick input {
  width: 1.1rem;
  height: 1.1rem;
  accent-color: var(--ink);
}
.keep {
  display: grid;
  gap: 0.8rem;
}
.method {
  max-width: 20rem;
}
</style>
