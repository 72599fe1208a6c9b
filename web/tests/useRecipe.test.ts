import { flushPromises } from '@vue/test-utils'
import { expect, test } from 'vitest'
import type { PatternView, Recipe } from '@/api/types'
import { useRecipe } from '@/composables/useRecipe'
import { later, living, problem, serve } from './support'
import type { Asked, Reply } from './support'

const step = (id: number, mm: number) => ({
  id,
  alteration: 'full_bust',
  amounts: { amount: mm },
  on: true,
  reason: '',
})
const pattern = (revision: number, steps: unknown[]) =>
  ({ id: 9, revision, recipe: { form: 1, steps }, preview: { steps: [] } }) as unknown as PatternView

/** A pattern of the server's: keeps recipes, refuses what came too late. */
function house(answer?: (asked: Asked) => Reply | undefined | Promise<Reply | undefined>): Asked[] {
  let revision = 1
  return serve(async (asked) => {
    const own = await answer?.(asked)
    if (own) return own
    if (asked.path.endsWith('/preview')) return { body: { steps: [] } }
    if (asked.path.endsWith('/recipe')) return { body: { revision: (revision += 1) } }
    return problem(404, 'nothing here')
  })
}
const kept = (asked: Asked[]) => asked.filter((each) => each.method === 'PUT')
const amounts = (recipe: Recipe) => recipe.steps.map((each) => each.amounts['amount'])

test('a finished change is drawn, kept, undone and done again', async () => {
  const asked = house()
  const table = living(useRecipe)
  table.follow(pattern(1, [step(1, 10)]))
  table.commit((recipe) => (recipe.steps[0]!.amounts = { amount: 12 }))
  await table.settled()
  expect(amounts(table.recipe.value)).toEqual([12])
  expect(kept(asked).at(-1)?.body).toMatchObject({
    revision: 1,
    recipe: { steps: [{ amounts: { amount: 12 } }] },
  })
  table.undo()
  await table.settled()
  expect(amounts(table.recipe.value)).toEqual([10])
  expect(kept(asked).at(-1)?.body).toMatchObject({
    revision: 2,
    recipe: { steps: [{ amounts: { amount: 10 } }] },
  })
  expect([table.canUndo.value, table.canRedo.value]).toEqual([false, true])
  table.redo()
  await table.settled()
  expect(amounts(table.recipe.value)).toEqual([12])
})

test('a drag is drawn and not kept, and one drawing at a time is asked for', async () => {
  const gate = later<void>()
  const asked = house(async ({ path }) => {
    if (path.endsWith('/preview')) await gate.promise
    return undefined
  })
  const table = living(useRecipe)
  table.follow(pattern(1, [step(1, 10)]))
  for (const mm of [11, 12, 13]) table.sketch((recipe) => (recipe.steps[0]!.amounts = { amount: mm }))
  gate.give()
  await flushPromises()
  const drawn = asked.filter((each) => each.path.endsWith('/preview'))
  expect(drawn).toHaveLength(2)
  expect(drawn.at(-1)?.body).toMatchObject({ recipe: { steps: [{ amounts: { amount: 13 } }] } })
  expect(kept(asked)).toHaveLength(0)
})

test('a change while another is being kept is kept after it, upon its revision', async () => {
  const gate = later<void>()
  let first = true
  const asked = house(async ({ method }) => {
    if (method === 'PUT' && first) {
      first = false
      await gate.promise
    }
    return undefined
  })
  const table = living(useRecipe)
  table.follow(pattern(1, [step(1, 10)]))
  table.commit((recipe) => (recipe.steps[0]!.amounts = { amount: 11 }))
  table.commit((recipe) => (recipe.steps[0]!.amounts = { amount: 12 }))
  await flushPromises()
  expect(kept(asked)).toHaveLength(1)
  gate.give()
  await table.settled()
  expect(kept(asked).map((each) => (each.body as { revision: number }).revision)).toEqual([1, 2])
})

test('what somebody else kept comes in as the newest, own changes stay under undo', async () => {
  house()
  const table = living(useRecipe)
  table.follow(pattern(1, [step(1, 10)]))
  table.follow(pattern(5, [step(1, 20)]))
  expect(amounts(table.recipe.value)).toEqual([20])
  expect(table.revision.value).toBe(5)
  expect(table.canUndo.value).toBe(true)
})

test('a recipe that cannot be kept is told, and stays on the table', async () => {
  house(({ method }) => (method === 'PUT' ? problem(409, 'somebody else changed this') : undefined))
  const table = living(useRecipe)
  table.follow(pattern(1, [step(1, 10)]))
  table.commit((recipe) => (recipe.steps[0]!.amounts = { amount: 12 }))
  expect(await table.settled()).toBe(false)
  expect(table.problem.value?.detail).toBe('somebody else changed this')
  expect(amounts(table.recipe.value)).toEqual([12])
})

test('decisions are placed by the core one after the other', async () => {
  const order: unknown[] = []
  house(({ path, body }) => {
    if (path !== '/api/recipe/take') return undefined
    const { recipe, decided } = body as { recipe: Recipe; decided: { amounts: { amount: number } } }
    order.push(recipe.steps.length)
    const taken = step(recipe.steps.length + 1, decided.amounts.amount)
    return { body: { step: taken, at: 0, contribution: null } }
  })
  const table = living(useRecipe)
  table.follow(pattern(1, []))
  const decided = (mm: number) => ({ alteration: 'full_bust', amounts: { amount: mm }, reason: '' })
  await Promise.all([table.decide(decided(5)), table.decide(decided(7))])
  await table.settled()
  expect(order).toEqual([0, 1])
  expect(amounts(table.recipe.value)).toEqual([7, 5])
})
