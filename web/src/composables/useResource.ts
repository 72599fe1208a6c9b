import { onScopeDispose, shallowReadonly, shallowRef, toValue, watch } from 'vue'
import type { MaybeRefOrGetter, ShallowRef } from 'vue'
import { get } from '@/api/client'
import type { Problem } from '@/api/types'

export interface UseResourceReturn<T> {
  /** What the server answered last; none until it did. */
  data: ShallowRef<T | undefined>
  /** Why there is no answer. */
  problem: Readonly<ShallowRef<Problem | undefined>>
  /** Reads anew. */
  reload: () => Promise<void>
}

/** What stands at an address of the API; read anew whenever the address changes. No address, no read. */
export function useResource<T>(path: MaybeRefOrGetter<string | undefined>): UseResourceReturn<T> {
  const data = shallowRef<T>()
  const problem = shallowRef<Problem>()
  let running: AbortController | undefined

  let newest: Promise<void> = Promise.resolve()

  async function read(): Promise<void> {
    const address = toValue(path)
    running?.abort()
    if (address === undefined) return
    const own = (running = new AbortController())
    const result = await get<T>(address, own.signal)
    if (own.signal.aborted) {
      // Overtaken: whoever waits for this answer gets the newer one.
      if (running !== own) await newest
      return
    }
    problem.value = result.ok ? undefined : result.problem
    if (result.ok) data.value = result.value
  }

  function reload(): Promise<void> {
    newest = read()
    return newest
  }

  watch(
    () => toValue(path),
    () => void reload(),
    { immediate: true },
  )
  onScopeDispose(() => running?.abort())
  return { data, problem: shallowReadonly(problem), reload }
}
