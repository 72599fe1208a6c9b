import { shallowReadonly, shallowRef, toValue } from 'vue'
import type { MaybeRefOrGetter, Ref, ShallowRef } from 'vue'
import type { TapeView } from '@/api/types'
import { useServerEvents } from './useServerEvents'

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
  let heldSeq: number | undefined

  function hear(data: string): void {
    const now = JSON.parse(data) as TapeView | null
    tape.value = now ?? undefined
    if (!now) {
      heldSeq = undefined
      return
    }
    // What was held before this page was open has been taken over or let go.
    if (heldSeq !== undefined && now.held_seq > heldSeq) options.held(now)
    heldSeq = now.held_seq
  }

  const live = useServerEvents(
    () => {
      const id = toValue(session)
      return id === undefined ? undefined : `/api/sessions/${id}/events`
    },
    {
      session: (data) => options.changed((JSON.parse(data) as { changes: number }).changes),
      tape: hear,
    },
    () => {
      heldSeq = undefined
      tape.value = undefined
    },
  )
  return { tape: shallowReadonly(tape), live }
}
