import { onScopeDispose, readonly, ref, toValue, watch } from 'vue'
import type { MaybeRefOrGetter, Ref } from 'vue'

/** What is heard, by the name of the event. */
export type Hearers = Record<string, (data: string) => void>

/** A stream that was turned down, because the database is away or the sign-in has ended, is asked for again after this long. */
const COMES_BACK_MS = 3000

/**
 * The one way to hear what the server tells as it happens: a stream that is open while there is an address, and comes back by
 * itself when the line does. `opened` is called before a new stream begins.
 */
export function useServerEvents(
  address: MaybeRefOrGetter<string | undefined>,
  hearers: Hearers,
  opened?: () => void,
): Readonly<Ref<boolean>> {
  const live = ref(false)
  let source: EventSource | undefined
  let later: ReturnType<typeof setTimeout> | undefined

  function open(now: string): void {
    const opening = new EventSource(now)
    source = opening
    opening.addEventListener('open', () => (live.value = true))
    opening.addEventListener('error', () => {
      live.value = false
      // A line that was cut comes back by itself; one that was turned down does not.
      if (opening.readyState === EventSource.CLOSED && opening === source)
        later = setTimeout(() => open(now), COMES_BACK_MS)
    })
    for (const [name, hear] of Object.entries(hearers))
      opening.addEventListener(name, (event) => hear(event.data as string))
  }

  function close(): void {
    clearTimeout(later)
    source?.close()
    source = undefined
  }

  watch(
    () => toValue(address),
    (now) => {
      close()
      live.value = false
      opened?.()
      if (now === undefined) return
      open(now)
    },
    { immediate: true },
  )
  onScopeDispose(close)
  return readonly(live)
}
