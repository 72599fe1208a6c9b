import { ElButton, ElNotification } from 'element-plus'
import { h, onScopeDispose } from 'vue'
import { send } from '@/api/client'
import type { Call } from '@/api/client'

/** Says what was taken away; `back` is the call that brings it back, `done` hears that it did. */
export type Undo = (said: string, back: Call<unknown>, done?: () => unknown) => void

/**
 * A way back from what was taken away: one line with its button, for as long as the page is open. What cannot be
 * brought back any more says why, and stays.
 */
export function useUndo(): Undo {
  const shown = new Set<() => void>()
  onScopeDispose(() => shown.forEach((close) => close()))

  return function offer(said, back, done) {
    const close = () => {
      notice.close()
      shown.delete(close)
    }
    async function bringBack(): Promise<void> {
      const result = await send(back, { key: crypto.randomUUID() })
      close()
      if (result.ok) await done?.()
      else ElNotification({ message: result.problem.detail, duration: 0, position: 'bottom-right' })
    }
    const notice = ElNotification({
      message: h('span', { class: 'undo' }, [
        said,
        ' ',
        h(ElButton, { size: 'small', onClick: bringBack }, () => 'Undo'),
      ]),
      duration: 0,
      position: 'bottom-right',
      customClass: 'undo-notice',
    })
    shown.add(close)
  }
}
