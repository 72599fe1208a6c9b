import { mount } from '@vue/test-utils'
import { expect, onTestFinished, test } from 'vitest'
import type { Craft } from '@/api/types'
import TermMark from '@/components/TermMark.vue'
import { useHouse } from '@/composables/useHouse'
import Glossary from '@/pages/Glossary.vue'

const glossary = [
  { code: 'toile', name: 'toile', says: 'The garment in plain cloth.' },
  { code: 'ease', name: 'ease', says: 'What a garment measures more than the body.' },
]
const known = () => void (useHouse().craft.value = { glossary } as Craft)

test('a marked word can be reached by key and says what it means', () => {
  known()
  const mark = mount(TermMark, {
    props: { term: 'toile' },
    slots: { default: 'toile' },
    attachTo: document.body,
  })
  onTestFinished(() => mark.unmount())
  const word = mark.get('.term')
  expect(word.text()).toBe('toile')
  expect(word.attributes()).toMatchObject({
    tabindex: '0',
    'aria-description': 'The garment in plain cloth.',
  })
})

test('a word nobody explained is a word', () => {
  known()
  const mark = mount(TermMark, { props: { term: 'unknown' }, slots: { default: 'selvedge' } })
  expect(mark.find('.term').exists()).toBe(false)
  expect(mark.text()).toBe('selvedge')
})

test('the page has every word in order, and finds by what a word says too', async () => {
  known()
  const page = mount(Glossary)
  expect(page.findAll('dt').map((each) => each.text())).toEqual(['ease', 'toile'])
  await page.get('input').setValue('plain cloth')
  expect(page.findAll('dt').map((each) => each.text())).toEqual(['toile'])
  await page.get('input').setValue('velcro')
  expect(page.text()).toContain('No word like that')
})
