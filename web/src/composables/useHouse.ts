import { computed, shallowRef, watch } from 'vue'
import { get, send } from '@/api/client'
import { forgetAll } from '@/api/kept'
import { queries } from '@/api/queries'
import type { Craft, FittingStage, HouseView, Me, RightName, Side } from '@/api/types'
import { useChanges } from './useChanges'

const me = shallowRef<Me>()
const house = shallowRef<HouseView>()
const craft = shallowRef<Craft>()

// Sentences, ease and allowances of the craft are in the house's unit.
watch(
  () => JSON.stringify(house.value?.style),
  async (_, before) => {
    const known = before && (await send(get('/api/craft')))
    if (known && known.ok) craft.value = known.value
  },
)

/** Who is signed in, the house's choices, and what the craft knows: read once for the whole application. */
export function useHouse() {
  /** Reads all three; false where nobody is signed in. */
  async function enter(): Promise<boolean> {
    const who = await send(get('/api/me'))
    if (!who.ok) return false
    me.value = who.value
    const [own, known] = await Promise.all([send(get('/api/house')), send(get('/api/craft'))])
    if (own.ok) house.value = own.value
    if (known.ok) craft.value = known.value
    return true
  }

  /** The same for somebody who has signed in just now: nothing is left of what was read for somebody else on this device. */
  async function enterAnew(): Promise<boolean> {
    await forgetAll()
    return enter()
  }

  /** Keeps the house as it was changed in another tab; once for the whole application. */
  function follow(): void {
    useChanges(async () => {
      const own = me.value && (await send(get('/api/house')))
      if (own?.ok && own.value.revision !== house.value?.revision) house.value = own.value
    })
  }

  function leave(): void {
    me.value = undefined
    // Whoever signs in next sees nothing that was read for somebody else.
    queries.clear()
    void forgetAll()
  }

  /** Whether who is signed in may change what takes this right. */
  const may = (right: RightName) => me.value?.may.includes(right) ?? false

  const unit = computed(() => house.value?.suffix ?? 'in')
  /** The unit in a sentence. */
  const units = computed(() =>
    house.value?.unit === 'cm' ? 'centimetres' : house.value?.unit === 'mm' ? 'millimetres' : 'inches',
  )
  /** A stage of fitting in words. */
  const stageName = (stage: FittingStage) =>
    craft.value?.stages.find((each) => each.stage === stage)?.name ?? ''
  /** What stands behind the name of a reading of one side. */
  const ofSide = (side: Side) => craft.value?.sides.find((each) => each.side === side)?.behind_a_name ?? ''
  return { me, house, craft, may, unit, units, stageName, ofSide, enter, enterAnew, follow, leave }
}
