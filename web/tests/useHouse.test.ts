import { flushPromises } from '@vue/test-utils'
import { expect, test } from 'vitest'
import { useHouse } from '@/composables/useHouse'
import { living, problem, serve } from './support'

test('who is signed in, the house and the craft are read together', async () => {
  const asked = serve(({ path }) => ({ body: { path, may: ['readings'], suffix: 'cm', unit: 'cm' } }))
  const house = living(useHouse)
  expect(await house.enter()).toBe(true)
  await flushPromises()
  expect(asked.map((each) => each.path).slice(0, 3)).toEqual(['/api/me', '/api/house', '/api/craft'])
  expect([house.unit.value, house.units.value]).toEqual(['cm', 'centimetres'])
})

test('nobody signed in is let in nowhere', async () => {
  serve(() => problem(401, 'sign in first'))
  const house = living(useHouse)
  house.leave()
  expect(await house.enter()).toBe(false)
  expect(house.may('readings')).toBe(false)
})

test('a sign-in may what the server says it may', async () => {
  serve(() => ({ body: { may: ['readings', 'dates'] } }))
  const house = living(useHouse)
  await house.enter()
  expect([house.may('readings'), house.may('dates'), house.may('housekeeping')]).toEqual([true, true, false])
})
