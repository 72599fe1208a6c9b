<script setup lang="ts">
/**
 * One piece being marked: how its marks come in, everything there is to mark, and the place where it is done. Every click is kept
 * as it is made.
 */
import { ElButton, ElMessageBox } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import ControlLengths from './ControlLengths.vue'
import MarkList from './MarkList.vue'
import MarkStage from './MarkStage.vue'
import PathFile from './PathFile.vue'
import SheetSizes from './SheetSizes.vue'
import TypedMarks from './TypedMarks.vue'
import {
  A4,
  CORNERS,
  isDotted,
  isRun,
  mostOf,
  nameOf,
  nextOf,
  placesOf,
  putPlaces,
  same,
  standing,
} from './marks'
import type { Place, Standing, Step } from './marks'
import { get, post, send } from '@/api/client'
import type { DrapePieceView, MarkedBy } from '@/api/types'
import FileField from '@/components/FileField.vue'
import ProblemNote from '@/components/ProblemNote.vue'
import { useAction } from '@/composables/useAction'
import { usePieceInHand } from '@/composables/usePieceInHand'
import type { DrapedPiece } from '@/composables/usePieceInHand'
import type { Box } from '@/composables/useDrawingView'

const props = defineProps<{
  drape: number
  piece: DrapedPiece
  view: DrapePieceView
  /** Nothing is changed any more. @default false */
  fixed?: boolean
  /** Marks that are asked about. */
  doubted?: readonly string[]
  /** A slashed back: no path file has one. @default false */
  slashed?: boolean
}>()
const emit = defineEmits<{
  /** The server has it. */
  kept: [view: DrapePieceView]
}>()

const WAYS: { by: MarkedBy; name: string }[] = [
  { by: 'photograph', name: 'Click in a photograph' },
  { by: 'typing', name: 'Type over and down' },
  { by: 'path', name: 'Trace a path file' },
]
const ways = computed(() => WAYS.filter((way) => way.by !== 'path' || !props.slashed))
/** What the magnifier shows across, in pixels of the photograph and in millimetres of a path. */
const LENS = { photograph: 90, path: 60 }
/** What an arrow key moves a point of a path by, in millimetres. */
const STEP = 0.5
/** Air round a path, as a share of it. */
const AIR = 0.05

const { marked, change, takeBack, mayTakeBack, isKept, lost, problem, takeTheirs, settle } = usePieceInHand(
  () => props.drape,
  () => props.piece,
  () => props.view,
  (view) => emit('kept', view),
)

const by = computed(() => marked.value?.by ?? 'typing')
const steps = computed<Step[]>(() => {
  const marks = props.view.wanted.map((wanted): Step => ({ kind: 'mark', wanted }))
  if (by.value !== 'photograph') return marks
  const sheets = (marked.value?.sheets ?? []).map((_, index): Step => ({
    kind: 'sheet',
    index,
    name: `Sheet ${index + 1}`,
  }))
  // Asked for where one lies in the picture; without one a length by tape across the piece does the same.
  const tape: Step[] = marked.value?.tape?.mm ? [{ kind: 'tape', name: 'Tape in the picture' }] : []
  return [...sheets, ...tape, ...marks]
})
const points = computed(() => (marked.value ? standing(marked.value, steps.value) : []))

/** What is asked for now: what was chosen, or the first that is not there. */
const wished = ref<Step>()
const current = computed(() => {
  const chosen = steps.value.find((step) => same(step, wished.value))
  return chosen ?? (marked.value && nextOf(marked.value, steps.value, undefined))
})
/** The point the keys move. */
const chosenAt = ref<{ step: Step; index: number }>()
const chosen = computed(() => {
  const at = chosenAt.value
  return at && points.value.find((point) => same(point.step, at.step) && point.index === at.index)
})
/** What a press places: nothing where all is there, or nothing is changed any more. */
const asked = computed(() => (props.fixed ? undefined : current.value))

watch(
  () => [props.drape, props.piece],
  () => {
    wished.value = undefined
    chosenAt.value = undefined
  },
)

function choose(step: Step): void {
  wished.value = step
  const there = marked.value ? placesOf(marked.value, step) : []
  chosenAt.value = there.length ? { step, index: there.length - 1 } : undefined
}

/** On to what is not there yet. */
function next(): void {
  if (!marked.value) return
  wished.value = nextOf(marked.value, steps.value, current.value)
  chosenAt.value = undefined
}

function place(at: Place): void {
  const step = asked.value
  if (!step || !marked.value) return
  const there = placesOf(marked.value, step)
  // A cross that is placed again moves; a sheet that has its corners is begun anew only when one is taken out.
  const most = mostOf(step)
  if (most > 1 && there.length >= most) return
  const index = most === 1 ? 0 : there.length
  change((piece) => putPlaces(piece, step, most === 1 ? [at] : [...placesOf(piece, step), at]))
  chosenAt.value = { step, index }
  const isEnded = most === 1 || there.length + 1 >= most
  wished.value = isEnded && marked.value ? nextOf(marked.value, steps.value, step) : step
}

