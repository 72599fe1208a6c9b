import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test } from 'vitest'
import OwnSignIn from '@/pages/OwnSignIn.vue'
import { problem, serve } from './support'
import type { Asked, Reply } from './support'

const since = '2026-11-20T09:00:00Z'
const here = { id: 4, device: 'Firefox on Linux', since, is_this: true }
const phone = { id: 3, device: '', since, is_this: false }

async function page(answer: (asked: Asked) => Reply) {
  const asked = serve((now) => {
    if (now.method !== 'GET') return answer(now)
    return { body: now.path === '/api/me/sign-ins' ? [here, phone] : { since: null, recovery_codes: 0 } }
  })
  const wrapper = mount(OwnSignIn)
  onTestFinished(() => wrapper.unmount())
  await flushPromises()
  return { wrapper, writes: () => asked.filter((each) => each.method !== 'GET') }
}

test('the sign-in that asks is named, and another one can be ended', async () => {
  const { wrapper, writes } = await page(() => ({ status: 204 }))
  const [first, second] = wrapper.findAll('li')
  expect(first?.text()).toContain('this one')
  expect(first?.find('button').exists()).toBe(false)
  expect(second?.text()).toContain('An unnamed device')
  await second?.get('button').trigger('click')
  await flushPromises()
  expect(writes()).toMatchObject([{ method: 'DELETE', path: '/api/me/sign-ins/3' }])
})

test('a changed password leaves the fields empty; a wrong one leaves them as they are', async () => {
  let knows = false
  const { wrapper, writes } = await page(() =>
    knows ? { status: 204 } : problem(422, 'this is not the password you sign in with'),
  )
  const field = (id: string) => wrapper.get<HTMLInputElement>(id)
  await field('#own-now').setValue('guessed')
  await field('#own-password').setValue('silk and beeswax')
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(wrapper.get('[role=alert]').text()).toContain('This is not the password')
  expect(field('#own-password').element.value).toBe('silk and beeswax')
  knows = true
  await field('#own-now').setValue('linen thread and wax')
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(writes().at(-1)?.body).toEqual({ now: 'linen thread and wax', password: 'silk and beeswax' })
  expect(wrapper.find('[role=alert]').exists()).toBe(false)
  expect(field('#own-now').element.value + field('#own-password').element.value).toBe('')
})
