import { flushPromises } from '@vue/test-utils'
import { expect, test } from 'vitest'
import { send } from '@/api/client'
import { useWishes } from '@/composables/useWishes'
import { later, living, problem, serve } from './support'
import type { Asked } from './support'

const CARD = { neck_width: 170, full_length: null } as Record<string, number | null>
const fields = Object.entries(CARD).map(([code, mm]) => ({
  code,
  name: code,
  mm,
  unmade: false,
  low: 0,
  high: 2000,
}))
const answer = (asked: Asked) => ({
  body: { fields, wishes: [], before: [], preview: { now: [], steps: [] }, revision: 7, asked: asked.body },
})

test('her card stands until something is typed, and a wish can be left', async () => {
  const asked = serve(answer)
  const page = living(() => useWishes(() => 3))
  await page.draw()
  expect([page.valueOf('neck_width'), page.valueOf('full_length')]).toEqual([170, null])
  page.wish('neck_width', 182)
  page.wish('full_length', 1000)
  await flushPromises()
  await page.draw()
  expect([page.valueOf('neck_width'), page.valueOf('full_length')]).toEqual([182, 1000])
  page.wish('neck_width', null)
  await page.draw()
  expect(page.valueOf('neck_width')).toBeNull()
  expect(asked.at(-1)?.body).toEqual({ wished: { neck_width: null, full_length: 1000 } })
})

test('one drawing at a time is asked for, and the last one typed is drawn', async () => {
  const gate = later<void>()
  const asked = serve(async (each) => {
    await gate.promise
    return answer(each)
  })
  const page = living(() => useWishes(() => 3))
  for (const mm of [171, 172, 173]) page.wish('neck_width', mm)
  await flushPromises()
  expect(asked).toHaveLength(1)
  gate.give()
  await page.draw()
  expect(asked.map((each) => each.body)).toEqual([
    { wished: { neck_width: 171 } },
    { wished: { neck_width: 173 } },
  ])
})

test('what cannot be is said, the drawing stays, and it is written with the revision that was drawn', async () => {
  const asked = serve((each) => {
    const body = each.body as { wished: Record<string, number> }
    if (each.method === 'PUT') return { body: { revision: 8 } }
    return body.wished['neck_width'] === 5 ? problem(422, 'Neck width: 0.5 cm is too little') : answer(each)
  })
  const page = living(() => useWishes(() => 3))
  await page.draw()
  page.wish('neck_width', 5)
  await page.draw()
  expect(page.problem.value?.detail).toContain('too little')
  expect(page.drawn.value?.revision).toBe(7)
  page.wish('neck_width', 180)
  await page.draw()
  expect(page.problem.value).toBeUndefined()
  await send(page.write(3))
  expect(asked.at(-1)).toMatchObject({
    method: 'PUT',
    path: '/api/orders/3/wishes',
    body: { wished: { neck_width: 180 }, revision: 7 },
  })
})
