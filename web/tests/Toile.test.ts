import { flushPromises } from '@vue/test-utils'
import { beforeEach, expect, test, vi } from 'vitest'
import type { Craft } from '@/api/types'
import { useHouse } from '@/composables/useHouse'
import Toile from '@/pages/Toile.vue'
import { garmentPage, later, problem, serve, signedIn } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const version = (id: number, number: number) => ({
  id,
  version: number,
  why: number === 1 ? 'First toile' : '',
  made_by: 'Marit',
  made_at: '2026-11-20T10:00:00Z',
  withdrawn: null,
})
const allowances = { side: 12, shoulder: 12, waist: 12, neckline: 9, armhole: 9, centre: 25, hem: 25 }
const order = { id: 7, client_id: 3, pattern_id: 9, round: 1, round_id: 4, round_open: false }
const sheet = (name: string) => ({ name, x: 0, y: 0, width: 190, height: 277 })

beforeEach(() => {
  useHouse().craft.value = {
    allowances,
    widest_allowance: { mm: 50, text: '2' },
    stages: [{ stage: 'toile', name: 'toile' }],
  } as unknown as Craft
})

function answers(asked: Asked): Reply {
  if (asked.path === '/api/orders/7') return { body: order }
  if (asked.path === '/api/patterns/9')
    return { body: { versions: [version(12, 2), version(11, 1)], withdrawn: [] } }
  if (asked.path.endsWith('/pages')) {
    const names = asked.query['paper'] === 'letter' ? ['A1', 'A2', 'B1'] : ['A1', 'A2']
    const pieces = [{ name: 'Bodice front', cutting: 'M0 0L10 0L10 10Z' }]
    const paper = asked.query['paper'] === 'letter' ? 'Letter' : 'A4'
    return { body: { paper, width: 370, height: 277, sheets: names.map(sheet), pieces } }
  }
  return { body: { id: 5 } }
}
const mapped = (asked: readonly Asked[]) => asked.filter(({ path }) => path.endsWith('/pages'))

test('the sheets are those of the version, the paper and the allowances that are chosen', async () => {
  signedIn('cutting', 'fitting')
  const asked = serve((each) => answers(each))
  const { wrapper } = await garmentPage(Toile)
  expect(mapped(asked)).toMatchObject([
    { path: '/api/versions/12/pages', query: { paper: 'a4', side: '12' } },
  ])
  expect(wrapper.get('figure').text()).toContain('2 sheets of A4')
  await wrapper.get('input[value=letter]').setValue()
  await flushPromises()
  expect(mapped(asked).at(-1)?.query['paper']).toBe('letter')
  expect(wrapper.get('figure').text()).toContain('3 sheets of Letter')
  expect(wrapper.get('figure').findAll('rect')).toHaveLength(3)
  await wrapper.findAll('input[name=version]')[1]!.trigger('change')
  await flushPromises()
  expect(mapped(asked).at(-1)?.path).toBe('/api/versions/11/pages')
  expect(wrapper.text()).toContain('Print version 1, true to size')
})

test('on a slow line the sheets shown are never those of one paper under the name of another', async () => {
  signedIn('fitting')
  const letter = later<void>()
  serve(async (each) => {
    if (each.query['paper'] === 'letter') await letter.promise
    return answers(each)
  })
  const { wrapper } = await garmentPage(Toile)
  await wrapper.get('input[value=letter]').setValue()
  await flushPromises()
  expect(wrapper.get('figure').text()).toContain('2 sheets of A4')
  letter.give()
  await flushPromises()
  expect(wrapper.get('figure').text()).toContain('3 sheets of Letter')
})

test('the file is asked for with what the fields say, and only the PDF names the paper', async () => {
  signedIn('fitting')
  serve((each) => answers(each))
  const { wrapper } = await garmentPage(Toile)
  await wrapper.get('input[value=letter]').setValue()
  const [pdf, svg] = wrapper
    .findAll('a.el-button')
    .map((link) => new URL(link.attributes('href')!, 'http://x'))
  expect(pdf!.pathname).toBe('/api/versions/12/pdf')
  expect(Object.fromEntries(pdf!.searchParams)).toEqual({
    paper: 'letter',
    ...Object.fromEntries(Object.entries(allowances).map(([edge, mm]) => [edge, String(mm)])),
  })
  expect(svg!.searchParams.has('paper')).toBe(false)
})

test('allowances that cannot be cut are said where the sheets would be', async () => {
  signedIn('fitting')
  serve((each) =>
    each.path.endsWith('/pages')
      ? problem(422, 'the line crosses itself: choose narrower ones')
      : answers(each),
  )
  const { wrapper } = await garmentPage(Toile)
  expect(wrapper.get('[aria-labelledby=sheets-title]').text()).toContain('choose narrower ones')
  expect(wrapper.find('figure').exists()).toBe(false)
})

test('a round is opened once on the version that is shown, with what she wears', async () => {
  signedIn('fitting')
  const asked = serve((each) => answers(each))
  const { wrapper, press, router } = await garmentPage(Toile)
  await wrapper.findAll('input[name=version]')[1]!.trigger('change')
  await wrapper.get('#worn').setValue('flat shoes')
  const form = wrapper.get('#fit-form')
  void form.trigger('submit')
  await form.trigger('submit')
  await flushPromises()
  expect(asked.filter(({ method }) => method === 'POST')).toMatchObject([
    { path: '/api/orders/7/rounds', body: { version_id: 11, worn: 'flat shoes', stage: 'toile' } },
  ])
  expect(router.currentRoute.value).toMatchObject({ name: 'round', params: { id: '7', round: '5' } })
  await expect(press('no such button')).rejects.toThrow('PDF in tiles')
})

test('whoever may not fit prints and opens no round', async () => {
  signedIn('readings')
  serve((each) => answers(each))
  const { wrapper } = await garmentPage(Toile)
  const names = wrapper.findAll('.el-button').map((each) => each.text())
  expect(names).toContain('PDF in tiles')
  expect(names.some((name) => name.startsWith('Open fitting round'))).toBe(false)
  expect(wrapper.text()).toContain('does not change it')
})

test('known by a small drawing of their own', async () => {
  signedIn('fitting')
  serve((each) => answers(each))
  const { wrapper } = await garmentPage(Toile)
  expect(wrapper.findAll('img').map((each) => each.attributes('src'))).toEqual([
    '/api/versions/12/picture',
    '/api/versions/11/picture',
  ])
})
