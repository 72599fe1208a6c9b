import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import type { OrderView, Problem, RoundView } from '@/api/types'
import RoundClose from '@/components/fit/RoundClose.vue'
import { addresses, clearedAfterwards, problem, serve, signedIn } from './support'
import type { Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const round = {
  id: 4,
  number: 2,
  comfort: '',
  postures: [],
  pins_out: null,
  pins_back: null,
  closed_at: null,
  made_version: null,
} as unknown as RoundView

function closing(over: object = {}, waiting = 0, answer: () => Reply = () => ({ status: 204 })) {
  signedIn('fitting')
  const asked = serve(answer)
  const kept: Record<string, unknown>[] = []
  let refuses: Problem | undefined
  const wrapper = mount(RoundClose, {
    attachTo: document.body,
    props: {
      round: { ...round, ...over },
      order: { id: 7, round_id: 4 } as OrderView,
      undecided: 1,
      unmarked: 2,
      flush: async () => waiting,
      aside: async (change: Record<string, unknown>) => {
        kept.push(change)
        return refuses
      },
    },
    global: { plugins: [addresses()] },
  })
  clearedAfterwards(wrapper)
  const refuse = (detail: string, current?: unknown) =>
    (refuses = { type: '', title: 'Not so', status: 422, detail, current } as Problem)
  const accept = () => (refuses = undefined)
  return { wrapper, asked, kept, refuse, accept, close: wrapper.find('button') }
}

test('it says what is still to mark and to decide', () => {
  const { wrapper } = closing()
  expect(wrapper.text()).toContain('2 from before still to mark.')
  expect(wrapper.text()).toContain('1 still to decide.')
})

test('pressed twice it is closed once', async () => {
  const { wrapper, asked, close } = closing()
  void close.trigger('click')
  await close.trigger('click')
  await flushPromises()
  expect(asked).toMatchObject([{ method: 'POST', path: '/api/rounds/4/close' }])
  expect(wrapper.emitted('closed')).toHaveLength(1)
})

test('with entries still on this device it stays open, and says why', async () => {
  const { wrapper, asked, close } = closing({}, 1)
  await close.trigger('click')
  await flushPromises()
  expect(asked).toHaveLength(0)
  expect(wrapper.get('[role=alert]').text()).toContain('Some entries wait for the line')
})

test('pins are counted in whole numbers', async () => {
  const { wrapper, kept } = closing()
  const field = wrapper.get('#pins-out')
  for (const wrong of ['-1', '2.5', 'a few', ' ']) {
    await field.setValue(wrong)
    expect(wrapper.get('[role=alert]').text(), wrong).toContain('Count them in whole numbers')
  }
  expect(kept).toEqual([])
  await field.setValue('24')
  await flushPromises()
  expect(kept).toEqual([{ pins_out: 24 }])
  expect(wrapper.find('[role=alert]').exists()).toBe(false)
})

test('what was typed stays in its field while the round comes anew, and when it was turned down', async () => {
  const { wrapper, kept, refuse } = closing()
  const field = wrapper.get('textarea')
  field.element.value = 'Roomy'
  await field.trigger('input')
  await wrapper.setProps({ round: { ...round, comfort: 'Tight, says the other fitter' } })
  expect(field.element.value).toBe('Roomy')
  refuse('too long')
  await field.trigger('change')
  await flushPromises()
  expect(kept).toEqual([{ comfort: 'Roomy', comfort_was: '' }])
  expect([field.element.value, wrapper.get('[role=alert]').text()]).toEqual(['Roomy', 'Not so. Too long.'])
})

test('words of somebody else are told, hers stay, and both are kept as one', async () => {
  const { wrapper, kept, refuse, accept } = closing()
  const field = wrapper.get('textarea')
  const keep = async (words: string) => {
    field.element.value = words
    await field.trigger('input')
    await field.trigger('change')
    await flushPromises()
  }
  refuse('somebody else has written meanwhile: “Tight”', 'Tight')
  await keep('Roomy')
  expect(field.element.value).toBe('Roomy')
  expect(wrapper.get('[role=alert]').text()).toContain('“Tight”')
  accept()
  await keep('Tight; roomy at the back')
  await keep('Tight; roomy at the back, short')
  expect(kept.map((each) => each.comfort_was)).toEqual(['', 'Tight', 'Tight; roomy at the back'])
  expect(wrapper.find('[role=alert]').exists()).toBe(false)
})

test('a closed round tells what it made, and is opened again only while it is the last', async () => {
  const closed = { closed_at: '2026-11-20T10:00:00Z', made_version: 3, comfort: 'Roomy' }
  const { wrapper, asked } = closing(closed)
  expect(wrapper.text()).toContain('It made version 3')
  expect(wrapper.text()).toContain('“Roomy”')
  await wrapper.get('button').trigger('click')
  await flushPromises()
  expect(asked).toMatchObject([{ path: '/api/rounds/4/reopen' }])
  expect(wrapper.emitted('reopened')).toHaveLength(1)
  await wrapper.setProps({ order: { id: 7, round_id: 5 } as OrderView })
  expect(wrapper.find('button').exists()).toBe(false)
})

test('why it cannot be opened again is said', async () => {
  const closed = { closed_at: '2026-11-20T10:00:00Z', made_version: 3 }
  const { wrapper } = closing(closed, 0, () => problem(409, 'version 3 was fitted'))
  await wrapper.get('button').trigger('click')
  await flushPromises()
  expect(wrapper.get('[role=alert]').text()).toContain('Version 3 was fitted')
  expect(wrapper.emitted('reopened')).toBeUndefined()
})
