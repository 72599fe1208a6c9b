import { reactive, watch } from 'vue'

export interface UseKeptReturn<T> {
  /** What stands in the fields. */
  entry: T
  /** A field is being changed here: what is kept elsewhere no longer comes in. */
  touch: (key: keyof T) => void
  /** A field's value has been kept: from now on what is kept comes in again, unless it was changed meanwhile. */
  settle: (key: keyof T, sent: unknown) => void
  /** What was kept when a field began to be changed, or what was sent of it last: what a newer text of somebody else is told by. */
  begunFrom: (key: keyof T) => T[keyof T]
  /** From now on a change of this field goes on from here. */
  goesOnFrom: (key: keyof T, value: T[keyof T]) => void
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
  const begun = new Map<keyof T, T[keyof T]>()

  const take = (key: keyof T, value: T[keyof T]) => (entry[key] = structuredClone(value) as T[keyof T])

  watch(kept, (now, before) => {
    for (const key of Object.keys(now) as (keyof T)[])
      if (!touched.has(key) && !same(now[key], before[key])) {
        take(key, now[key])
        begun.delete(key)
      }
  })

  function settle(key: keyof T, sent: unknown): void {
    // What it goes on from stays what was sent, until what is kept comes in anew.
    if (same(entry[key], sent)) touched.delete(key)
  }
  function touch(key: keyof T): void {
    if (!begun.has(key)) begun.set(key, kept()[key])
    touched.add(key)
  }
  const begunFrom = (key: keyof T) => begun.get(key) ?? kept()[key]
  const goesOnFrom = (key: keyof T, value: T[keyof T]) => void begun.set(key, value)
  function reset(): void {
    touched.clear()
    begun.clear()
    const now = kept()
    for (const key of Object.keys(now) as (keyof T)[]) take(key, now[key])
  }
  return { entry, touch, settle, begunFrom, goesOnFrom, reset }
}
