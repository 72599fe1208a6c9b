import { createStore, del, entries, set } from 'idb-keyval'
import { readonly, ref, shallowRef, toValue, watch } from 'vue'
import type { DeepReadonly, MaybeRefOrGetter, Ref, ShallowRef } from 'vue'
import { post, send } from '@/api/client'
import type { Problem } from '@/api/types'
import { isUnanswered, useRetry } from './useRetry'

interface WaitingPhotograph {
  round: number
  picture: Blob
  takenAt: string
  /** The observation it shows; the round as a whole without. */
  observation?: number
}

export interface UsePhotographsReturn {
  /** How many are not at the server yet. */
  waiting: DeepReadonly<Ref<number>>
  /** The last try found no line. */
  lost: DeepReadonly<Ref<boolean>>
  /** Why the last one was turned down. */
  problem: Readonly<ShallowRef<Problem | undefined>>
  /** Takes a photograph in: kept on this device until the server has it. */
  take: (picture: Blob, observation?: number) => Promise<void>
}

/** How long to wait before the next try, in milliseconds. */
const AGAIN = 2000
const store = createStore('yardwand', 'photographs')

/** Photographs that survive a dropped connection and a closed tab; each is sent once under its own key. */
export function usePhotographs(
  round: MaybeRefOrGetter<number | undefined>,
  kept: () => void,
): UsePhotographsReturn {
  const waiting = ref(0)
  const problem = shallowRef<Problem>()

  async function drain(): Promise<boolean> {
    const own = (await entries<string, WaitingPhotograph>(store)).filter(
      ([, photograph]) => photograph.round === toValue(round),
    )
    waiting.value = own.length
    for (const [key, photograph] of own) {
      const { takenAt: taken_at, observation, picture: body } = photograph
      const params = { path: { id: photograph.round }, query: { taken_at, observation } }
      const result = await send(post('/api/rounds/{id}/photographs', { params, body }), { key, tries: 1 })
      if (!result.ok && isUnanswered(result.problem)) return false
      await del(key, store)
      waiting.value -= 1
      problem.value = result.ok ? undefined : result.problem
      if (result.ok) kept()
    }
    return true
  }
  const { lost, flush } = useRetry(drain, AGAIN)

  async function take(picture: Blob, observation?: number): Promise<void> {
    const of = toValue(round)
    if (of === undefined) return
    problem.value = undefined
    const photograph = { round: of, picture, takenAt: new Date().toISOString(), observation }
    await set(crypto.randomUUID(), photograph, store)
    waiting.value += 1
    await flush()
  }

  watch(
    () => toValue(round),
    (id) => id !== undefined && void flush(),
    { immediate: true },
  )
  return { waiting: readonly(waiting), lost, problem, take }
}
