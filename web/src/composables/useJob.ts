import { useIntervalFn } from '@vueuse/core'
import { computed, watch } from 'vue'
import type { ComputedRef, Ref } from 'vue'
import { get, post } from '@/api/client'
import type { JobView, Problem } from '@/api/types'
import { useAction } from './useAction'
import { useResource } from './useResource'

export interface UseJobReturn {
  /** How it stands; none until it was read. */
  job: Readonly<Ref<JobView | undefined>>
  /** It has not ended. */
  inHand: ComputedRef<boolean>
  /** Why it cannot be read, or was not given up. */
  problem: ComputedRef<Problem | undefined>
  /** Gives it up. */
  stop: () => Promise<boolean>
}

/** Whether a piece of long work has not ended. */
export const isInHand = ({ state }: JobView): boolean => ['waiting', 'working', 'stopping'].includes(state)

/** How often it is looked at, in milliseconds. */
const LOOK = 700

/**
 * A piece of long work, whichever server does it: followed until it has ended, which `ended` hears. No number, nothing to
 * follow.
 */
export function useJob(id: Ref<number | undefined>, ended?: (job: JobView) => unknown): UseJobReturn {
  const params = () => ({ path: { id: id.value ?? 0 } })
  const {
    data,
    problem: unread,
    reload,
  } = useResource(() => (id.value === undefined ? undefined : get('/api/jobs/{id}', { params: params() })))
  const job = computed(() => (data.value?.id === id.value ? data.value : undefined))
  const inHand = computed(() => job.value !== undefined && isInHand(job.value))
  const { run: stop, problem: goesOn } = useAction(
    () => (id.value === undefined ? undefined : post('/api/jobs/{id}/stop', { params: params() })),
    reload,
    { repeats: true },
  )
  // It may have ended before it was looked at for the first time.
  watch(
    () => (job.value && !inHand.value ? job.value.id : undefined),
    () => job.value && !inHand.value && ended?.(job.value),
  )
  useIntervalFn(() => void (inHand.value && reload()), LOOK)
  return { job, inHand, problem: computed(() => unread.value ?? goesOn.value), stop }
}
