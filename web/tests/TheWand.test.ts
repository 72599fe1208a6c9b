import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test } from 'vitest'
import type { OrderView } from '@/api/types'
import TheWand from '@/components/TheWand.vue'
import { router } from '@/router'
import { serve } from './support'

const order = (more: Partial<OrderView>): OrderView =>
  ({
    id: 5,
    garment: 'Velvet jacket',
    missing: 0,
    undecided: 0,
    standing: { stage: 'fit' },
    ...more,
  }) as OrderView

async function wand(of: OrderView) {
  const wrapper = mount(TheWand, { props: { order: of }, global: { plugins: [router] } })
  onTestFinished(() => wrapper.unmount())
  await flushPromises()
  return wrapper
}

test('the stage the garment stands at is marked, what is past and what is open is said', async () => {
  serve(() => ({ body: [] }))
  const wrapper = await wand(order({ undecided: 2, standing: { stage: 'fit', waits_for: '' } }))
  expect(wrapper.get('li.now').text()).toContain('Fit')
  expect(wrapper.findAll('li.past').map((mark) => mark.text())).toEqual([
    'Measure',
    'Compare',
    'Alter',
    'Toile',
  ])
  expect(wrapper.get('.open').text()).toBe('2 to decide')
})

test('a garment that is handed over has every stage behind it', async () => {
  serve(() => ({ body: [] }))
  const wrapper = await wand(order({ standing: { stage: 'done', waits_for: '' } }))
  expect(wrapper.findAll('li.past')).toHaveLength(6)
  expect(wrapper.find('li.now').exists()).toBe(false)
})

test('rounds are read where there are some, and anew when another is opened', async () => {
  let rounds = [{ id: 31, number: 1, closed: true }]
  const asked = serve(() => ({ body: rounds }))
  const wrapper = await wand(order({}))
  expect(asked).toHaveLength(0)
  await wrapper.setProps({ order: order({ round: 1 }) })
  await flushPromises()
  expect(wrapper.get('.rounds').text()).toBe('round 1')
  rounds = [...rounds, { id: 32, number: 2, closed: false }]
  await wrapper.setProps({ order: order({ round: 2 }) })
  await flushPromises()
  expect(wrapper.findAll('.rounds a').map((link) => link.attributes('href'))).toEqual([
    '/garments/5/fit/31',
    '/garments/5/fit/32',
  ])
})
