import { useEventListener } from '@vueuse/core'
import { nextTick, onMounted, watch } from 'vue'
import type { Ref } from 'vue'

/**
 * Enter confirms the question in hand. The keys are the question's: it takes the focus when it comes and when it is judged, since
 * what was pressed before may be gone, or a link that Enter would follow.
 */
export function useQuestionKeys(
  /** The question's part of the page. */
  question: Readonly<Ref<HTMLElement | null>>,
  /** What changes when there is something else to press Enter for. */
  changes: () => unknown,
  confirm: () => unknown,
): void {
  const take = () =>
    (question.value?.querySelector('input') ?? question.value)?.focus({ preventScroll: true })
  onMounted(take)
  watch(changes, async () => {
    await nextTick()
    take()
  })
  useEventListener(document, 'keydown', (event) => {
    if (event.key !== 'Enter' || event.ctrlKey || event.metaKey || event.defaultPrevented) return
    const { target } = event
    // A link or a button that has the focus is pressed by Enter itself; a field of another part of the page has its own.
    if (!(target instanceof HTMLElement) || target.closest('a, button.el-button')) return
    if (target instanceof HTMLInputElement && !question.value?.contains(target)) return
    event.preventDefault()
    // What is typed is read when its field is left.
    target.blur()
    confirm()
  })
}
