import { flushPromises, mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import type { CauseOffer, CausesOf, Decision, MoreSaid, ObservationView, Suggestion } from '@/api/types'
import ObservationCard from '@/components/fit/ObservationCard.vue'
import { addresses, clearedAfterwards, signedIn } from './support'

const NOTHING_KNOWN = 'No known cause looks like this'
const seen = {
  id: 3,
  revision: 1,
  said: 'Drag at side seam towards bust',
  seen: { note: '', side: 'both', sureness: 'sure', kind: 'drag' },
  seen_by: 'Marit Holm',
} as unknown as ObservationView

const offer = (alteration: string): CauseOffer => ({
  alteration,
  alteration_name: alteration,
  amounts: { amount: 6 },
  amount: { mm: 6, text: '0.6', exact: '0.6' },
  on: 'on each edge',
  amount_from: 'measured',
  is_guess: false,
})
const cause = (code: string, over: Partial<Suggestion> = {}): Suggestion => ({
  cause: code,
  title: `Cause ${code}`,
  says: 'So it is.',
  test: `Test ${code}.`,
  weight: 4,
  sure: 'likely',
  alongside: false,
  explains: [0],
  speaks_for: ['seen'],
  speaks_against: [],
  not_looked_at: [],
  answer: { what: 'alter', ...offer(`by ${code}`) },
  beside: [],
  lasting: true,
  ...over,
})
const weighed = (causes: Suggestion[], over: Partial<CausesOf> = {}): CausesOf => ({
  observation_id: 3,
  causes,
  set_aside: [],
  asks: [],
  ...over,
})

function card(over: { weighed?: CausesOf; notWeighed?: string }) {
  signedIn('fitting')
  const decided: Decision[] = []
  const answered: [string, boolean][] = []
  const said: MoreSaid[] = []
  const wrapper = mount(ObservationCard, {
    attachTo: document.body,
    props: {
      seen,
      closed: false,
      next: true,
      takenFor: () => undefined,
      decide: async (decision: Decision) => {
        decided.push(decision)
        return undefined
      },
      answer: async (of: string, holds: boolean) => {
        answered.push([of, holds])
        return undefined
      },
      say: async (more: MoreSaid) => {
        said.push(more)
        return undefined
      },
      ...over,
    },
    global: { plugins: [addresses()] },
  })
  clearedAfterwards(wrapper)
  const press = async (name: string) => {
    const button = wrapper.findAll('button').find((each) => each.text() === name)
    if (!button) throw new Error(`no button says ${name}`)
    await button.trigger('click')
    await flushPromises()
  }
  return Object.assign(wrapper, { decided, answered, said, press })
}

test('it says that nothing looks like this only once that is weighed', async () => {
  const wrapper = card({})
  expect(wrapper.text()).toContain('What it comes from is being weighed.')
  expect(wrapper.text()).not.toContain(NOTHING_KNOWN)
  await wrapper.setProps({ weighed: weighed([]) })
  expect(wrapper.text()).toContain(NOTHING_KNOWN)
})

test('it says why it could not be weighed', () => {
  const wrapper = card({ notWeighed: 'The line is lost' })
  expect(wrapper.text()).toContain('The line is lost')
  expect(wrapper.text()).not.toContain(NOTHING_KNOWN)
})

test('a cause is said as sure as it is, and where two cannot be told none stands out', () => {
  const sure = card({
    weighed: weighed([cause('one', { sure: 'sure' }), cause('two', { sure: 'could_be' })]),
  })
  expect(sure.findAll('.sure').map((each) => each.text())).toEqual(['sure', 'could be'])
  expect(sure.findAll('.causes .el-button--primary')).toHaveLength(1)
  const tie = [cause('one', { sure: 'cannot_tell' }), cause('two', { sure: 'cannot_tell' })]
  const asked = { cause: 'one', title: 'Cause one', from: 'Cause two', test: 'Snip it: does it drop?' }
  const told = card({ weighed: weighed(tie, { tell_apart: asked }) })
  expect(told.findAll('.causes .el-button--primary')).toHaveLength(0)
  // The test stands before every amount.
  const text = told.text()
  expect(text.indexOf('Snip it: does it drop?')).toBeLessThan(text.indexOf('0.6'))
})

test('the answer to the test is one tap', async () => {
  const tie = [cause('one', { sure: 'cannot_tell' }), cause('two', { sure: 'cannot_tell' })]
  const asked = { cause: 'one', title: 'Cause one', from: 'Cause two', test: 'Snip it: does it drop?' }
  const wrapper = card({ weighed: weighed(tie, { tell_apart: asked }) })
  await wrapper.press('It is not so')
  expect(wrapper.answered).toEqual([['one', false]])
  expect(wrapper.decided).toEqual([])
})

test('what a cause depends on is asked before it is taken, and it can be taken all the same', async () => {
  const wrapper = card({ weighed: weighed([cause('one')], { asks: ['towards'] }) })
  expect(wrapper.text()).not.toContain('Before a cause is taken')
  await wrapper.press('Take by one')
  expect(wrapper.decided).toEqual([])
  expect(wrapper.text()).toContain('Before a cause is taken')
  await wrapper.press('Take it all the same')
  expect(wrapper.decided).toHaveLength(1)
  expect(wrapper.decided[0]).toMatchObject({ what: 'alter', alteration: 'by one', cause: 'one' })
})

test('what goes with an alteration is taken by itself, and a cause that wants nothing is left', async () => {
  const wrapper = card({ weighed: weighed([cause('seat', { beside: [offer('length')] })]) })
  await wrapper.press('Take length')
  expect(wrapper.decided[0]).toMatchObject({ alteration: 'length', cause: 'seat' })
  const ease = cause('ease', { answer: { what: 'leave', reason: 'this is what movement needs' } })
  const left = card({ weighed: weighed([ease]) })
  await left.press('Leave it')
  expect(left.decided).toEqual([{ what: 'leave', reason: 'Cause ease: this is what movement needs' }])
})
