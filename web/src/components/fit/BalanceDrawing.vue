<script setup lang="ts">
/** A level line on her own figure, from the front and from the side, with what it rises and sinks drawn larger. */
import { computed } from 'vue'
import FigureBody from '@/components/FigureBody.vue'
import type { Balance, BalanceLine, RoundView, Station } from '@/api/types'
import { useHouse } from '@/composables/useHouse'

const props = defineProps<{ round: RoundView; line: BalanceLine; read?: Balance }>()
const { units } = useHouse()

/** How much larger than life a hike is drawn: an eighth of an inch would not be seen on a whole figure. */
const LARGER = 5
/** Air beyond the figure for the figures beside the line, in millimetres. */
const AIR = 170
/** Where each line is drawn: the places that give its height, and those at its two ends seen from the side. */
const AT: Record<BalanceLine, { front: string; side: string; ends: [string, string] }> = {
  bust: { front: 'centre front', side: 'bust', ends: ['bust', 'shoulder blade'] },
  waist: { front: 'front waist', side: 'front waist', ends: ['front waist', 'back waist'] },
  hip: { front: 'hip', side: 'hip', ends: ['belly', 'seat'] },
  hem: { front: 'front hem', side: 'side hem', ends: ['front hem', 'back hem'] },
}
const WIDEST: Record<BalanceLine, string> = {
  bust: 'underarm',
  waist: 'waist at the side',
  hip: 'hip',
  hem: 'hip',
}

const place = (view: 'front' | 'side', name: string) =>
  props.round.places.find((each) => each.view === view && each.name === name)?.at
const off = (station: Station) => props.read?.stations.find((each) => each.station === station)

interface End {
  x: number
  station: Station
  name: string
}
interface Picture {
  name: string
  box: string
  level: number
  ends: [End, End]
  figure: RoundView['front']
}

const pictures = computed<Picture[]>(() => {
  const at = AT[props.line]
  const level = place('front', at.front)?.y
  const half = Math.abs(place('front', WIDEST[props.line])?.x ?? 0)
  const [fore, aft] = at.ends.map((name) => place('side', name)?.x)
  if (level === undefined || fore === undefined || aft === undefined) return []
  const side = place('side', at.side)?.y ?? level
  const make = (name: string, figure: RoundView['front'], height: number, ends: [End, End]): Picture => {
    const { x, y, width, height: tall } = props.line === 'hem' ? figure.bounds : figure.upper
    return { name, figure, level: height, ends, box: `${x - AIR} ${y} ${width + 2 * AIR} ${tall}` }
  }
  return [
    make('From the front', props.round.front, level, [
      { x: -half, station: 'right', name: 'her right' },
      { x: half, station: 'left', name: 'her left' },
    ]),
    make('From the side', props.round.side, side, [
      { x: fore, station: 'centre_front', name: 'front' },
      { x: aft, station: 'centre_back', name: 'back' },
    ]),
  ]
})

function ends(picture: Picture) {
  const out = picture.ends[0].x < picture.ends[1].x ? [-1, 1] : [1, -1]
  return picture.ends.map((end, index) => {
    const found = off(end.station)
    const way = out[index] ?? 1
    return {
      ...end,
      x: end.x + way * 12,
      y: picture.level - (found?.off.mm ?? 0) * LARGER,
      text: found ? found.off.text : '',
      anchor: way < 0 ? ('end' as const) : ('start' as const),
      at: end.x + way * 34,
    }
  })
}
</script>

<template>
  <div class="pictures">
    <figure v-for="picture in pictures" :key="picture.name">
      <svg
        :viewBox="picture.box"
        role="img"
        :aria-label="`${picture.name}: ${read ? read.says.join(' ') || 'level' : 'no heights yet'}`"
      >
        <FigureBody :figure="picture.figure" />
        <line
          class="free"
          :x1="ends(picture)[0]!.x"
          :x2="ends(picture)[1]!.x"
          :y1="picture.level"
          :y2="picture.level"
        />
        <template v-if="read">
          <line
            class="is"
            :x1="ends(picture)[0]!.x"
            :x2="ends(picture)[1]!.x"
            :y1="ends(picture)[0]!.y"
            :y2="ends(picture)[1]!.y"
          />
          <g v-for="end in ends(picture)" :key="end.station">
            <circle :cx="end.x" :cy="end.y" r="10" class="mark" />
            <text :x="end.at" :y="end.y + 14" :text-anchor="end.anchor">{{ end.text }}</text>
          </g>
        </template>
      </svg>
      <figcaption class="small soft">{{ picture.name }}</figcaption>
    </figure>
    <p class="small soft note">
      Dashed: where the line hangs free. Above (+) and below (−) it, {{ units }}, drawn {{ LARGER }} times
      larger.
    </p>
  </div>
</template>

<style scoped>
.pictures {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.6rem;
}
figure {
  margin: 0;
  text-align: center;
}
svg {
  display: block;
  width: 100%;
  height: 400px;
  background: var(--raised);
  border: 1px solid var(--rule);
}
.free {
  stroke: var(--ink-soft);
  stroke-width: 3;
  stroke-dasharray: 14 9;
}
.is {
  stroke: var(--madder);
  stroke-width: 6;
}
.mark {
  fill: var(--madder);
}
text {
  font: 700 42px var(--sans);
  fill: var(--madder);
}
.note {
  grid-column: 1 / -1;
}
@media (max-width: 700px) {
  .pictures {
    grid-template-columns: minmax(0, 1fr);
  }
  svg {
    height: 340px;
  }
}
</style>
