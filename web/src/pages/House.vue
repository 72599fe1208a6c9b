<script setup lang="ts">
import { ElButton } from 'element-plus'
import { useTemplateRef } from 'vue'
import { RouterLink } from 'vue-router'
import type { Style } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import HouseBackup from '@/components/house/HouseBackup.vue'
import HouseCalibration from '@/components/house/HouseCalibration.vue'
import HouseDays from '@/components/house/HouseDays.vue'
import HouseEase from '@/components/house/HouseEase.vue'
import HouseMeasuring from '@/components/house/HouseMeasuring.vue'
import HouseJobs from '@/components/house/HouseJobs.vue'
import HousePrecision from '@/components/house/HousePrecision.vue'
import HouseSets from '@/components/house/HouseSets.vue'
import PageFrame from '@/components/PageFrame.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import TextField from '@/components/TextField.vue'
import { useHouse } from '@/composables/useHouse'
import { useHousePart } from '@/composables/useHousePart'
import { useHouseSave } from '@/composables/useHouseSave'

const { craft, may } = useHouse()
const jobs = useTemplateRef('jobs')

const STYLES: { code: string; name: string; style: Style }[] = [
  { code: 'inch 4', name: 'Inches, to a quarter', style: { unit: 'inch', denominator: 4 } },
  { code: 'inch 8', name: 'Inches, to an eighth', style: { unit: 'inch', denominator: 8 } },
  { code: 'inch 16', name: 'Inches, to a sixteenth', style: { unit: 'inch', denominator: 16 } },
  { code: 'cm 2', name: 'Centimetres, to a half', style: { unit: 'cm', steps: 2 } },
  { code: 'cm 10', name: 'Centimetres, to a tenth', style: { unit: 'cm', steps: 10 } },
]
const codeOf = (style: Style) => (style.unit === 'inch' ? `inch ${style.denominator}` : `cm ${style.steps}`)

const entry = useHousePart((now) => ({ name: now.name, style: codeOf(now.style), ease: now.ease_set }))

const {
  run: save,
  busy,
  problem,
  saved,
} = useHouseSave(() => ({
  name: entry.value?.name,
  style: STYLES.find((each) => each.code === entry.value?.style)?.style,
  ease_set: entry.value?.ease,
}))
</script>

<template>
  <PageFrame title="House">
    <template #actions>
      <RouterLink v-if="may('housekeeping')" :to="{ name: 'people' }">People of the house</RouterLink>
      <RouterLink v-if="may('housekeeping')" :to="{ name: 'changes' }">Who changed what</RouterLink>
      <RouterLink :to="{ name: 'me' }">Your sign-in</RouterLink>
      <RouterLink :to="{ name: 'glossary' }">Words of the trade</RouterLink>
      <RouterLink :to="{ name: 'guide' }">Where the tape goes</RouterLink>
      <RouterLink :to="{ name: 'import' }">Readings from a file</RouterLink>
    </template>
    <template v-if="!may('housekeeping')" #lead
      ><p class="soft">
        You may look at the house's choices; its name, units and days are the owner's to change.
      </p></template
    >
    <div class="two">
      <div class="stack">
        <form v-if="entry" class="card stack" @submit.prevent="save">
          <TextField id="name" v-model="entry.name" label="Name of the house" :most="120" />
          <ChoiceField
            id="style"
            v-model="entry.style"
            label="Lengths are written in"
            :choices="STYLES.map(({ code, name }) => ({ value: code, label: name }))"
          />
          <ChoiceField
            id="ease"
            v-model="entry.ease"
            label="Usual ease"
            :choices="
              craft?.ease_sets.map(({ code, name, note }) => ({ value: code, label: `${name}: ${note}` })) ??
              []
            "
          />
          <p class="small soft">
            The unit changes everywhere at once. Readings keep the way they were typed; only what is shown
            changes.
          </p>
          <ProblemNote :problem="problem" />
          <div class="row saves">
            <ElButton type="primary" native-type="submit" :aria-busy="busy">Save</ElButton>
            <span v-if="saved" role="status" class="soft">Saved.</span>
          </div>
        </form>
        <HouseBackup v-if="may('housekeeping')" @asked="jobs?.reload()" />
        <HouseJobs ref="jobs" />
        <HouseEase />
        <HouseSets />
        <HousePrecision />
        <HouseCalibration />
      </div>
      <div class="stack">
        <HouseDays />
        <HouseMeasuring />
      </div>
    </div>
  </PageFrame>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(26rem, 100%), 1fr));
  gap: 1.2rem;
  align-items: start;
}
</style>
