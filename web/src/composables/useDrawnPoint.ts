import { computed, shallowRef, watch } from 'vue'
import type { DrawnPoint, Recipe, Step } from '@/api/types'
import type { useRecipe } from './useRecipe'

/** What it needs of the recipe on the cutting table. */
export type DrawnOn = Pick<
  ReturnType<typeof useRecipe>,
  'preview' | 'inHand' | 'stepInHand' | 'sketch' | 'commit'
>

/**
 * The point that the line of the step in hand is drawn through: dragged out and down, or shifted by the arrow keys, in half or
 * whole steps of the house's rounding. Where the line cannot go through it, it lies where it was put, so that it can be
 * dragged on.
 */
export function useDrawnPoint(table: DrawnOn, step: () => number) {
  const { preview, inHand, stepInHand } = table
  const last = shallowRef<DrawnPoint>()
  watch(
    [preview, inHand],
    ([now, id], [, before]) => {
      if (now?.in_hand === id && now?.point) last.value = now.point
      else if (id !== before) last.value = undefined
    },
    { flush: 'sync', immediate: true },
  )
  const point = computed((): DrawnPoint | undefined => {
    if (preview.value?.in_hand === inHand.value) return preview.value?.point ?? undefined
    const [out, down] = last.value?.params.map((code) => stepInHand.value?.amounts[code]) ?? []
    if (!last.value || typeof out !== 'number' || typeof down !== 'number') return undefined
    const { at } = last.value
    const moved = { x: at.x + out - last.value.out, y: at.y + down - last.value.down }
    return { ...last.value, out, down, at: moved }
  })

  /** Where a line is drawn through, in words; nothing where it runs by itself. */
  const through = (step: Step): string | undefined =>
    preview.value?.in_hand === step.id && point.value?.params.every((code) => code in step.amounts)
      ? point.value.says
      : undefined

  function put(out: number, down: number, grain: number): (draft: Recipe) => void {
    const [across, below] = point.value?.params ?? []
    const rounded = (mm: number) => Math.round(mm / grain) * grain
    return (draft) => {
      const found = draft.steps.find((each) => each.id === inHand.value)
      if (!found || !across || !below) return
      found.amounts = { ...found.amounts, [across]: rounded(out), [below]: rounded(down) }
    }
  }

  let taken: { out: number; down: number } | undefined
  /** Drags it so far from where it was taken. */
  function place(out: number, down: number): void {
    taken ??= point.value && { out: point.value.out, down: point.value.down }
    if (taken) table.sketch(put(taken.out + out, taken.down + down, step() / 2))
  }

  /** Lets it go: what was dragged is kept. */
  function letGo(): void {
    if (!taken) return
    taken = undefined
    table.commit(() => undefined)
  }

  function shift(out: number, down: number): void {
    if (!point.value) return
    table.commit(put(point.value.out + out * step(), point.value.down + down * step(), step() / 2))
  }
  return { point, through, place, letGo, shift }
}
