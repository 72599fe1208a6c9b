import { readonly, ref } from 'vue'
import type { DeepReadonly, Ref } from 'vue'
import { put } from '@/api/client'
import { useAction, type UseActionReturn } from './useAction'
import { useHouse } from './useHouse'

export type UseHouseSaveReturn = Omit<UseActionReturn<[]>, 'renew'> & {
  /** The last press was kept. */
  saved: DeepReadonly<Ref<boolean>>
}

/** Saves one part of the house's choices; what `part` leaves out stays as the house has it. */
export function useHouseSave(part: () => Record<string, unknown>): UseHouseSaveReturn {
  const { house } = useHouse()
  const saved = ref(false)
  const { run, busy, problem } = useAction(
    () => {
      saved.value = false
      if (!house.value) return undefined
      const { revision, name, style, ease_set } = house.value
      const body = { revision, name, style, ease_set, ...part() }
      return put('/api/house', { body })
    },
    (now) => {
      saved.value = true
      house.value = now
    },
  )
  return { run, busy, problem, saved: readonly(saved) }
}
