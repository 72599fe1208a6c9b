import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import SignIn from '@/pages/SignIn.vue'
import { problem, serve } from './support'
import type { Asked, Reply } from './support'

async function door(answer: (asked: Asked) => Reply) {
  const asked = serve((now) => (now.method === 'GET' ? { body: {} } : answer(now)))
  const routes = ['/', '/sign-in', '/clients'].map((path) => ({ path, component: { template: '<p />' } }))
  const router = createRouter({ history: createMemoryHistory(), routes })
  await router.push('/sign-in?next=/clients')
  const wrapper = mount(SignIn, { global: { plugins: [router] }, attachTo: document.body })
  onTestFinished(() => wrapper.unmount())
  await flushPromises()
  async function submit() {
    await wrapper.get('form').trigger('submit')
    await flushPromises()
  }
  await wrapper.get('#email').setValue('marit@workroom.example')
  await wrapper.get('#password').setValue('linen thread and wax')
  return {
    wrapper,
    router,
    submit,
    tried: () => asked.filter((each) => each.method === 'POST').map(({ body }) => body),
  }
}
const typed = { email: 'marit@workroom.example', password: 'linen thread and wax' }

test('whoever has no second step is asked for none, and goes where she wanted to', async () => {
  const { wrapper, router, submit, tried } = await door(() => ({ body: { id: 1 } }))
  expect(wrapper.find('#code').exists()).toBe(false)
  await submit()
  expect(tried()).toEqual([{ ...typed, code: null }])
  expect(router.currentRoute.value.path).toBe('/clients')
})

test('a code is asked for when the password was right, and a wrong one can be typed again', async () => {
  const { wrapper, router, submit, tried } = await door(({ body }) => {
    const { code } = body as { code: string | null }
    if (code === null) return problem(401, 'this sign-in takes a code too', 'urn:yardwand:code-wanted')
    return code === '123456'
      ? { body: { id: 1 } }
      : problem(401, 'this is not the code of this moment', 'urn:yardwand:wrong-code')
  })
  await submit()
  expect(wrapper.find('[role=alert]').exists()).toBe(false)
  expect(document.activeElement?.id).toBe('code')
  await wrapper.get('#code').setValue('000000')
  await submit()
  expect(wrapper.get('[role=alert]').text()).toContain('This is not the code of this moment')
  await wrapper.get('#code').setValue('123456')
  await submit()
  expect(tried()).toEqual([null, '000000', '123456'].map((code) => ({ ...typed, code })))
  expect(router.currentRoute.value.path).toBe('/clients')
})

test('a wrong password asks for no code', async () => {
  const { wrapper, submit } = await door(() =>
    problem(401, 'this address and password do not belong together', 'urn:yardwand:wrong-password'),
  )
  await submit()
  expect(wrapper.get('[role=alert]').text()).toContain('do not belong together')
  expect(wrapper.find('#code').exists()).toBe(false)
})
