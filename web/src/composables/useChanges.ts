import { tryOnScopeDispose, useEventListener } from '@vueuse/core'
import { channel } from '@/api/changes'

/** Several writes in a row are read once, this long after the last, in milliseconds. */
const SETTLES = 150

/** Calls `read` when another tab has saved something, and when this one is looked at again. */
export function useChanges(read: () => void): void {
  let timer: ReturnType<typeof setTimeout> | undefined
  const soon = () => {
    clearTimeout(timer)
    timer = setTimeout(read, SETTLES)
  }
  useEventListener(channel, 'message', soon)
  useEventListener(document, 'visibilitychange', () => {
    if (document.visibilityState === 'visible') soon()
  })
  tryOnScopeDispose(() => clearTimeout(timer))
}
