import { computed, shallowRef } from 'vue'
import { get } from '@/api/client'
import type { Craft, HouseView, Me } from '@/api/types'

const me = shallowRef<Me>()
const house = shallowRef<HouseView>()
const craft = shallowRef<Craft>()

/** Who is signed in, the house's choices, and what the craft knows: read once for the whole application. */
export function useHouse() {
  /** Reads all three; false where nobody is signed in. */
  async function enter(): Promise<boolean> {
    const who = await get<Me>('/api/me')
    if (!who.ok) return false
    me.value = who.value
    const [own, known] = await Promise.all([get<HouseView>('/api/house'), get<Craft>('/api/craft')])
    if (own.ok) house.value = own.value
    if (known.ok) craft.value = known.value
    return true
  }

  function leave(): void {
    me.value = undefined
  }

  const unit = computed(() => house.value?.suffix ?? 'in')
  /** The unit in a sentence. */
  const units = computed(() =>
    house.value?.unit === 'cm' ? 'centimetres' : house.value?.unit === 'mm' ? 'millimetres' : 'inches',
  )
  return { me, house, craft, unit, units, enter, leave }
}
