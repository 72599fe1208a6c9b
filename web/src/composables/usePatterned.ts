import { computed, ref, shallowRef, toValue, watch } from 'vue'
import type { ComputedRef, MaybeRefOrGetter, Ref } from 'vue'
import { get } from '@/api/client'
import type { OrderView, Problem } from '@/api/types'
import { useResource } from './useResource'

export interface UsePatternedOptions {
  /** Whether they are asked for: while a dialog is open. */
  asked: MaybeRefOrGetter<boolean>
  /** Whose garments come first. */
  client: MaybeRefOrGetter<number>
  /** The garment that is not among them: the one that asks. */
  isOwn: (order: OrderView) => boolean
  /** What is chosen stays among them when something else is looked for. */
  isChosen: (order: OrderView) => boolean
}

export interface UsePatternedReturn {
  /** Other garments that have a pattern: hers, what is in hand and what was handed over lately; or what is looked for. */
  garments: ComputedRef<OrderView[]>
  /** Whether there is none: they were read, and nothing is looked for. */
  none: ComputedRef<boolean>
  /** Why they could not be read. */
  problem: Readonly<Ref<Problem | undefined>>
  /** Looks for a garment by words of its name and of its client's. */
  search: (typed: string) => void
}

/** Garments to take a pattern from. A house has more than a list can hold, so that typing looks for any other. */
export function usePatterned(options: UsePatternedOptions): UsePatternedReturn {
  const asked = computed(() => toValue(options.asked))
  const q = ref('')
  watch(asked, () => (q.value = ''))
  const { data, problem } = useResource(() =>
    asked.value
      ? get('/api/orders', { params: { query: { q: q.value, client: toValue(options.client) } } })
      : undefined,
  )
  const found = computed(() => data.value?.filter((order) => order.pattern_id && !options.isOwn(order)) ?? [])
  const chosen = shallowRef<OrderView>()
  watch(
    () => found.value.find(options.isChosen),
    (now) => (chosen.value = now ?? chosen.value),
  )
  const garments = computed(() => {
    const kept = chosen.value
    const isMissing = kept && options.isChosen(kept) && !found.value.some(({ id }) => id === kept.id)
    return isMissing ? [...found.value, kept] : found.value
  })
  const none = computed(() => data.value !== undefined && !q.value && !found.value.length)
  return { garments, none, problem, search: (typed) => (q.value = typed.trim()) }
}
