import { computed, onScopeDispose, shallowRef, toValue, watch } from 'vue'
import type { MaybeRefOrGetter } from 'vue'
import type { Problem, RoundCauses, RoundView } from '@/api/types'
import { useOutbox } from './useOutbox'
import type { Waiting } from './useOutbox'
import { usePhotographs } from './usePhotographs'
import { useResource } from './useResource'

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
  const path = () => (toValue(id) === undefined ? undefined : `/api/rounds/${toValue(id)}`)
  const { data: round, problem, reload } = useResource<RoundView>(path)
  const { data: causes, reload: weigh } = useResource<RoundCauses>(() => path() && `${path()}/causes`)
  const returned = shallowRef<Returned[]>([])

  const refresh = async () => void (await Promise.all([reload(), weigh()]))
  const outbox = useOutbox(() => (toValue(id) === undefined ? undefined : `round-${toValue(id)}`), {
    sent: () => void refresh(),
    refused: (entry, why) => {
      returned.value = [...returned.value, { entry, problem: why }]
      void refresh()
    },
  })
  const photographs = usePhotographs(id, () => void refresh())

  let source: EventSource | undefined
  watch(
    () => toValue(id),
    (now) => {
      source?.close()
      if (now === undefined) return
      source = new EventSource(`/api/rounds/${now}/events`)
      source.addEventListener('round', () => void refresh())
    },
    { immediate: true },
  )
  onScopeDispose(() => source?.close())

  /** Observations that are not at the server yet. */
  const pending = computed(() => outbox.waiting.value.filter((entry) => entry.path.endsWith('/observations')))
  const letGo = (key: string) => (returned.value = returned.value.filter((each) => each.entry.key !== key))

  return { round, causes, problem, returned, letGo, pending, outbox, photographs, refresh }
}
