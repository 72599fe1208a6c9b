import { onScopeDispose, readonly, ref } from 'vue'
import type { DeepReadonly, Ref } from 'vue'
import type { Problem } from '@/api/types'

export interface UseRetryReturn {
  /** The last try found no line. */
  lost: DeepReadonly<Ref<boolean>>
  /** Tries now; one try at a time. */
  flush: () => Promise<void>
}

/**
 * Whether a write has had no answer: no line, a line that was too slow, a server in trouble or with too many at once, or nobody
 * signed in. It waits then; anything else is an answer.
 */
export const isUnanswered = ({ status }: Problem): boolean =>
  [0, 401, 408, 429].includes(status) || status >= 500

/**
 * Sends what waits, again when the line is back and after a while. `drain` resolves with whether it found a line;
 * `again` is how long to wait before the next try, in milliseconds.
 */
export function useRetry(drain: () => Promise<boolean>, again: number): UseRetryReturn {
  const lost = ref(false)
  let running: Promise<void> | undefined
  let timer: ReturnType<typeof setTimeout> | undefined
  let ended = false

  async function attempt(): Promise<void> {
    clearTimeout(timer)
    lost.value = !(await drain())
    if (lost.value && !ended) timer = setTimeout(() => void flush(), again)
  }
  function flush(): Promise<void> {
    running ??= attempt().finally(() => (running = undefined))
    return running
  }

  const online = () => void flush()
  addEventListener('online', online)
  onScopeDispose(() => {
    ended = true
    removeEventListener('online', online)
    clearTimeout(timer)
  })
  return { lost: readonly(lost), flush }
}
