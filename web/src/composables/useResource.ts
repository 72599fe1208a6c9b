import { onScopeDispose, shallowReadonly, shallowRef, toValue, watch } from 'vue'
import type { MaybeRefOrGetter, ShallowRef } from 'vue'
import { send } from '@/api/client'
import type { Call } from '@/api/client'
import type { Problem } from '@/api/types'
import { useChanges } from './useChanges'

export interface UseResourceOptions {
  /**
   * Whether what another tab saved may replace what is shown: not while something is half typed over it.
   * @default always
   */
  follows?: () => boolean
}

export interface UseResourceReturn<T> {
  /** What the server answered last; none until it did. */
  data: ShallowRef<T | undefined>
  /** Why there is no answer. */
  problem: Readonly<ShallowRef<Problem | undefined>>
  /** Reads anew. */
  reload: () => Promise<void>
  /** When what is being read has come: for an action that takes what was chosen a moment ago. */
  settled: () => Promise<void>
}

/**
 * What a call of the API reads; read anew whenever the call changes and when another tab has saved something. No call, no
 * read.
 */
export function useResource<T>(
  source: MaybeRefOrGetter<Call<T> | undefined>,
  options: UseResourceOptions = {},
): UseResourceReturn<T> {
  const data = shallowRef<T>()
  const problem = shallowRef<Problem>()
  let running: AbortController | undefined

  let newest: Promise<void> = Promise.resolve()

  /** Two calls that are written alike are one. */
  const written = () => JSON.stringify(toValue(source))

  async function read(): Promise<void> {
    const call = toValue(source)
    running?.abort()
    if (call === undefined) return
    const own = (running = new AbortController())
    const result = await send(call, { signal: own.signal })
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

  /** Reads what others may have changed; the same again changes nothing here. */
  async function follow(): Promise<void> {
    const call = toValue(source)
    const asked = written()
    if (call === undefined || data.value === undefined) return
    const result = await send(call)
    const isNews = result.ok && JSON.stringify(result.value) !== JSON.stringify(data.value)
    if (isNews && asked === written() && (options.follows?.() ?? true)) data.value = result.value
  }
  useChanges(() => void follow())

  watch(written, () => void reload(), { immediate: true })
  onScopeDispose(() => running?.abort())
  return { data, problem: shallowReadonly(problem), reload, settled: () => newest }
}
