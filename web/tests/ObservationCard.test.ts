import { mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import type { ObservationView, Suggestion } from '@/api/types'
import ObservationCard from '@/components/fit/ObservationCard.vue'
import { addresses, clearedAfterwards, signedIn } from './support'

const NOTHING_KNOWN = 'No known cause looks like this'
const seen = {
  id: 3,
  revision: 1,
  said: 'Drag at side seam towards bust',
  seen: { note: '', side: 'both', sureness: 'sure' },
  seen_by: 'Marit Holm',
} as unknown as ObservationView

function card(over: { weighed?: { causes: Suggestion[]; set_aside: [] }; notWeighed?: string }) {
  signedIn('fitting')
  const wrapper = mount(ObservationCard, {
    attachTo: document.body,
    props: {
      seen,
      closed: false,
      next: true,
      takenFor: () => undefined,
      decide: async () => undefined,
      ...over,
    },
    global: { plugins: [addresses()] },
  })
  clearedAfterwards(wrapper)
  return wrapper
}

test('it says that nothing looks like this only once that is weighed', async () => {
  const wrapper = card({})
  expect(wrapper.text()).toContain('What it comes from is being weighed.')
  expect(wrapper.text()).not.toContain(NOTHING_KNOWN)
  await wrapper.setProps({ weighed: { causes: [], set_aside: [] } })
  expect(wrapper.text()).toContain(NOTHING_KNOWN)
})

test('it says why it could not be weighed', () => {
  const wrapper = card({ notWeighed: 'The line is lost' })
  expect(wrapper.text()).toContain('The line is lost')
  expect(wrapper.text()).not.toContain(NOTHING_KNOWN)
})
