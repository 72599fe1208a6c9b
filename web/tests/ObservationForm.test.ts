import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import type { Craft, ObservationEntry, Problem, RoundView } from '@/api/types'
import ObservationForm from '@/components/fit/ObservationForm.vue'
import { useHouse } from '@/composables/useHouse'
import { pick, picked, problem, serve } from './support'

const craft = {
  places: ['waist', 'bust'],
  sides: [
    { side: 'both', name: 'both sides', behind_a_name: '' },
    { side: 'left', name: 'her left', behind_a_name: ', left' },
  ],
  postures: [{ posture: 'standing', name: 'standing' }],
  observation_kinds: [
    { kind: 'fold', name: 'fold', looks: 'too much', lies: [{ lie: 'across', name: 'across' }] },
    { kind: 'drag', name: 'drag line', looks: 'too little', lies: [] },
  ],
} as unknown as Craft
const pins = (mm: number) => {
  const shown = (of: number) => ({ mm: of, text: String(of), exact: String(of) })
  const [on_body, per_half, per_seam] = [shown(mm * 2), shown(mm), shown(mm / 2)]
  return { depth: shown(mm), leaves: shown(mm), on_body, per_half, per_seam }
}

async function form(answer: () => Problem | undefined = () => undefined) {
  const kept: ObservationEntry[] = []
  useHouse().craft.value = craft
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/', component: { template: '<RouterView />' } }],
  })
  const wrapper = mount(ObservationForm, {
    attachTo: document.body,
    props: {
      round: {} as RoundView,
      keep: async (entry: ObservationEntry) => {
        kept.push(entry)
        return answer()
      },
    },
    global: { plugins: [router], stubs: { PointingBoard: true } },
  })
  onTestFinished(() => wrapper.unmount())
  await flushPromises()
  return { wrapper, kept, submit: () => wrapper.get('form').trigger('submit') }
}

vi.spyOn(console, 'warn').mockImplementation(() => {})

test('what is not chosen yet is named, and nothing is kept', async () => {
  serve(() => ({ status: 204 }))
  const { wrapper, kept, submit } = await form()
  await submit()
  expect(wrapper.get('[role=alert]').text()).toBe('Not yet. Choose where it is.')
  await pick('place', 'waist')
  await submit()
  expect(wrapper.get('[role=alert]').text()).toBe('Not yet. Choose what it looks like.')
  expect(kept).toEqual([])
})

test('an observation is kept as it was entered, and the next one begins with its place', async () => {
  serve(() => ({ body: pins(10) }))
  const { wrapper, kept, submit } = await form()
  await pick('place', 'waist')
  await wrapper.get('input[name=kind][value=fold]').setValue(true)
  await wrapper.get('input[name=lie]').setValue(true)
  await wrapper.get('input[name=side][value=left]').setValue(true)
  await wrapper.get('#depth').setValue('10')
  await flushPromises()
  expect(wrapper.get('[role=status]').text()).toContain('per half 10')
  await submit()
  await flushPromises()
  expect(kept).toMatchObject([
    {
      place: 'waist',
      kind: 'fold',
      lie: 'across',
      side: 'left',
      towards: null,
      depth: '10',
      pinned_on: 'that_side',
    },
  ])
  expect(picked('place')).toBe('tap it, or choose')
  expect(document.activeElement).toBe(wrapper.get('#place').element)
})

test('what is turned down stays in the form with the sentence that says why', async () => {
  serve(() => ({ body: pins(10) }))
  const why: Problem = problem(422, 'this is no length').body
  const { wrapper, submit } = await form(() => why)
  await pick('place', 'bust')
  await wrapper.get('input[name=kind][value=drag]').setValue(true)
  await submit()
  await flushPromises()
  expect(wrapper.get('[role=alert]').text()).toContain('This is no length.')
  expect(picked('place')).toBe('bust')
})

test('a fraction that is still being typed is not asked about', async () => {
  const asked = serve(() => ({ body: pins(19) }))
  const { wrapper } = await form()
  for (const text of ['3/', '3/4']) await wrapper.get('#depth').setValue(text)
  await flushPromises()
  expect(asked.map((each) => (each.body as { depth: string }).depth)).toEqual(['3/4'])
})
