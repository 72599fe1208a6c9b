import { ref, watch } from 'vue'
import type { Ref } from 'vue'
import type { HouseView } from '@/api/types'
import { useHouse } from './useHouse'

/**
 * A copy to type into of one part of the house's choices; none until the house is read. It is taken anew only when this
 * part was kept otherwise: what is half typed in one card outlives saving another.
 */
export function useHousePart<T>(part: (house: HouseView) => T): Ref<T | undefined> {
  const { house } = useHouse()
  const entry = ref<T>()
  watch(
    () => house.value && JSON.stringify(part(house.value)),
    (kept) => {
      if (kept !== undefined) entry.value = JSON.parse(kept) as T
    },
    { immediate: true },
  )
  return entry as Ref<T | undefined>
}
