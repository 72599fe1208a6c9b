import { flushPromises } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import Dates from '@/pages/Dates.vue'
import { garmentPage, problem, serve, signedIn } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const order = { id: 7, client_id: 3, pattern_id: 9 }
const visit = (kind: string, number: number, name: string, on: string, settled = false) => ({
  visit: { kind, number },
  name,
  on,
  settled,
  needs_client: kind === 'toile',
})
const planned = [
  visit('cutting', 1, 'cutting the toile', '2027-03-01'),
  visit('toile', 1, 'toile 1', '2027-03-05', true),
]
const kept = { revision: 5, wanted_on: '2027-04-01', toiles: 1, visits: planned, away: [] }

async function dates(answer: (asked: Asked) => Reply | undefined = () => undefined) {
  signedIn('dates')
  const asked = serve((each) => {
    const own = answer(each)
    if (own) return own
    if (each.path === '/api/orders/7') return { body: order }
    if (each.path === '/api/orders/7/dates') return { body: kept }
    if (each.path.endsWith('/proposal'))
      return { body: { feasible: true, says: ['It fits.'], visits: planned, earliest: '2027-03-28' } }
    if (each.path.endsWith('/move'))
      return { body: { moves: ['toile 1 moves along to 8 March.'], late: null } }
    return { body: [] }
  })
  const page = await garmentPage(Dates)
  const writes = () => asked.filter(({ method }) => method !== 'GET')
  return { ...page, asked, writes }
}

test('what is planned is seen before it is kept, and kept as it was seen', async () => {
  const { press, wrapper, writes } = await dates()
  await press('Plan the dates')
  expect(wrapper.text()).toContain('It fits.')
  expect(writes()).toMatchObject([
    { path: '/api/orders/7/dates/proposal', body: { wanted_on: '2027-04-01' } },
  ])
  await press('Keep these dates')
  expect(writes().at(-1)).toMatchObject({
    method: 'PUT',
    body: { revision: 5, wanted_on: '2027-04-01', toiles: 1, take_earliest: false },
  })
  expect(wrapper.text()).not.toContain('It fits.')
})

test('where the day is too near, only the earliest can be kept', async () => {
  const { press, wrapper, writes } = await dates(({ path }) =>
    path.endsWith('/proposal')
      ? { body: { feasible: false, says: ['Too near.'], visits: [], earliest: '2027-04-20' } }
      : undefined,
  )
  await press('Plan the dates')
  expect(wrapper.text()).not.toContain('Keep these dates')
  await press('Keep the earliest: 20 Apr 2027')
  expect(writes().at(-1)).toMatchObject({ method: 'PUT', body: { take_earliest: true } })
})

test('a visit is moved after it was said what moves along', async () => {
  const { press, wrapper, writes } = await dates()
  await press('Move')
  await press('What would move?')
  expect(wrapper.text()).toContain('Toile 1 moves along')
  const asksOnly = { revision: 5, visit: { kind: 'cutting', number: 1 }, to: '2027-03-01', keep: false }
  expect(writes()).toMatchObject([{ path: '/api/orders/7/dates/move', body: asksOnly }])
  await press('Move it')
  expect(writes().at(-1)).toMatchObject({ body: { ...asksOnly, keep: true } })
  expect(wrapper.text()).not.toContain('What would move?')
})

test('when somebody else was faster, what stands now is read beside the sentence', async () => {
  const { wrapper, asked } = await dates(({ path }) =>
    path.endsWith('/settled') ? problem(409, 'the dates were changed') : undefined,
  )
  const reads = () => asked.filter(({ path, method }) => method === 'GET' && path === '/api/orders/7/dates')
  const before = reads().length
  await wrapper.get('[aria-label="Settle: cutting the toile"]').trigger('click')
  await flushPromises()
  expect(wrapper.text()).toContain('The dates were changed')
  expect(reads().length).toBeGreaterThan(before)
})

test('a settled visit is loosened again by the same button', async () => {
  const { wrapper, writes } = await dates()
  await wrapper.get('[aria-label="Settled: toile 1"]').trigger('click')
  await flushPromises()
  expect(writes()).toMatchObject([{ body: { visit: { kind: 'toile', number: 1 }, settled: false } }])
})
