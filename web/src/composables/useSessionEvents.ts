import { onScopeDispose, readonly, ref, shallowReadonly, shallowRef, toValue, watch } from 'vue'
import type { MaybeRefOrGetter, Ref, ShallowRef } from 'vue'
import type { TapeView } from '@/api/types'

export interface UseSessionEventsOptions {
  /** Something was entered, here or on another device. */
  changed: (changes: number) => void
  /** The button of the tape was pressed. */
  held: (tape: TapeView) => void
}

export interface UseSessionEventsReturn {
  /** What the paired tape says now; none is paired without. */
  tape: Readonly<ShallowRef<TapeView | undefined>>
  /** The stream is open. */
  live: Readonly<Ref<boolean>>
}

/** What happens in a session as it happens. The stream comes back by itself; a hold in between is not lost. */
export function useSessionEvents(
  session: MaybeRefOrGetter<number | undefined>,
  options: UseSessionEventsOptions,
): UseSessionEventsReturn {
  const tape = shallowRef<TapeView>()
  const live = ref(false)
  let source: EventSource | undefined
  let heldSeq: number | undefined

  function hear(event: MessageEvent<string>): void {
    const now = JSON.parse(event.data) as TapeView | null
    tape.value = now ?? undefined
    if (!now) {
      heldSeq = undefined
      return
    }
    // What was held before this page was open has been taken over or let go.
    if (heldSeq !== undefined && now.held_seq > heldSeq) options.held(now)
    heldSeq = now.held_seq
  }

  watch(
    () => toValue(session),
    (id) => {
      source?.close()
      heldSeq = undefined
      tape.value = undefined
      if (id === undefined) return
      source = new EventSource(`/api/sessions/${id}/events`)
      source.addEventListener('open', () => (live.value = true))
      source.addEventListener('error', () => (live.value = false))
      source.addEventListener('session', (event) => {
        options.changed((JSON.parse(event.data) as { changes: number }).changes)
      })
      source.addEventListener('tape', hear)
    },
    { immediate: true },
  )
  onScopeDispose(() => source?.close())
  return { tape: shallowReadonly(tape), live: readonly(live) }
}