function move(point: Standing, at: Place): void {
  if (props.fixed) return
  change((piece) => {
    const there = placesOf(piece, point.step)
    putPlaces(
      piece,
      point.step,
      there.map((was, index) => (index === point.index ? at : was)),
    )
  })
}

function remove(point: Standing): void {
  if (props.fixed) return
  change((piece) => {
    const there = placesOf(piece, point.step)
    putPlaces(
      piece,
      point.step,
      there.filter((_, index) => index !== point.index),
    )
  })
  wished.value = point.step
  chosenAt.value = undefined
}

async function takeWay(way: MarkedBy): Promise<void> {
  if (!marked.value || way === by.value) return
  const hasMarks = Object.keys(marked.value.marks ?? {}).length > 0
  if (hasMarks) {
    try {
      await ElMessageBox.confirm(
        'The marks that are there are of another measure, and go. They can be taken back.',
        'Mark it another way?',
        { confirmButtonText: 'Mark it anew', cancelButtonText: 'Leave it' },
      )
    } catch {
      return
    }
  }
  change((piece) => {
    piece.by = way
    piece.marks = {}
    if (way === 'photograph' && !piece.sheets?.length) piece.sheets = [{ ...A4 }, { ...A4 }]
  })
  wished.value = undefined
}

/** The photograph's address changes with the photograph. */
const pictureOf = ref(props.view.revision)
const {
  run: bring,
  busy: sending,
  problem: refused,
} = useAction(
  async (file: File) => {
    await settle()
    const params = { path: { id: props.drape, piece: props.piece } }
    return post('/api/drapes/{id}/pieces/{piece}/photograph', { params, body: file })
  },
  (view) => {
    pictureOf.value = view.revision
    takeTheirs(view)
    emit('kept', view)
    if (by.value !== 'photograph') void takeWay('photograph')
  },
  { repeats: true },
)
const picture = computed(() => {
  const size = props.view.picture
  if (!size) return undefined
  const [width = 0, height = 0] = size
  return {
    href: `/api/drapes/${props.drape}/pieces/${props.piece}/photograph?of=${pictureOf.value}`,
    width,
    height,
  }
})

/** The bounds of a path, as the browser draws it, with some air. */
const outline = useTemplateRef<SVGPathElement>('outline')
const pathBox = shallowRef<Box>()
watch(
  [outline, () => marked.value?.path],
  ([element, path]) => {
    pathBox.value = undefined
    if (!element || !path) return
    const { x, y, width, height } = element.getBBox()
    const air = Math.max(width, height) * AIR
    pathBox.value = { x: x - air, y: y - air, width: width + 2 * air, height: height + 2 * air }
  },
  { flush: 'post', immediate: true },
)
/** All there is to mark in. */
const whole = computed<Box | undefined>(() =>
  by.value === 'path'
    ? pathBox.value
    : picture.value && { x: 0, y: 0, width: picture.value.width, height: picture.value.height },
)
/** What an arrow key moves a point by, and what the magnifier shows across: pixels, or millimetres of a path. */
const units = computed(() => 1 / (marked.value?.mm_per_unit ?? 1))
const step = computed(() => (by.value === 'path' ? STEP * units.value : 1))
const lens = computed(() => (by.value === 'path' ? LENS.path * units.value : LENS.photograph))

async function readAnew(): Promise<void> {
  const params = { path: { id: props.drape } }
  const answer = await send(get('/api/drapes/{id}', { params }))
  if (!answer.ok) return
  takeTheirs(answer.value[props.piece])
  emit('kept', answer.value[props.piece])
}

/** What is asked for, in a sentence. */
const says = computed(() => {
  const step = asked.value
  if (!step || !marked.value) return 'Everything is there. Any point can still be moved.'
  const count = placesOf(marked.value, step).length
  if (step.kind === 'sheet')
    return count >= CORNERS
      ? 'All four corners are there.'
      : `Corner ${count + 1} of ${CORNERS}, one after the other round it.`
  if (step.kind === 'tape') return 'Two places on it, as far apart as you have said.'
  if (isRun(step.wanted)) return `${step.wanted.place}: dot ${count + 1}, in order along the line.`
  return step.wanted.place
})
defineExpose({ settle, choose })
</script>

