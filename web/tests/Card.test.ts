import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import Card from '@/pages/Card.vue'
import { addresses, clearedAfterwards, serve, signedIn } from './support'
import type { Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const field = (figure: string, needed = false) => ({ figure, name: figure.replace('_', ' '), needed })
const FORMS = [
  {
    garment: 'bodice',
    name: 'Bodice or dress',
    says: null,
    made_for: [{ code: 'bust_girth', name: 'Bust girth' }],
    figures: [field('armhole'), field('bust', true), field('waist', true)],
  },
  {
    garment: 'trousers',
    name: 'Trousers',
    says: 'Trousers are only compared.',
    made_for: [{ code: 'hip_girth', name: 'Hip girth' }],
    figures: [field('waist', true), field('leg_hem')],
  },
]
const refused: Reply = {
  status: 422,
  body: {
    type: 'urn:yardwand:field',
    title: 'Not saved',
    status: 422,
    detail: 'waist of size 14: “x” is no length',
    pointer: '/sizes/1/figures/waist',
  },
}

async function page(answer: () => Reply = () => ({ body: { id: 9 } })) {
  signedIn('cutting')
  const asked = serve(({ method }) => (method === 'GET' ? { body: FORMS } : answer()))
  const router = addresses()
  const wrapper = mount(Card, { attachTo: document.body, global: { plugins: [router] } })
  clearedAfterwards(wrapper)
  await flushPromises()
  const named = (label: string) => wrapper.get<HTMLInputElement>(`input[aria-label="${label}"]`)
  const rows = () => wrapper.findAll('tbody th').map((each) => each.text())
  const press = async (text: string) => {
    await wrapper
      .findAll('button')
      .find((each) => each.text() === text)
      ?.trigger('click')
    await flushPromises()
  }
  const posted = () => asked.filter(({ method }) => method === 'POST').map(({ body }) => body)
  return { wrapper, router, named, rows, press, posted }
}

test('what a card must hold stands first, after what it is made for', async () => {
  const { rows, wrapper } = await page()
  expect(rows()).toEqual(['Made for: bust girth', 'bust, needed', 'waist, needed', 'armhole'])
  expect(wrapper.text()).not.toContain('only compared')
})

test('of another garment it asks for other figures, and sends only those', async () => {
  const { wrapper, rows, named, press, posted } = await page()
  await named('bust').setValue('37')
  await named('waist').setValue('28')
  await wrapper.get('input[value=trousers]').setValue()
  expect(rows()).toEqual(['Made for: hip girth', 'waist, needed', 'leg hem'])
  expect(wrapper.text()).toContain('Trousers are only compared.')
  await named('Size').setValue('12')
  await named('Made for: hip girth').setValue('38')
  await press('Keep the card')
  expect(posted()).toEqual([
    {
      name: '',
      why: '',
      garment: 'trousers',
      sizes: [{ label: '12', made_for: { hip_girth: '38' }, figures: { waist: '28' } }],
    },
  ])
})

test('a size is added and left out, and a fault is shown in its row', async () => {
  const { wrapper, named, press, posted } = await page(() => refused)
  await named('Size').setValue('12')
  await named('waist').setValue('28')
  await press('Another size')
  await named('Size 2').setValue('14')
  await named('waist, size 14').setValue('x')
  await press('Keep the card')
  expect(named('waist, size 14').attributes('aria-invalid')).toBe('true')
  expect(named('waist, size 12').attributes('aria-invalid')).toBe('false')
  expect(wrapper.get('tbody [role=alert]').text()).toContain('is no length')
  await wrapper.get('[aria-label="Leave out size 14"]').trigger('click')
  await press('Keep the card')
  expect(posted().at(-1)).toMatchObject({ sizes: [{ label: '12', figures: { waist: '28' } }] })
})
