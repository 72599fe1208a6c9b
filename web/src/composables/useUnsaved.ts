import { useEventListener } from '@vueuse/core'
import { ElMessageBox } from 'element-plus'
import { onBeforeRouteLeave, onBeforeRouteUpdate } from 'vue-router'

/** Asks whether what was typed may go; true where it may. */
export async function mayThrowAway(): Promise<boolean> {
  try {
    await ElMessageBox.confirm('What you typed here is not saved.', 'Leave without saving?', {
      confirmButtonText: 'Throw it away',
      cancelButtonText: 'Keep writing',
    })
    return true
  } catch {
    return false
  }
}

/** Asks before a page with something half written on it is left; `holds` says whether there is. */
export function useUnsaved(holds: () => boolean): void {
  const ask = async () => !holds() || (await mayThrowAway())
  onBeforeRouteLeave(ask)
  onBeforeRouteUpdate(ask)
  // The browser asks in its own words.
  useEventListener(window, 'beforeunload', (event) => {
    if (holds()) event.preventDefault()
  })
}
