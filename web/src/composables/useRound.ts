import { computed, shallowRef, toValue, watch } from 'vue'
import type { MaybeRefOrGetter } from 'vue'
import { get } from '@/api/client'
import type { Problem } from '@/api/types'
import { useOutbox } from './useOutbox'
import type { Waiting } from './useOutbox'
import { usePhotographs } from './usePhotographs'
import { useResource } from './useResource'
import { useServerEvents } from './useServerEvents'

/** An entry the server turned down, with all that was entered. */
export interface Returned {
  entry: Waiting
  problem: Problem
}

/**
 * A fitting round as two fitters may work on it: read anew whenever something was entered here or elsewhere, written
 * through an outbox that survives a lost line.
 */
export function useRound(id: MaybeRefOrGetter<number | undefined>) {
  /** The parameters of the round's addresses. */
  function at() {
    const now = toValue(id)
    return now === undefined ? undefined : { path: { id: now } }
  }
  const {
    data: round,
    problem,
    reload,
  } = useResource(() => {
    const params = at()
    return params && get('/api/rounds/{id}', { params })
  })
  const {
    data: causes,
    problem: notWeighed,
    reload: weigh,
  } = useResource(() => {
    const params = at()
    return params && get('/api/rounds/{id}/causes', { params })
  })
  const returned = shallowRef<Returned[]>([])
  // What was turned down is kept on this device too, until somebody takes it up or lets it go.
  const place = () => `yardwand-returned:round-${toValue(id)}`
  function keep(entries: Returned[]): void {
    returned.value = entries
    if (entries.length) localStorage.setItem(place(), JSON.stringify(entries))
    else localStorage.removeItem(place())
  }

  const refresh = async () => void (await Promise.all([reload(), weigh()]))
  const outbox = useOutbox(() => (toValue(id) === undefined ? undefined : `round-${toValue(id)}`), {
    sent: () => void refresh(),
    refused: (entry, why, late) => {
      if (late) keep([...returned.value, { entry, problem: why }])
      void refresh()
    },
  })
  const photographs = usePhotographs(id, () => void refresh())

  useServerEvents(
    () => {
      const now = toValue(id)
      return now === undefined ? undefined : `/api/rounds/${now}/events`
    },
    { round: () => void refresh() },
  )
  watch(
    () => toValue(id),
    (now) => {
      if (now !== undefined) returned.value = JSON.parse(localStorage.getItem(place()) ?? '[]') as Returned[]
    },
    { immediate: true },
  )

  /** Observations that found no line and wait for it. */
  const pending = computed(() =>
    outbox.lost.value ? outbox.waiting.value.filter((entry) => entry.path.endsWith('/observations')) : [],
  )
  const letGo = (key: string) => keep(returned.value.filter((each) => each.entry.key !== key))

  return { round, causes, notWeighed, problem, returned, letGo, pending, outbox, photographs, refresh }
}
