import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import type { HousePerson, Me } from '@/api/types'
import { useHouse } from '@/composables/useHouse'
import People from '@/pages/People.vue'
import { pick, problem, serve } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const marit: HousePerson = {
  id: 1,
  name: 'Marit',
  email: 'marit@workroom.example',
  role: 'owner',
  left_at: null,
  asked_in_until: null,
  second_factor: false,
  revision: 1,
}
const tove: HousePerson = { ...marit, id: 2, name: 'Tove', email: 'tove@workroom.example', role: 'reader' }
const roles = [
  { role: 'owner', name: 'Owner', may: 'all of it' },
  { role: 'fitter', name: 'Fitter', may: 'readings and fittings' },
  { role: 'reader', name: 'Reader', may: 'nothing' },
]
const link = { person_id: 3, path: '/welcome/abc', until: '2027-01-08T10:00:00Z' }

async function page(people: HousePerson[], answer: (asked: Asked) => Reply) {
  useHouse().me.value = { id: 1, name: 'Marit', role: 'owner', may: ['housekeeping'] } as Me
  const asked = serve((now) => (now.method === 'GET' ? { body: { people, roles } } : answer(now)))
  const wrapper = mount(People, { attachTo: document.body })
  onTestFinished(() => wrapper.unmount())
  await flushPromises()
  const press = async (name: string, within = 'body') => {
    const buttons = [...document.querySelectorAll<HTMLElement>(`${within} button`)]
    const found = buttons.find((each) => each.textContent.trim() === name)
    if (!found) throw new Error(`no button ${name}`)
    found.click()
    await flushPromises()
  }
  return { wrapper, asked, press, writes: () => asked.filter((each) => each.method !== 'GET') }
}

test('somebody is asked in with a role, and the link is shown', async () => {
  const { wrapper, press, writes } = await page([marit], () => ({ status: 201, body: link }))
  await press('Ask somebody in')
  const type = (id: string, text: string) => {
    const field = document.querySelector<HTMLInputElement>(`#${id}`)!
    field.value = text
    field.dispatchEvent(new Event('input', { bubbles: true }))
  }
  type('person-name', 'Runa')
  type('person-email', 'runa@workroom.example')
  await pick('person-role', 'Fitter: readings and fittings')
  document.querySelector('.el-dialog form')!.dispatchEvent(new Event('submit', { cancelable: true }))
  await flushPromises()
  expect(writes()).toMatchObject([
    {
      method: 'POST',
      path: '/api/people',
      body: { name: 'Runa', email: 'runa@workroom.example', role: 'fitter' },
    },
  ])
  expect(wrapper.get('[role=status]').text()).toContain('/welcome/abc')
})

test('whoever is let go is let go as they were seen; one does not let oneself go', async () => {
  const { press, writes } = await page([marit, tove], () => ({ status: 204 }))
  expect(document.querySelector('[aria-label="Change Marit"]')!.textContent).not.toContain('Let go')
  await press('Let go', '[aria-label="Change Tove"]')
  expect(writes()).toMatchObject([{ path: '/api/people/2/leave', body: { revision: 1 } }])
})

test('whoever left is brought back by a link, and nothing else is done', async () => {
  const gone = { ...tove, left_at: '2026-11-01T10:00:00Z' }
  const { wrapper, press, writes } = await page([marit, gone], () => ({ status: 201, body: link }))
  const row = '[aria-label="Change Tove"]'
  expect(document.querySelectorAll(`${row} button`)).toHaveLength(1)
  expect(wrapper.text()).toContain('left 1 Nov 2026')
  await press('Bring back with a link', row)
  expect(writes()).toMatchObject([{ path: '/api/people/2/link' }])
  expect(wrapper.get('[role=status]').text()).toContain('A link for Tove')
})

test('what is refused is said where it was asked', async () => {
  const { wrapper, press } = await page([marit, tove], () => problem(409, 'this is the only owner'))
  await press('Let go', '[aria-label="Change Tove"]')
  expect(wrapper.get('[role=alert]').text()).toContain('This is the only owner')
})

test('who has lost telephone and paper signs in by the password again', async () => {
  const lost = { ...tove, second_factor: true }
  const { wrapper, press, writes } = await page([marit, lost], () => ({ status: 204 }))
  expect(wrapper.text()).toContain('signs in with a code too')
  await press('Change', '[aria-label="Change Tove"]')
  await press('Take the second step away', '.el-dialog')
  expect(writes()).toMatchObject([{ method: 'POST', path: '/api/people/2/second-factor/off' }])
  expect(document.querySelector('.el-dialog')?.textContent).not.toContain('code from an app')
})
