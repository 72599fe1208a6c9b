import { readonly, ref, toValue, watch } from 'vue'
import type { DeepReadonly, MaybeRefOrGetter, Ref } from 'vue'
import { send as sendCall } from '@/api/client'
import type { Call } from '@/api/client'
import type { Problem } from '@/api/types'
import { isUnanswered, useRetry } from './useRetry'

/** A write that waits for the line. */
export interface Waiting extends Call<unknown> {
  /** Marks every try as the same write. */
  key: string
  body: Record<string, unknown>
}

export interface UseOutboxOptions {
  /** Called before each try: the last chance to bring a write up to date. */
  ready?: (entry: Waiting) => void
  /** A write that the server has taken, and what it answered. */
  sent: (entry: Waiting, answer: unknown) => void
  /**
   * A write that the server turned down: it is not tried again. `late` where whoever sent it has gone on, because the
   * line was lost in between: then nobody else tells.
   */
  refused: (entry: Waiting, problem: Problem, late: boolean) => void
}

export interface UseOutboxReturn {
  /** Writes that are not at the server yet, oldest first. */
  waiting: DeepReadonly<Ref<Waiting[]>>
  /** The last try found no line. */
  lost: DeepReadonly<Ref<boolean>>
  /** Sends a write, now or when the line is back; resolves once it has been tried, with why it was turned down. */
  send: (call: Call<unknown>) => Promise<Problem | undefined>
  /** Tries what waits. */
  flush: () => Promise<void>
}

/** How long to wait before the next try, in milliseconds. */
const AGAIN = 1500

/**
 * Writes that survive a dropped connection and a closed tab: each is kept on this device until the server has it,
 * and sent once, in order. `name` tells one outbox from another.
 */
export function useOutbox(
  name: MaybeRefOrGetter<string | undefined>,
  options: UseOutboxOptions,
): UseOutboxReturn {
  const waiting = ref<Waiting[]>([])
  const turnedDown = new Map<string, Problem>()
  /** Keys whose sender still waits to be told. */
  const awaited = new Set<string>()

  const place = () => `yardwand-outbox:${toValue(name)}`
  function keep(): void {
    if (waiting.value.length) localStorage.setItem(place(), JSON.stringify(waiting.value))
    else localStorage.removeItem(place())
  }

  /** What an earlier visit left. Version 0.5 wrote methods in capitals and left POST out. */
  function kept(): Waiting[] {
    const entries = JSON.parse(localStorage.getItem(place()) ?? '[]') as (Omit<Waiting, 'method'> & {
      method?: string
    })[]
    return entries.map((entry) => ({
      ...entry,
      method: entry.method?.toLowerCase() === 'put' ? 'put' : 'post',
    }))
  }

  async function drain(): Promise<boolean> {
    while (waiting.value[0]) {
      const entry = waiting.value[0]
      options.ready?.(entry)
      // As it is tried so it is kept: after a reload the same key stands for the same body.
      keep()
      const result = await sendCall(entry, { key: entry.key, tries: 1 })
      if (!result.ok && isUnanswered(result.problem)) return false
      waiting.value.shift()
      keep()
      if (result.ok) options.sent(entry, result.value)
      else {
        turnedDown.set(entry.key, result.problem)
        options.refused(entry, result.problem, !awaited.has(entry.key))
      }
    }
    return true
  }
  const { lost, flush } = useRetry(drain, AGAIN)

  async function send(call: Call<unknown>): Promise<Problem | undefined> {
    const key = crypto.randomUUID()
    awaited.add(key)
    waiting.value.push({ ...call, key, body: { ...(call.body ?? {}) } })
    keep()
    await flush()
    // Entered while the last try was ending: it has not been tried yet.
    if (waiting.value.some((entry) => entry.key === key)) await flush()
    awaited.delete(key)
    return turnedDown.get(key)
  }

  watch(
    () => toValue(name),
    (now) => {
      if (now === undefined) return
      waiting.value = kept()
      void flush()
    },
    { immediate: true },
  )
  return { waiting: readonly(waiting), lost, send, flush }
}
