import { ref, shallowRef } from 'vue'
import { post, put, send } from '@/api/client'
import type { Problem, WishesDrawn } from '@/api/types'

/**
 * What she wishes of one garment, drawn as it is typed. Nothing is computed here: the core reads the wishes and draws the garment on
 * the server; one request is under way at a time, and while it is the newest waits.
 */
export function useWishes(order: () => number | undefined) {
  /** What was typed on the page, in millimetres; null where a wish is left. Her card has the rest. */
  const wished = ref<Record<string, number | null>>({})
  const drawn = shallowRef<WishesDrawn>()
  const problem = shallowRef<Problem>()
  let underWay: Promise<void> | undefined
  let again = false

  async function drawOn(): Promise<void> {
    do {
      again = false
      const id = order()
      if (id === undefined) return
      const body = { wished: { ...wished.value } }
      const result = await send(post('/api/orders/{id}/wishes/drawn', { params: { path: { id } }, body }))
      if (result.ok) drawn.value = result.value
      problem.value = result.ok ? undefined : result.problem
    } while (again)
  }

  /** Draws the garment as it is wished now. */
  function draw(): Promise<void> {
    if (underWay) again = true
    underWay ??= drawOn().finally(() => (underWay = undefined))
    return underWay
  }

  /** What she wishes now, in millimetres: as it was typed, otherwise as her card has it. */
  function valueOf(code: string): number | null {
    const typed = wished.value[code]
    return typed === undefined
      ? (drawn.value?.fields.find((field) => field.code === code)?.mm ?? null)
      : typed
  }

  function wish(code: string, mm: number | null): void {
    wished.value = { ...wished.value, [code]: mm }
    void draw()
  }

  /** Writes it down with the revision of the recipe that was drawn. */
  function write(id: number) {
    const body = { wished: wished.value, revision: drawn.value?.revision ?? 0 }
    return put('/api/orders/{id}/wishes', { params: { path: { id } }, body })
  }

  return { wished, drawn, problem, draw, valueOf, wish, write }
}
