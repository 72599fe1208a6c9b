import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import WeekAhead from '@/components/dates/WeekAhead.vue'
import { plusDays, today } from '@/days'
import { serve } from './support'

const visit = (id: number, name: string, on: string) => ({
  id,
  order_id: id,
  client_id: 1,
  client: 'Edda',
  garment: 'Velvet jacket',
  visit: { kind: 'toile', number: 1 },
  name,
  on,
  settled: false,
  needs_client: true,
})

async function week(body: object, status = 200) {
  serve(() => ({ status, body }))
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/garments/:id/dates', name: 'dates', component: { template: '<p />' } }],
  })
  const wrapper = mount(WeekAhead, { global: { plugins: [router] } })
  onTestFinished(() => wrapper.unmount())
  await flushPromises()
  return wrapper
}

test('what is late says by how much, what comes says when', async () => {
  const wrapper = await week({
    late: [visit(1, 'toile 1', plusDays(today(), -1)), visit(2, 'toile 2', plusDays(today(), -8))],
    overdue: [],
    coming: [visit(3, 'cloth fitting', plusDays(today(), 3))],
  })
  const late = wrapper.get('[aria-labelledby=late-title]').findAll('li')
  expect(late.map((each) => each.get('b').text())).toEqual(['a day late', '8 days late'])
  expect(wrapper.get('[aria-labelledby=week-title]').text()).toContain('cloth fitting')
})

test('where nothing is late and nobody comes, nothing stands there', async () => {
  const wrapper = await week({ late: [], overdue: [], coming: [] })
  expect(wrapper.text()).toBe('')
})

test('what is late is not missing unsaid where it cannot be read', async () => {
  const wrapper = await week({ title: 'Closed', detail: 'the book is closed for a moment', status: 503 }, 503)
  expect(wrapper.get('[role=alert]').text()).toContain('The book is closed for a moment')
})
