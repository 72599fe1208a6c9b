import { expect, test } from 'vitest'
import { computed, ref, shallowRef } from 'vue'
import type { Preview, Recipe } from '@/api/types'
import { useDrawnPoint } from '@/composables/useDrawnPoint'
import { living } from './support'

const params = ['through_out', 'through_down'] as const
const at = (out: number, down: number) =>
  ({
    piece: 'bodice_front',
    at: { x: out, y: down + 20 },
    out,
    down,
    says: `${out}, ${down}`,
    params,
  }) as const
const shown = (inHand: number, point?: ReturnType<typeof at>) =>
  ({ in_hand: inHand, point: point ?? null }) as unknown as Preview

/** A table with two steps, the second a line; what the core answers is set by hand. */
function table() {
  const recipe = ref<Recipe>({
    form: 1,
    steps: [1, 2].map((id) => ({
      id,
      alteration: 'princess_line',
      amounts: { amount: 0 },
      on: true,
      reason: '',
    })),
  })
  const preview = shallowRef<Preview>()
  const inHand = ref<number | undefined>(2)
  const kept: Recipe[] = []
  const change = (edit: (draft: Recipe) => void) => {
    const draft = structuredClone(JSON.parse(JSON.stringify(recipe.value))) as Recipe
    edit(draft)
    recipe.value = draft
  }
  const on = {
    preview,
    inHand,
    stepInHand: computed(() => recipe.value.steps.find(({ id }) => id === inHand.value)),
    sketch: change,
    commit: (edit: (draft: Recipe) => void) => {
      change(edit)
      kept.push(recipe.value)
    },
  }
  const drawn = living(() => useDrawnPoint(on as never, () => 3))
  return { recipe, preview, inHand, kept, drawn, amounts: () => on.stepInHand.value?.amounts }
}

test('it is dragged from where it was taken, in half steps, and kept when it is let go', () => {
  const { preview, kept, drawn, amounts } = table()
  preview.value = shown(2, at(90, 120))
  drawn.place(2, -1)
  expect(amounts()).toEqual({ amount: 0, through_out: 91.5, through_down: 118.5 })
  // The core draws it there; the hand goes on from where it took hold.
  preview.value = shown(2, at(91.5, 118.5))
  drawn.place(10, 0)
  expect(amounts()).toMatchObject({ through_out: 100.5, through_down: 120 })
  expect(kept).toHaveLength(0)
  drawn.letGo()
  drawn.letGo()
  expect(kept).toHaveLength(1)
  // Taken again it begins where it lies now.
  preview.value = shown(2, at(99, 120))
  drawn.place(3, 3)
  expect(amounts()).toMatchObject({ through_out: 102, through_down: 123 })
})

test('where the line cannot go it stays in the hand, and with another step it is forgotten', () => {
  const { preview, inHand, drawn } = table()
  preview.value = shown(2, at(90, 120))
  drawn.place(60, 30)
  // Refused: the step in hand shows nothing of its own.
  preview.value = { in_hand: null, point: null } as unknown as Preview
  expect(drawn.point.value).toMatchObject({ out: 150, down: 150, at: { x: 150, y: 170 } })
  drawn.place(0, 0)
  preview.value = shown(2, at(90, 120))
  expect(drawn.point.value).toMatchObject({ out: 90, down: 120 })
  inHand.value = 1
  expect(drawn.point.value).toBeUndefined()
})

test('the arrow keys shift it by whole steps, and it is said once it is hers', () => {
  const { recipe, preview, kept, drawn, amounts } = table()
  const step = () => recipe.value.steps[1]!
  preview.value = shown(2, at(90, 120))
  expect(drawn.through(step())).toBeUndefined()
  drawn.shift(-1, 0)
  expect(amounts()).toMatchObject({ through_out: 87, through_down: 120 })
  expect(kept).toHaveLength(1)
  preview.value = shown(2, at(87, 120))
  expect(drawn.through(step())).toBe('87, 120')
  expect(drawn.through(recipe.value.steps[0]!)).toBeUndefined()
})
