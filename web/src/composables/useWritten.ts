import { shallowRef, watch } from 'vue'
import { post, send } from '@/api/client'

interface Written {
  lengths: { text: string }[]
  differences: { text: string }[]
}

/**
 * Lengths and differences in the house's marks, written by the core: what stands on an axis or in a column of
 * differences. Nothing until they are known.
 */
export function useWritten(
  asked: () => { lengths?: readonly number[]; differences?: readonly (readonly [number, number])[] },
) {
  const written = shallowRef<Written>({ lengths: [], differences: [] })
  watch(
    () => JSON.stringify(asked()),
    async (body, _, onCleanup) => {
      const own = new AbortController()
      onCleanup(() => own.abort())
      const answer = await send(post('/api/written', { body: JSON.parse(body) }), { signal: own.signal })
      if (answer.ok && !own.signal.aborted) written.value = answer.value
    },
    { immediate: true },
  )
  return {
    /** The length at this place of what was asked. */
    length: (at: number) => written.value.lengths[at]?.text ?? '',
    /** The difference at this place of what was asked. */
    difference: (at: number) => written.value.differences[at]?.text ?? '',
  }
}
