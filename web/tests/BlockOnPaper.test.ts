import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import type { Craft } from '@/api/types'
import BlockOnPaper from '@/components/draft/BlockOnPaper.vue'
import { useHouse } from '@/composables/useHouse'
import { clearedAfterwards, serve } from './support'

const allowances = { side: 12, shoulder: 12, waist: 12, neckline: 9, armhole: 9, centre: 25, hem: 25 }

async function panel() {
  useHouse().craft.value = {
    allowances,
    widest_allowance: 60,
    back_off: { front: 25.4, back: 12.7, shoulder: 10 },
  } as unknown as Craft
  serve(({ query }) => {
    const mm = Number((query['text'] ?? '').replace(' mm', ''))
    return { body: { mm, text: String(mm), exact: String(mm), field: String(mm) } }
  })
  const assign = vi.fn<(address: string) => void>()
  vi.stubGlobal('location', { assign })
  const wrapper = mount(BlockOnPaper, { attachTo: document.body, props: { block: 4, size: '12 & up' } })
  clearedAfterwards(wrapper)
  await flushPromises()
  const asked = () => new URL(assign.mock.calls.at(-1)![0], 'http://house.example')
  return { wrapper, asked }
}

test('the card is of the size that is looked at, on the paper that is chosen', async () => {
  const { wrapper } = await panel()
  await wrapper.get('input[value=letter]').setValue()
  const card = new URL(wrapper.get('a').attributes('href')!, 'http://house.example')
  expect(card.pathname).toBe('/api/blocks/4/card.pdf')
  expect(Object.fromEntries(card.searchParams)).toEqual({ size: '12 & up', paper: 'letter' })
})

test('a pattern to cut by takes along every edge, every point and the side its darts are folded to', async () => {
  const { wrapper, asked } = await panel()
  await wrapper.get('input[name=folded][value=side]').setValue()
  const field = wrapper.findAll('label').find((label) => label.text().startsWith('Side seam allowance'))!
  const input = wrapper.get(`#${CSS.escape(field.attributes('for')!)}`)
  await input.setValue('20')
  await input.trigger('change')
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(asked().pathname).toBe('/api/blocks/4/cutting.pdf')
  expect(Object.fromEntries(asked().searchParams)).toMatchObject({
    size: '12 & up',
    side: '20',
    armhole: '9',
    front_point: '25.4',
    back_point: '12.7',
    shoulder_point: '10',
    folded: 'side',
    folded_across: 'down',
  })
})
