/**
 * What was read, kept for the pages that ask for the same: shown at once, and read anew behind it. What was read before
 * something was saved is shown to nobody who comes later.
 */
import { QueryClient, notifyManager } from '@tanstack/vue-query'
import { whenSaved } from './changes'
import { send } from './client'
import type { Call } from './client'
import type { Problem } from './types'

/** Why a read gave nothing. */
export class Unread extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}

/** A read is tried so often when the line is lost. */
const TRIES = 3

export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // A lost line is a problem that is said, not a read that waits unseen.
      networkMode: 'always',
      // Other tabs say when they have saved; see `useResource`.
      refetchOnWindowFocus: false,
      retry: (tried, error) => error instanceof Unread && error.problem.status === 0 && tried < TRIES - 1,
      retryDelay: (tried) => 300 * (tried + 1),
    },
  },
})
// An answer is shown as soon as it is there.
notifyManager.setScheduler(queueMicrotask)

/** Sends a call that reads; rejects with why there is no answer. */
export async function read<T>(call: Call<T>, signal: AbortSignal): Promise<T> {
  const result = await send(call, { signal, tries: 1 })
  if (!result.ok) throw new Unread(result.problem)
  return result.value
}

let lastSaved = 0
const cache = queries.getQueryCache()

whenSaved(() => {
  lastSaved = Date.now()
  queries.removeQueries({ type: 'inactive' })
  // What is being read may have begun before: it is asked for anew, and nobody is shown the older answer.
  for (const { queryKey } of cache.findAll({ fetchStatus: 'fetching' })) {
    const it = { queryKey, exact: true }
    void queries.cancelQueries(it).then(() => queries.refetchQueries({ ...it, type: 'active' }))
  }
})
cache.subscribe(({ type, query }) => {
  if (type === 'observerRemoved' && !query.isActive() && query.state.dataUpdatedAt <= lastSaved)
    cache.remove(query)
})
