import { onScopeDispose, readonly, ref, toValue, watch } from 'vue'
import type { MaybeRefOrGetter, Ref } from 'vue'

/** What is heard, by the name of the event. */
export type Hearers = Record<string, (data: string) => void>

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

  watch(
    () => toValue(address),
    (now) => {
      source?.close()
      source = undefined
      live.value = false
      opened?.()
      if (now === undefined) return
      source = new EventSource(now)
      source.addEventListener('open', () => (live.value = true))
      source.addEventListener('error', () => (live.value = false))
      for (const [name, hear] of Object.entries(hearers))
        source.addEventListener(name, (event) => hear(event.data as string))
    },
    { immediate: true },
  )
  onScopeDispose(() => source?.close())
  return readonly(live)
}