<template>
  <div v-if="marked" class="stack">
    <div class="between">
      <fieldset class="chips">
        <legend class="visually-hidden">How the marks come in</legend>
        <label v-for="way in ways" :key="way.by" class="chip"
          ><input
            type="radio"
            :name="`way-${piece}`"
            :checked="way.by === by"
            :disabled="fixed"
            @change="takeWay(way.by)"
          /><span>{{ way.name }}</span></label
        >
      </fieldset>
      <p class="row small soft" role="status">
        <span v-if="lost" class="decide">No line: kept on this device, and sent when it is back.</span>
        <span v-else>{{ isKept ? 'Every click is kept.' : 'Keeping…' }}</span>
        <ElButton v-if="!fixed" size="small" :disabled="!mayTakeBack" @click="takeBack">Take back</ElButton>
      </p>
    </div>
    <ProblemNote :problem="problem ?? refused">
      <button v-if="problem?.status === 409" type="button" class="quiet" @click="readAnew">
        Show what is there now
      </button>
    </ProblemNote>
    <TypedMarks
      v-if="by === 'typing'"
      :piece="marked"
      :steps="steps"
      :current="current"
      @change="change"
      @choose="wished = $event"
    />
    <template v-else>
      <PathFile v-if="by === 'path' && !whole && !fixed" :name="piece" @change="change" />
      <div v-if="by === 'photograph' && !picture && !fixed" class="bring">
        <FileField
          :id="`photograph-${piece}`"
          :label="`A photograph of the ${piece}`"
          accept="image/jpeg,image/png,image/webp"
          @file="bring"
        />
        <p class="small soft">
          Flat and pressed, the camera one to one and a half metres above the middle of it, the main lens
          without zoom. A sheet of known size on either side; the toile within the middle two thirds.
          <span v-if="sending" role="status">Taking it in…</span>
        </p>
      </div>
      <svg v-if="by === 'path'" class="measured" aria-hidden="true">
        <path ref="outline" :d="marked.path" />
      </svg>
      <div v-if="whole" class="bench">
        <div class="stack work">
          <p class="asked" aria-live="polite">
            <strong>{{ asked ? nameOf(asked) : 'Done' }}</strong> <span class="soft">{{ says }}</span>
            <span class="row">
              <ElButton v-if="asked && isDotted(asked)" size="small" @click="next">Next mark</ElButton>
              <ElButton v-if="chosen && !fixed" size="small" @click="remove(chosen)"
                >Take out {{ nameOf(chosen.step)
                }}{{ isDotted(chosen.step) ? `, dot ${chosen.index + 1}` : '' }}</ElButton
              >
            </span>
          </p>
          <MarkStage
            :whole="whole"
            :points="points"
            :asked="asked"
            :chosen="chosen"
            :step="step"
            :lens="lens"
            :name="by === 'path' ? `Outline of the ${piece}` : `Photograph of the ${piece}`"
            :doubted="doubted"
            @place="place"
            @move="move"
            @choose="chosenAt = $event && { step: $event.step, index: $event.index }"
            @remove="remove"
            @next="next"
          >
            <template #ground>
              <path v-if="by === 'path'" class="outline" :d="marked.path" />
              <image
                v-else-if="picture"
                :href="picture.href"
                :width="picture.width"
                :height="picture.height"
              />
            </template>
          </MarkStage>
        </div>
        <div class="stack">
          <MarkList :piece="marked" :steps="steps" :current="current" :doubted="doubted" @choose="choose" />
          <template v-if="!fixed">
            <SheetSizes v-if="by === 'photograph'" :piece="marked" @change="change" />
            <ControlLengths :piece="marked" :wanted="view.wanted" @change="change" />
            <details v-if="by === 'photograph'">
              <summary>Another photograph of it</summary>
              <FileField
                :id="`photograph-${piece}`"
                label="It takes this one's place; what is clicked stays"
                accept="image/jpeg,image/png,image/webp"
                @file="bring"
              />
            </details>
            <details v-else>
              <summary>Another outline</summary>
              <PathFile :name="piece" @change="change" />
            </details>
          </template>
        </div>
      </div>
    </template>
    <ControlLengths
      v-if="by === 'typing' && !fixed"
      class="card"
      :piece="marked"
      :wanted="view.wanted"
      @change="change"
    />
  </div>
</template>

<style scoped>
div.bring {
  display: grid;
  grid-template-columns: minmax(0, 22rem) minmax(0, 1fr);
  gap: 1rem;
  align-items: center;
}
summary {
  cursor: pointer;
  font-weight: 700;
}
.measured {
  position: absolute;
  width: 0;
  height: 0;
}
.outline {
  fill: var(--cloth);
  stroke: var(--ink);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.bench {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 19rem;
  gap: 1.2rem;
  align-items: start;
}
.work {
  gap: 0.5rem;
}
.asked {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 0.7rem;
  align-items: baseline;
  min-height: 2.4rem;
}
.asked strong::first-letter {
  text-transform: uppercase;
}
@media (max-width: 900px) {
  div.bring,
  .bench {
    grid-template-columns: minmax(0, 1fr);
  }
  /* What is asked for stays in sight over the picture. */
  .asked {
    position: sticky;
    top: 0;
    z-index: 2;
    padding: 0.4rem 0;
    background: var(--paper);
  }
}
</style>
