import { mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import type { AlterationView, Garment, PlanLine, Wish } from '@/api/types'
import AddAlteration from '@/components/alter/AddAlteration.vue'
import { clearedAfterwards } from './support'

const alteration = (code: string, name: string, why: string, seams: string[]) =>
  ({ code, name, why, seams, garments: ['bodice'] }) as unknown as AlterationView
const alterations = [
  alteration('full_bust', 'Full bust', 'The cup is fuller than the block.', ['armhole', 'side']),
  alteration('gaping_neckline', 'Gaping neckline', 'The neckline stands off.', ['neckline']),
  alteration('cap_height', 'Cap height', 'The sleeve drags.', ['cap']),
  {
    ...alteration('high_hip', 'High hip', 'One hip stands higher.', ['waist']),
    garments: ['skirt'] as Garment[],
  },
]
const line = { key: 'a', name: 'Full bust', reason: 'Prominence.' } as unknown as PlanLine

const wish = (name: string, refused: string | null) =>
  ({ alteration: 'hem_length', name, says: 'A full length of 41 in.', refused }) as unknown as Wish

async function opened(place?: { seam: string; name: string }, wished: Wish[] = []) {
  const wrapper = mount(AddAlteration, {
    attachTo: document.body,
    props: {
      alterations,
      fits: ['full_bust', 'gaping_neckline'],
      planned: [line],
      wished,
      garment: 'bodice' as Garment,
    },
  })
  clearedAfterwards(wrapper)
  if (place) await wrapper.setProps({ place })
  else await wrapper.get('button').trigger('click')
  const offered = () => wrapper.findAll('li button').map((each) => each.text().split('  ')[0]!.trim())
  const find = (words: string) => wrapper.get('input').setValue(words)
  return { wrapper, offered, find }
}

test('what is planned comes first, then what fits; what does not is named and not offered', async () => {
  const { wrapper, offered } = await opened()
  expect(offered()).toEqual(['Full bust Prominence.', 'Full bust', 'Gaping neckline'])
  expect(wrapper.text()).toContain('Not for this pattern as it is: cap height.')
  expect(document.activeElement).toBe(wrapper.get('input').element)
})

test('it is found by any word of its name or of what it is for', async () => {
  const { offered, find, wrapper } = await opened()
  await find('STANDS neck')
  expect(offered()).toEqual(['Gaping neckline'])
  await find('sleeve')
  expect(offered()).toEqual([])
  expect(wrapper.text()).toContain('Nothing of that name fits this pattern.')
})

test('what is chosen is begun, and the list is closed with nothing left in it', async () => {
  const { wrapper, find } = await opened()
  await find('gap')
  await wrapper.get('li button').trigger('click')
  expect(wrapper.emitted('add')).toEqual([['gaping_neckline']])
  expect(wrapper.find('.panel').exists()).toBe(false)
  await wrapper.get('button').trigger('click')
  expect(wrapper.get('input').element.value).toBe('')
})

test('a line of the plan goes in as it was planned', async () => {
  const { wrapper } = await opened()
  await wrapper.get('li button').trigger('click')
  expect(wrapper.emitted('plan')).toEqual([[line]])
})

test('a seam that was pointed at opens what is done there, until it does not count any more', async () => {
  const { wrapper, offered } = await opened({ seam: 'neckline', name: 'neckline' })
  expect(offered()).toEqual(['Gaping neckline'])
  await wrapper
    .findAll('button')
    .find((each) => each.text() === 'Anywhere')!
    .trigger('click')
  expect(wrapper.emitted('anywhere')).toHaveLength(1)
  await wrapper.setProps({ place: undefined })
  expect(offered()).toContain('Full bust')
})

test('escape leaves it', async () => {
  const { wrapper } = await opened()
  await wrapper.get('input').trigger('keydown', { key: 'Escape' })
  expect(wrapper.find('.panel').exists()).toBe(false)
  expect(wrapper.emitted('add')).toBeUndefined()
})

test('what she wishes is offered as it is reckoned, and what cannot be says why', async () => {
  const [possible, impossible] = [
    wish('Hem length', null),
    wish('Hem length', 'this pattern ends at the waist'),
  ]
  const { wrapper } = await opened(undefined, [possible])
  expect(wrapper.text()).toContain('She wishes')
  await wrapper.findAll('li button')[1]!.trigger('click')
  expect(wrapper.emitted('wish')).toEqual([[possible]])
  const other = await opened(undefined, [impossible])
  expect(other.wrapper.findAll('li button')[1]!.attributes('disabled')).toBeDefined()
  expect(other.wrapper.text()).toContain('this pattern ends at the waist')
  await other.find('full')
  expect(other.wrapper.text()).not.toContain('She wishes')
})

test('of another garment nothing is offered and nothing told', async () => {
  const { wrapper, offered, find } = await opened()
  await find('hip')
  expect(offered()).toEqual([])
  expect(wrapper.text()).not.toContain('high hip')
  await wrapper.setProps({ garment: 'skirt', fits: ['high_hip'] })
  expect(offered()).toEqual(['High hip'])
})
