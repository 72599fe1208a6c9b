import { useQuery } from '@tanstack/vue-query'
import { computed, nextTick, shallowRef, toValue, watch } from 'vue'
import type { MaybeRefOrGetter, Ref, ShallowRef } from 'vue'
import type { Call } from '@/api/client'
import { Unread, queries, read } from '@/api/queries'
import type { Problem } from '@/api/types'
import { useChanges } from './useChanges'

export interface UseResourceOptions {
  /**
   * Whether what another tab saved may replace what is shown: not while something is half typed over it.
   * @default always
   */
  follows?: () => boolean
  /**
   * Whether what was read once is good until something is saved, here or in another tab: the catalogue, not a round.
   * @default false
   */
  lasts?: boolean
}

export interface UseResourceReturn<T> {
  /** What the server answered last; none until it did. */
  data: ShallowRef<T | undefined>
  /** Why there is no answer. */
  problem: Readonly<Ref<Problem | undefined>>
  /** Reads anew. */
  reload: () => Promise<void>
  /** When what is being read has come: for an action that takes what was chosen a moment ago. */
  settled: () => Promise<void>
}

/** The newest read anew of each call that is under way: one that it has overtaken brings nothing, and waits for it. */
const newest = new Map<string, Promise<unknown>>()

/**
 * What a call of the API reads; read anew whenever the call changes and when another tab has saved something. No call, no
 * read. The same call on two parts of a page is one read, and a page that is come back to shows at once what it read.
 */
export function useResource<T>(
  source: MaybeRefOrGetter<Call<T> | undefined>,
  options: UseResourceOptions = {},
): UseResourceReturn<T> {
  const data = shallowRef<T>()
  /** The call whose answer is shown. */
  let shown: string | undefined

  const call = computed(() => toValue(source))
  /** Two calls that are written alike are one. */
  const written = computed(() => JSON.stringify(call.value))
  const key = computed(() => [written.value ?? 'nothing'])
  const query = useQuery<T, Error>(
    {
      queryKey: key,
      queryFn: ({ signal }) => {
        if (!call.value) throw new Error('nothing is read without a call')
        return read(call.value, signal)
      },
      enabled: computed(() => call.value !== undefined),
      staleTime: options.lasts ? Infinity : 0,
      shallow: true,
    },
    queries,
  )
  const problem = computed(() =>
    query.error.value instanceof Unread ? query.error.value.problem : undefined,
  )

  function take(now: T | undefined): void {
    if (now === undefined) return
    data.value = now
    shown = written.value
  }
  watch(
    query.data,
    (now) => {
      // What was read behind what is shown comes in unless something is half typed over it.
      if (shown !== written.value || (options.follows?.() ?? true)) take(now)
    },
    { flush: 'sync' },
  )
  // What was read before comes a moment later, as an answer does: whoever watches it hears of it.
  if (query.data.value !== undefined) queueMicrotask(() => shown ?? take(query.data.value))

  async function reload(): Promise<void> {
    if (call.value === undefined) return
    // A call that was changed a moment ago is the one that is meant.
    await nextTick()
    const place = written.value
    const queryKey = key.value
    // A read that is under way began before what it is read anew for.
    const mine = queries.cancelQueries({ queryKey, exact: true }).then(() => query.refetch())
    newest.set(place, mine)
    for (let now = newest.get(place); now; now = newest.get(place)) {
      await now
      if (newest.get(place) === now) newest.delete(place)
    }
    if (written.value === place) take(queries.getQueryData<T>(queryKey))
  }

  async function settled(): Promise<void> {
    await nextTick()
    // A read that was overtaken is followed by the newer one.
    while (query.isFetching.value) take((await query.refetch({ cancelRefetch: false })).data)
  }

  useChanges(async () => {
    if (call.value === undefined || data.value === undefined) return
    const { data: now } = await query.refetch({ cancelRefetch: false })
    if (options.follows?.() ?? true) take(now)
  })
  return { data, problem, reload, settled }
}
