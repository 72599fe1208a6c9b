<script setup lang="ts">
/** What a client measures now: latest figures, left and right, how and when they were taken, what to mind. */
import { ElButton, ElCheckbox, ElInput, ElMessageBox } from 'element-plus'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { get, post, put, remove, send } from '@/api/client'
import type { FigureView, Problem } from '@/api/types'
import ChoiceField from '@/components/ChoiceField.vue'
import ClientTabs from '@/components/ClientTabs.vue'
import FigurePicture from '@/components/FigurePicture.vue'
import AskConsent from '@/components/AskConsent.vue'
import CorrectReading from '@/components/measure/CorrectReading.vue'
import FormDialog from '@/components/FormDialog.vue'
import LevelPanel from '@/components/LevelPanel.vue'
import PageFrame from '@/components/PageFrame.vue'
import { useAction } from '@/composables/useAction'
import { useHouse } from '@/composables/useHouse'
import { useResource } from '@/composables/useResource'
import { asDay } from '@/days'

const props = defineProps<{ id: number }>()
const router = useRouter()
const { me, may, ofSide, unit } = useHouse()
const correcting = ref<{ id: number; name: string; typed: string }>()
const {
  data: profile,
  problem,
  reload,
} = useResource(() => get('/api/clients/{id}/profile', { params: { path: { id: props.id } } }))
const refused = shallowRef<Problem>()
const dialog = ref<'posture' | 'measure'>()
const posture = reactive({ notes: '', changing: false })
const showEstimates = ref(false)
const set = ref('dress')

const GROUPS = [
  { code: 'girth', name: 'Girths' },
  { code: 'width', name: 'Widths' },
  { code: 'length', name: 'Lengths' },
] as const
const shown = computed(
  () => profile.value?.figures.filter((figure) => showEstimates.value || !figure.estimated) ?? [],
)
const ofGroup = (code: string) => shown.value.filter((figure) => figure.group === code && !figure.wish)
const hasSides = (code: string) => ofGroup(code).some((figure) => figure.left || figure.right)
const wishes = computed(() => shown.value.filter((figure) => figure.wish))
const chosen = computed(() => profile.value?.sets.find((each) => each.code === set.value))
const measured = computed(() => profile.value?.figures.some((figure) => !figure.estimated))

function remarks(figure: FigureView): string[] {
  if (figure.estimated) return [`estimated, give or take ${figure.give?.text ?? ''} ${unit.value}`.trim()]
  const said = [...figure.method]
  if (figure.converted) said.push(`taken ${figure.as_taken.text}, converted, ± ${figure.give?.text ?? ''}`)
  if (figure.assumed) said.push('assumed')
  if (figure.asked) said.push('to be taken again')
  return said
}

function openPosture(): void {
  Object.assign(posture, {
    notes: profile.value?.posture.join('\n') ?? '',
    changing: profile.value?.changing ?? false,
  })
  dialog.value = 'posture'
}

const {
  run: savePosture,
  busy: savingPosture,
  problem: postureProblem,
} = useAction(
  () => {
    const notes = posture.notes
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean)
    if (!profile.value) return undefined
    const body = { revision: profile.value.revision, notes, changing: posture.changing }
    return put('/api/clients/{id}/posture', { params: { path: { id: props.id } }, body })
  },
  async () => {
    dialog.value = undefined
    await reload()
  },
  { opens: () => dialog.value === 'posture' },
)

const {
  run: measure,
  busy: beginning,
  problem: unbegun,
} = useAction(
  () =>
    post('/api/clients/{id}/sessions', { params: { path: { id: props.id } }, body: { set_code: set.value } }),
  (made) => router.push({ name: 'session', params: { id: made.id } }),
  { opens: () => dialog.value === 'measure' },
)

const asking = ref(false)
watch(unbegun, (now) => (asking.value = now?.pointer === '/consent'))
async function agreed(): Promise<void> {
  asking.value = false
  await measure()
}

async function erase(): Promise<void> {
  const name = profile.value?.client ?? ''
  try {
    await ElMessageBox.prompt(
      `Everything of ${name} goes: figures, patterns, rounds. Only a backup that is older can bring it back. Type her name to erase her.`,
      'Erase this client',
      {
        confirmButtonText: 'Erase for ever',
        inputValidator: (typed: string) => typed === name || 'This is not her name.',
      },
    )
  } catch {
    return
  }
  const result = await send(remove('/api/clients/{id}', { params: { path: { id: props.id } } }))
  refused.value = result.ok ? undefined : result.problem
  if (result.ok) await router.push({ name: 'clients' })
}
</script>

