import { reactive, watch } from 'vue'

export interface UseKeptReturn<T> {
  /** What stands in the fields. */
  entry: T
  /** A field is being changed here: what is kept elsewhere no longer comes in. */
  touch: (key: keyof T) => void
  /** A field's value has been kept: from now on what is kept comes in again, unless it was changed meanwhile. */
  settle: (key: keyof T, sent: unknown) => void
  /** Lets go of what was being changed and shows what is kept. */
  reset: () => void
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/**
 * Fields over values that are kept at the server and may change there: what somebody else keeps comes in, what is
 * being changed here stays, even while the answer to an earlier change is still on its way.
 */
export function useKept<T extends Record<string, unknown>>(kept: () => T): UseKeptReturn<T> {
  const entry = reactive({ ...kept() }) as T
  const touched = new Set<keyof T>()

  const take = (key: keyof T, value: T[keyof T]) => (entry[key] = structuredClone(value) as T[keyof T])

  watch(kept, (now, before) => {
    for (const key of Object.keys(now) as (keyof T)[])
      if (!touched.has(key) && !same(now[key], before[key])) take(key, now[key])
  })

  function settle(key: keyof T, sent: unknown): void {
    if (same(entry[key], sent)) touched.delete(key)
  }
  function reset(): void {
    touched.clear()
    const now = kept()
    for (const key of Object.keys(now) as (keyof T)[]) take(key, now[key])
  }
  return { entry, touch: (key) => touched.add(key), settle, reset }
}
