import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import type { VisitView } from '@/api/types'
import MoveVisit from '@/components/dates/MoveVisit.vue'
import { clearedAfterwards, problem, serve, submitDialog } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const visit = {
  id: 1,
  order_id: 5,
  client_id: 2,
  client: 'Edda',
  garment: 'Concert dress',
  name: 'toile 1',
  visit: { kind: 'toile', number: 1 },
  on: '2026-12-01',
  settled: false,
  needs_client: true,
} as VisitView

async function dialog(answer: (asked: Asked) => Reply) {
  const asked = serve((now) => (now.method === 'GET' ? { body: { revision: 9, visits: [] } } : answer(now)))
  const wrapper = mount(MoveVisit, { props: { moving: undefined }, attachTo: document.body })
  clearedAfterwards(wrapper)
  await wrapper.setProps({ moving: { visit, to: '2026-12-03' } })
  await flushPromises()
  return { wrapper, asked, text: () => document.querySelector('.el-dialog')!.textContent }
}

test('what would move along is said first, and moved only then', async () => {
  const { wrapper, asked, text } = await dialog(() => ({
    body: { moves: ['Delivery moves to 20 Dec.'], visits: [], late: 'Two days after she wants it.' },
  }))
  expect(text()).toContain('Delivery moves to 20 Dec.')
  expect(text()).toContain('Two days after she wants it.')
  const body = { revision: 9, visit: visit.visit, to: '2026-12-03' }
  expect(asked.at(-1)).toMatchObject({ path: '/api/orders/5/dates/move', body: { ...body, keep: false } })
  expect(wrapper.emitted('moved')).toBeUndefined()
  await submitDialog()
  expect(asked.at(-1)).toMatchObject({ path: '/api/orders/5/dates/move', body: { ...body, keep: true } })
  expect(wrapper.emitted('moved')).toHaveLength(1)
})

test('a day that cannot be is refused, and nothing is moved', async () => {
  const { asked, text } = await dialog(() => problem(422, 'the house is closed that day'))
  expect(text()).toContain('The house is closed that day')
  const before = asked.length
  await submitDialog()
  expect(asked).toHaveLength(before)
})