<template>
  <PageFrame :title="profile?.client" :problem="problem ?? refused" :reading="!profile">
    <template v-if="profile" #actions
      ><ElButton v-if="may('readings')" type="primary" @click="dialog = 'measure'"
        >Measure her</ElButton
      ></template
    >
    <template v-if="profile">
      <ClientTabs :id="id" />
      <ul v-if="profile.cautions.length" class="cautions" aria-label="To mind">
        <li v-for="caution in profile.cautions" :key="caution">{{ caution }}</li>
      </ul>
      <div class="two">
        <section class="stack" aria-labelledby="figures-title">
          <div class="between">
            <h2 id="figures-title">Her figures now</h2>
            <ElCheckbox v-model="showEstimates">Show what is only estimated</ElCheckbox>
          </div>
          <p v-if="!measured" class="soft">Not measured yet: choose a set and begin.</p>
          <template v-for="group in GROUPS" :key="group.code">
            <table v-if="ofGroup(group.code).length">
              <thead>
                <tr>
                  <th scope="col">{{ group.name }}</th>
                  <th scope="col" class="num">Figure</th>
                  <template v-if="hasSides(group.code)">
                    <th scope="col" class="num side">Left</th>
                    <th scope="col" class="num side">Right</th>
                  </template>
                  <th scope="col" class="num">Days old</th>
                  <th scope="col">Taken</th>
                </tr>
              </thead>
              <tbody>
                <tr
                  v-for="figure in ofGroup(group.code)"
                  :key="figure.code"
                  :class="{ soft: figure.estimated }"
                >
                  <th scope="row" :title="figure.differs ?? undefined">{{ figure.name }}</th>
                  <td class="num main">{{ figure.estimated ? '~' : '' }}{{ figure.length?.text ?? '?' }}</td>
                  <template v-if="hasSides(group.code)">
                    <td class="num side">{{ figure.left?.text }}</td>
                    <td class="num side">{{ figure.right?.text }}</td>
                  </template>
                  <td class="num" :class="{ decide: figure.findings.length }">{{ figure.days_ago }}</td>
                  <td class="small" :class="{ decide: figure.asked }" :title="figure.asked ?? undefined">
                    {{ remarks(figure).join('; ') }}
                    <template v-if="may('readings')">
                      <button
                        v-for="take in figure.takes"
                        :key="take.id"
                        type="button"
                        class="quiet correct small"
                        :aria-label="`Correct: ${figure.name}${ofSide(take.side)}, ${take.typed}`"
                        @click="
                          correcting = {
                            id: take.id,
                            name: `${figure.name}${ofSide(take.side)}`,
                            typed: take.typed,
                          }
                        "
                      >
                        Correct
                      </button>
                    </template>
                  </td>
                </tr>
              </tbody>
            </table>
          </template>
          <template v-if="wishes.length">
            <h3>Wishes, not body</h3>
            <table class="wishes">
              <tbody>
                <tr v-for="figure in wishes" :key="figure.code">
                  <th scope="row">{{ figure.name }}</th>
                  <td class="num main">{{ figure.length?.text }}</td>
                </tr>
              </tbody>
            </table>
          </template>
          <p class="row">
            <a :href="`/api/clients/${id}/readings.csv`">All readings as CSV</a>
            <a :href="`/api/clients/${id}/readings.json`">as JSON</a>
            <a :href="`/api/clients/${id}/sheet.pdf?set=${set}`">A sheet to measure with</a>
          </p>
        </section>
        <div class="stack">
          <div class="pictures card">
            <FigurePicture :figure="profile.front" whole label="Her proportions from the front" />
            <FigurePicture :figure="profile.side" whole label="Her proportions from the side" />
            <FigurePicture :figure="profile.back" whole label="Her proportions from behind" />
          </div>
          <section class="card stack" aria-labelledby="sets-title">
            <h2 id="sets-title">What a set still wants</h2>
            <ChoiceField
              id="set"
              v-model="set"
              label="Set"
              unseen
              :choices="profile.sets.map(({ code, name }) => ({ value: code, label: name }))"
            />
            <template v-if="chosen">
              <p>
                {{ chosen.wanted - chosen.missing.length }} of {{ chosen.wanted }} measured.
                <template v-if="!chosen.missing.length && !chosen.old.length">Nothing is missing.</template>
              </p>
              <p v-if="chosen.missing.length" class="small">
                <strong>Missing:</strong> {{ chosen.missing.join('; ') }}
              </p>
              <p v-if="chosen.old.length" class="small">
                <strong class="decide">Older than {{ profile.age_limit_days }} days:</strong>
                {{ chosen.old.join('; ') }}
              </p>
              <div><ElButton @click="measure">Begin with this set</ElButton></div>
            </template>
          </section>
          <section class="card stack" aria-labelledby="posture-title">
            <div class="between">
              <h2 id="posture-title">How she stands</h2>
              <ElButton size="small" @click="openPosture">Edit</ElButton>
            </div>
            <p v-if="!profile.posture.length" class="soft">Nothing noted.</p>
            <ul v-else class="plain">
              <li v-for="line in profile.posture" :key="line">{{ line }}</li>
            </ul>
          </section>
          <section class="card stack" aria-labelledby="level-title">
            <h2 id="level-title">Does a tape sit level?</h2>
            <LevelPanel />
          </section>
          <section class="card stack" aria-labelledby="consent-title">
            <h2 id="consent-title">Consent</h2>
            <p v-if="profile.consent">
              {{ asDay(profile.consent.given_on) }}: {{ profile.consent.purpose }}
              <span v-if="profile.consent.review_on" :class="profile.consent.due ? 'decide' : 'soft'">
                Ask again on {{ asDay(profile.consent.review_on) }}.
              </span>
            </p>
            <p v-else class="decide">None.</p>
            <RouterLink :to="{ name: 'client', params: { id } }">Record consent</RouterLink>
            <div v-if="me?.role === 'owner'">
              <ElButton size="small" @click="erase">Erase this client …</ElButton>
            </div>
          </section>
        </div>
      </div>
      <FormDialog
        :open="dialog === 'posture'"
        title="How she stands"
        action="Save"
        :busy="savingPosture"
        :problem="postureProblem"
        @close="dialog = undefined"
        @submit="savePosture"
      >
        <div class="field">
          <label for="posture">In neutral words, a line each</label>
          <ElInput
            id="posture"
            v-model="posture.notes"
            type="textarea"
            :rows="5"
            placeholder="Rounded back&#10;Lower right shoulder"
          />
        </div>
        <ElCheckbox v-model="posture.changing">Her figure is changing: ask sooner</ElCheckbox>
      </FormDialog>
      <FormDialog
        :open="dialog === 'measure'"
        title="Measure her"
        action="Begin"
        :busy="beginning"
        :problem="unbegun"
        @close="dialog = undefined"
        @submit="measure"
      >
        <ChoiceField
          id="which"
          v-model="set"
          label="Which set"
          :choices="
            profile.sets.map(({ code, name, wanted }) => ({ value: code, label: `${name} (${wanted})` }))
          "
        />
        <p class="small soft">
          Ask first and say what comes next; a companion or measuring herself is always possible. Foundation
          on, elastic at the waist, a string at the fullest hip.
        </p>
      </FormDialog>
    </template>
    <CorrectReading :reading="correcting" @close="correcting = undefined" @corrected="reload" />
    <AskConsent :client="Number(id)" :open="asking" @close="asking = false" @given="agreed" />
  </PageFrame>
</template>

<style scoped>
.correct {
  margin-right: 0.6rem;
  white-space: nowrap;
}
tbody > tr > * {
  vertical-align: baseline;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(0, 1fr);
  gap: 1.4rem;
  align-items: start;
}
.cautions {
  margin: 0;
  padding: 0.6rem 1rem 0.6rem 2rem;
  border-left: 4px solid var(--madder);
  background: var(--raised);
}
.pictures {
  display: grid;
  grid-template-columns: 1.25fr 1fr 1.25fr;
  gap: 0.4rem;
}
.pictures :deep(svg) {
  max-height: 260px;
}
table {
  table-layout: fixed;
}
thead th:first-child {
  width: 36%;
}
thead th:last-child {
  width: 26%;
}
.main {
  font-weight: 700;
  font-size: 1.1rem;
}
.plain {
  margin: 0;
  padding-left: 1.1rem;
}
tr td:last-child,
tr th:last-child {
  padding-left: 0.9rem;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 500px) {
  .side {
    display: none;
  }
}
</style>
