import { createStore, del, get as read, set } from 'idb-keyval'
import { computed, readonly, ref, shallowRef, toValue, watch } from 'vue'
import type { DeepReadonly, MaybeRefOrGetter, Ref, ShallowRef } from 'vue'
import { put, send } from '@/api/client'
import type { DrapePieceView, PieceInHand, Problem } from '@/api/types'
import { isUnanswered, useRetry } from './useRetry'

export type DrapedPiece = 'front' | 'back'

/** What this device holds of a piece that the server has not taken yet. */
interface Waiting {
  /** The revision it goes on from. */
  revision: number
  marked: PieceInHand
}

export interface UsePieceInHandReturn {
  /** Every click so far; none until it is read. */
  marked: Readonly<Ref<PieceInHand | undefined>>
  /** Changes it: drawn at once, kept on this device, and sent. */
  change: (make: (piece: PieceInHand) => void) => void
  /** Takes the last change back. */
  takeBack: () => void
  /** Whether there is one to take back. */
  mayTakeBack: Readonly<Ref<boolean>>
  /** Everything is at the server. */
  isKept: Readonly<Ref<boolean>>
  /** The last try found no line. */
  lost: DeepReadonly<Ref<boolean>>
  /** Why it was not kept. */
  problem: Readonly<ShallowRef<Problem | undefined>>
  /** Takes what the server has, instead of what is here. */
  takeTheirs: (view: DrapePieceView) => void
  /** Sends what waits, and resolves when the server has it, or no line is found. */
  settle: () => Promise<void>
}

/** How long to wait before the next try, in milliseconds. */
const AGAIN = 2000
/** So many changes can be taken back. */
const STEPS_BACK = 200
const store = createStore('yardwand-drapes', 'pieces')

const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/**
 * A piece that is being marked: each click is kept on this device and sent as it is made, so that a lost line or a closed tab
 * loses none. `view` is what the server said last; `kept` hears what it says now.
 */
export function usePieceInHand(
  drape: MaybeRefOrGetter<number>,
  piece: MaybeRefOrGetter<DrapedPiece>,
  view: () => DrapePieceView | undefined,
  kept: (view: DrapePieceView) => void,
): UsePieceInHandReturn {
  const marked = ref<PieceInHand>()
  const problem = shallowRef<Problem>()
  /** What the server has, written out. */
  const sent = ref('')
  const before = ref<PieceInHand[]>([])
  let revision = 0
  /** Its place on this device. */
  const place = () => `${toValue(drape)}-${toValue(piece)}`

  const isKept = computed(() => JSON.stringify(marked.value) === sent.value)

  async function drain(): Promise<boolean> {
    while (marked.value && !isKept.value) {
      const now = copy(marked.value)
      const [id, of, at] = [toValue(drape), toValue(piece), place()]
      const params = { path: { id, piece: of } }
      const call = put('/api/drapes/{id}/pieces/{piece}', { params, body: { revision, marked: now } })
      const result = await send(call, { key: crypto.randomUUID(), tries: 1 })
      if (at !== place()) return true
      if (!result.ok) {
        problem.value = isUnanswered(result.problem) ? undefined : result.problem
        return !isUnanswered(result.problem)
      }
      problem.value = undefined
      revision = result.value.revision
      sent.value = JSON.stringify(now)
      kept(result.value)
      if (isKept.value) await del(at, store)
    }
    return true
  }
  const { lost, flush } = useRetry(drain, AGAIN)

  function change(make: (piece: PieceInHand) => void): void {
    if (!marked.value) return
    before.value = [...before.value.slice(-STEPS_BACK), copy(marked.value)]
    const next = copy(marked.value)
    make(next)
    keep(next)
  }

  function keep(next: PieceInHand): void {
    marked.value = next
    problem.value = undefined
    const waiting: Waiting = { revision, marked: copy(next) }
    void set(place(), waiting, store)
    void flush()
  }

  function takeBack(): void {
    const last = before.value.at(-1)
    if (!last) return
    before.value = before.value.slice(0, -1)
    keep(last)
  }

  /** As it is at the server. */
  function take(theirs: DrapePieceView): void {
    revision = theirs.revision
    sent.value = JSON.stringify(theirs.marked)
    marked.value = copy(theirs.marked)
    problem.value = undefined
    before.value = []
  }

  function takeTheirs(theirs: DrapePieceView): void {
    take(theirs)
    void del(place(), store)
  }

  async function settle(): Promise<void> {
    await flush()
    if (!isKept.value && !lost.value && !problem.value) await flush()
  }

  watch(
    [place, view] as const,
    async ([at, now], [earlier]) => {
      if (!now) return
      // What is being marked here is not written over by what another device marks: the server says so when it is sent.
      if (at === earlier && marked.value && (now.revision <= revision || !isKept.value)) return
      take(now)
      const waiting = await read<Waiting>(at, store)
      if (!waiting || at !== place()) return
      if (waiting.revision === now.revision && isKept.value) keep(waiting.marked)
      else if (waiting.revision !== now.revision) await del(at, store)
    },
    { immediate: true },
  )

  return {
    marked,
    change,
    takeBack,
    mayTakeBack: computed(() => before.value.length > 0),
    isKept: readonly(isKept),
    lost,
    problem,
    takeTheirs,
    settle,
  }
}
