import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import type { AlterationView, CorrectionView, Step, StepView } from '@/api/types'
import RecipeStep from '@/components/alter/RecipeStep.vue'
import { pick, picked, serve } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const step: Step = {
  id: 4,
  alteration: 'rounded_back',
  amounts: { amount: 10, finish: 'neck_dart' },
  on: true,
  reason: 'the plan',
}
const known = {
  code: 'rounded_back',
  name: 'Rounded back',
  why: '',
  seams: [],
  params: [
    { code: 'amount', name: 'Longer', on: 'here', low: -25, high: 38, added: true, ways: [], parts: 1 },
    {
      code: 'finish',
      name: 'Finish',
      on: 'choice',
      low: 0,
      high: 0,
      added: false,
      ways: [
        { code: 'neck_dart', name: 'neck dart' },
        { code: 'shoulder_dart', name: 'shoulder dart' },
      ],
    },
  ],
} as unknown as AlterationView
const view = {
  id: 4,
  name: 'Rounded back',
  state: 'done',
  amounts: [],
  sums: [],
  decisions: [],
  choices: [],
  unasked: [],
  follow_ups: [],
  layer: 'balance',
} as unknown as StepView
const correction: CorrectionView = {
  step: 4,
  says: 'Rounded back, in this house: it ends at 1.30 times what the plan said.',
  action: 'Make it × 1.30',
  decided: {
    alteration: 'rounded_back',
    amounts: { amount: 3 },
    reason: 'House correction',
    house_factor: 1.3,
  },
}

async function line(
  props: { step?: Step; view?: StepView; correction?: CorrectionView; known?: AlterationView } = {},
) {
  serve(() => ({ body: {} }))
  const wrapper = mount(RecipeStep, {
    attachTo: document.body,
    props: { step, view, known, index: 0, last: true, inHand: true, ...props },
  })
  onTestFinished(() => wrapper.unmount())
  await flushPromises()
  return wrapper
}

const sides = {
  code: 'side_seams',
  name: 'Side seams',
  why: '',
  seams: [],
  params: [
    { code: 'amount', name: 'At the bust', on: 'per_edge', added: true, ways: [], parts: 4, default: 0 },
    { code: 'waist', name: 'At the waist', on: 'per_edge', added: true, ways: [], parts: 4, default: 0 },
    { code: 'hip', name: 'At the hip', on: 'per_edge', added: true, ways: [], parts: 4, default: 0 },
  ],
} as unknown as AlterationView

test('a step without an amount on this pattern shows its other lengths at once, and what they are in its line', async () => {
  const onSkirt = { ...view, unasked: ['amount'], choices: ['at the hip: 1/4 in'] } as unknown as StepView
  const props = { step: { ...step, alteration: 'side_seams', amounts: { hip: 6.35 } }, view: onSkirt }
  const wrapper = await line({ ...props, known: sides })
  const labels = wrapper.findAll('label').map((each) => each.text())
  expect(labels).not.toContain('Amount')
  expect(labels).toEqual(expect.arrayContaining(['At the waist', 'At the hip']))
  expect(wrapper.find('details').exists()).toBe(false)
  await wrapper.setProps({ inHand: false })
  expect(wrapper.get('.line').text()).toContain('at the hip: 1/4 in')
})

test('what the house has learnt is taken as the server reckoned it', async () => {
  const wrapper = await line({ correction })
  expect(wrapper.text()).toContain('it ends at 1.30 times')
  const button = wrapper.findAll('button').find((each) => each.text() === 'Make it × 1.30')
  await button?.trigger('click')
  expect(wrapper.emitted('decide')).toEqual([[correction.decided]])
})

test('a way is chosen by its name and given on by its code', async () => {
  const wrapper = await line()
  const finish =
    wrapper
      .findAll('label')
      .find((each) => each.text() === 'Finish')
      ?.attributes('for') ?? ''
  expect(picked(finish)).toBe('neck dart')
  await pick(finish, 'shoulder dart')
  expect(wrapper.emitted('set')).toEqual([['finish', 'shoulder_dart']])
})

test('it is done on both sides until one is chosen, and on both again', async () => {
  const wrapper = await line()
  const side =
    wrapper
      .findAll('label')
      .find((each) => each.text() === 'Done on')
      ?.attributes('for') ?? ''
  expect(picked(side)).toBe('both sides')
  await pick(side, 'left only')
  await wrapper.setProps({ step: { ...step, side: 'left' } })
  await pick(side, 'both sides')
  expect(wrapper.emitted('side')).toEqual([['left'], [null]])
})

test('a way that does not matter on this pattern is not asked for', async () => {
  const wrapper = await line({ view: { ...view, unasked: ['finish'] } })
  expect(wrapper.findAll('label').map((each) => each.text())).not.toContain('Finish')
})

test('a wish is named by what it says, and what is set beside it is in sight', async () => {
  const param = (code: string, name: string) => ({
    ...{ code, name, on: 'place', low: 0, high: 400, added: false, ways: [], parts: 1, why: '' },
  })
  const wish = {
    ...known,
    code: 'neckline',
    params: [param('amount', 'Depth in front'), param('width', 'Width'), param('behind', 'Depth behind')],
  } as unknown as AlterationView
  const props = {
    step: { ...step, alteration: 'neckline', amounts: { width: 180 } },
    ...{ index: 0, last: true, known: wish, inHand: true, view: undefined },
  }
  const page = mount(RecipeStep, { props, attachTo: document.body })
  onTestFinished(() => page.unmount())
  const labels = (within: string) => page.findAll(`${within} label`).map((label) => label.text())
  expect(labels('.step')[0]).toContain('Depth in front')
  expect(page.find<HTMLInputElement>('.step .field input').element.value).toBe('')
  expect(labels('details').join()).toContain('Depth behind')
  expect(labels('details').join()).not.toContain('Width')
  // What is typed under “More” stays where it is while it is in hand.
  await page.setProps({ step: { ...props.step, amounts: { width: 180, behind: 90 } } })
  expect(labels('details').join()).toContain('Depth behind')
})
