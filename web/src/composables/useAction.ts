import { readonly, ref, shallowReadonly, shallowRef, watch } from 'vue'
import type { DeepReadonly, Ref, ShallowRef, WatchSource } from 'vue'
import { fieldsRead } from './usePendingFields'
import { send } from '@/api/client'
import type { Call } from '@/api/client'
import type { Problem } from '@/api/types'

export interface UseActionOptions {
  /** What opens the form: opened again, it is another action. */
  opens?: WatchSource<unknown>
  /** The same again is meant: a second link, the next letters. @default false */
  repeats?: boolean
}

export interface UseActionReturn<A extends unknown[]> {
  /** Does it; a press while it is under way is the same press. True where the server has taken it. */
  run: (...given: A) => Promise<boolean>
  /** Under way. */
  busy: DeepReadonly<Ref<boolean>>
  /** Why it was not done. */
  problem: Readonly<ShallowRef<Problem | undefined>>
  /** Forgets the problem and makes another action of it. */
  renew: () => void
}

/**
 * One action of a person: waits until every field that was typed into is read, then sends one write under one key.
 * A double click, a second tap and a try repeated on a bad line save once. `write` says what to send, nothing where
 * there is nothing to do; `done` hears what the server answered.
 */
export function useAction<T, A extends unknown[] = []>(
  write: (...given: A) => Call<T> | undefined | Promise<Call<T> | undefined>,
  done?: (answer: T, ...given: A) => unknown,
  options: UseActionOptions = {},
): UseActionReturn<A> {
  const busy = ref(false)
  const problem = shallowRef<Problem>()
  let key = crypto.randomUUID()
  /** What the server has taken under this key: the very same again is the same action. */
  let taken: string | undefined

  function renew(): void {
    key = crypto.randomUUID()
    taken = undefined
    problem.value = undefined
  }

  async function run(...given: A): Promise<boolean> {
    if (busy.value) return false
    busy.value = true
    try {
      if (!(await fieldsRead())) return false
      const call = await write(...given)
      if (call === undefined) return false
      const sent = JSON.stringify(call)
      if (taken !== undefined && sent !== taken) key = crypto.randomUUID()
      const result = await send(call, { key })
      problem.value = result.ok ? undefined : result.problem
      if (!result.ok) {
        // An earlier try under this key was kept after all: the next press is another action.
        if (result.problem.type === 'urn:yardwand:key-used') key = crypto.randomUUID()
        return false
      }
      taken = sent
      if (options.repeats) renew()
      await done?.(result.value, ...given)
      return true
    } finally {
      busy.value = false
    }
  }

  // Closing it is still the same action: a late second press saves nothing.
  if (options.opens) watch(options.opens, (now) => now && renew())
  return { run, busy: readonly(busy), problem: shallowReadonly(problem), renew }
}
