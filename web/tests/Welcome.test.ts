import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import Welcome from '@/pages/Welcome.vue'
import { problem, serve } from './support'
import type { Asked, Reply } from './support'

async function door(answer: (asked: Asked) => Reply) {
  const asked = serve(answer)
  const routes = ['/', '/welcome/abc', '/sign-in'].map((path) => ({ path, component: { template: '<p />' } }))
  const router = createRouter({ history: createMemoryHistory(), routes })
  await router.push('/welcome/abc')
  const wrapper = mount(Welcome, { props: { token: 'abc' }, global: { plugins: [router] } })
  onTestFinished(() => wrapper.unmount())
  await flushPromises()
  return { wrapper, router, asked }
}

test('somebody comes in with a password of her own and stands in the workroom', async () => {
  const { wrapper, router, asked } = await door(({ path, method }) => {
    if (path !== '/api/entry/abc') return { body: {} }
    return { body: method === 'GET' ? { name: 'Runa', house: 'Thimble Lane' } : { id: 3 } }
  })
  expect(wrapper.get('h1').text()).toBe('Welcome, Runa')
  await wrapper.get('#password').setValue('linen thread and wax')
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(asked.find((each) => each.method === 'POST')?.body).toEqual({ password: 'linen thread and wax' })
  expect(router.currentRoute.value.path).toBe('/')
})

test('whoever has set up a second step signs in with the new password', async () => {
  const { wrapper, router } = await door(({ method }) =>
    method === 'GET'
      ? { body: { name: 'Runa', house: 'Thimble Lane', second_factor: true } }
      : { status: 204 },
  )
  expect(wrapper.text()).toContain('and with a code')
  await wrapper.get('#password').setValue('linen thread and wax')
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(router.currentRoute.value.path).toBe('/sign-in')
})

test('a link that has ended says so and asks for nothing', async () => {
  const { wrapper } = await door(() => problem(404, 'this link was used already or has ended'))
  expect(wrapper.get('[role=alert]').text()).toContain('This link was used already')
  expect(wrapper.find('form').exists()).toBe(false)
})

test('a password that is refused stays in its field with the reason', async () => {
  const { wrapper, router } = await door(({ method }) =>
    method === 'GET'
      ? { body: { name: 'Runa', house: 'Thimble Lane' } }
      : problem(422, 'a password has at least twelve characters'),
  )
  await wrapper.get('#password').setValue('thread')
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(wrapper.get('[role=alert]').text()).toContain('at least twelve characters')
  expect(wrapper.get<HTMLInputElement>('#password').element.value).toBe('thread')
  expect(router.currentRoute.value.path).toBe('/welcome/abc')
})
