import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import Forms from '@/pages/Forms.vue'
import { addresses, clearedAfterwards, problem, serve, signedIn, typeInto } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const form = (id: number, name: string, bust: string) => ({
  id,
  name,
  figures: [{ code: 'bust_girth', name: 'Bust', text: bust }],
  levels: [],
  revision: 1,
})

async function page(answer: (asked: Asked) => Reply) {
  signedIn('cutting')
  const asked = serve(answer)
  const router = addresses()
  const wrapper = mount(Forms, { attachTo: document.body, global: { plugins: [router] } })
  clearedAfterwards(wrapper)
  await flushPromises()
  const names = () => wrapper.findAll('tbody a').map((each) => each.text())
  return { wrapper, router, asked, names }
}

test('each form stands with its figures and is sorted by its name', async () => {
  const { wrapper, names } = await page(() => ({
    body: [form(2, 'Small', '33'), form(1, 'Middle', '36 1/4')],
  }))
  expect(wrapper.text()).toContain('36 1/4')
  expect(names()).toEqual(['Small', 'Middle'])
  await wrapper.get('th .caret-wrapper').trigger('click')
  expect(names()).toEqual(['Middle', 'Small'])
})

test('where there is none, it says what one is for', async () => {
  const { wrapper } = await page(() => ({ body: [] }))
  expect(wrapper.text()).toContain('then it can be padded for a client')
})

test('a new one is kept once and opened, and a name that is taken is said', async () => {
  let taken = true
  const { wrapper, asked, router } = await page(({ method }) => {
    if (method === 'GET') return { body: [] }
    return taken ? problem(409, 'there is a form of this name') : { body: { id: 9 } }
  })
  typeInto('form-name', 'Linen form')
  await flushPromises()
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(wrapper.get('[role=alert]').text()).toContain('There is a form of this name')
  taken = false
  void wrapper.get('form').trigger('submit')
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(asked.filter(({ method }) => method === 'POST').map(({ body }) => body)).toEqual([
    { name: 'Linen form', figures: [], levels: [] },
    { name: 'Linen form', figures: [], levels: [] },
  ])
  expect(router.currentRoute.value).toMatchObject({ name: 'form', params: { id: '9' } })
})
