import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test } from 'vitest'
import SecondStep from '@/components/house/SecondStep.vue'
import { problem, serve } from './support'
import type { Asked, Reply } from './support'

const key = { key: 'GEZD GNBV', address: 'otpauth://totp/x', size: 25, squares: 'M0 0h1v1h-1z' }
const since = '2026-11-20T09:00:00Z'

/** The card, with a server that keeps whether it is on. */
async function card(
  step: { since: string | null; recovery_codes: number },
  refuses?: (asked: Asked) => Reply | undefined,
) {
  let now = step
  const asked = serve((asked) => {
    const refused = refuses?.(asked)
    if (refused) return refused
    if (asked.method === 'GET') return { body: now }
    if (asked.path.endsWith('/key')) return { body: key }
    if (asked.path.endsWith('/off')) now = { since: null, recovery_codes: 0 }
    else now = { since, recovery_codes: 2 }
    return asked.method === 'PUT'
      ? { body: { codes: ['aaaa-bbbb-cccc', 'dddd-eeee-ffff'] } }
      : { status: 204 }
  })
  const wrapper = mount(SecondStep)
  onTestFinished(() => wrapper.unmount())
  await flushPromises()
  async function press(words: string) {
    await wrapper
      .findAll('button')
      .find((each) => each.text() === words)
      ?.trigger('click')
    await flushPromises()
  }
  async function submit() {
    await wrapper.get('form').trigger('submit')
    await flushPromises()
  }
  return { wrapper, asked, press, submit }
}

test('it is set up with a picture and a code, and its codes on paper are shown once', async () => {
  const { wrapper, asked, press, submit } = await card({ since: null, recovery_codes: 0 })
  await press('Set it up')
  expect(wrapper.get('path').attributes('d')).toBe(key.squares)
  expect(wrapper.text()).toContain('GEZD GNBV')
  await wrapper.get('#step-code').setValue('123 456')
  await wrapper.get('#step-password').setValue('linen thread and wax')
  await submit()
  const put = asked.find((each) => each.method === 'PUT')
  expect(put?.body).toEqual({ key: 'GEZD GNBV', code: '123 456', password: 'linen thread and wax' })
  expect(wrapper.findAll('li').map((each) => each.text())).toEqual(['aaaa-bbbb-cccc', 'dddd-eeee-ffff'])
  expect(wrapper.emitted('changed')).toHaveLength(1)
  await press('I have kept them')
  expect(wrapper.text()).not.toContain('aaaa')
  expect(wrapper.text()).toContain('2 codes on paper are left')
})

test('a wrong code leaves the picture and what was typed where they are', async () => {
  const { wrapper, press, submit } = await card({ since: null, recovery_codes: 0 }, ({ method }) =>
    method === 'PUT' ? problem(422, 'the app shows another code for this key') : undefined,
  )
  await press('Set it up')
  await wrapper.get('#step-code').setValue('000000')
  await submit()
  expect(wrapper.get('[role=alert]').text()).toContain('The app shows another code')
  expect(wrapper.get<HTMLInputElement>('#step-code').element.value).toBe('000000')
  expect(wrapper.find('path').exists()).toBe(true)
})

test('it is taken away with the password alone, and may be left on', async () => {
  const { wrapper, asked, press, submit } = await card({ since, recovery_codes: 1 })
  expect(wrapper.text()).toContain('since 20 Nov 2026. One code on paper is left.')
  await press('Take it away')
  await press('Leave it on')
  await press('Take it away')
  await wrapper.get('#step-password').setValue('linen thread and wax')
  await submit()
  expect(asked.filter((each) => each.method === 'POST')).toMatchObject([
    { path: '/api/me/second-factor/off', body: { password: 'linen thread and wax' } },
  ])
  expect(wrapper.text()).toContain('Set it up')
})
