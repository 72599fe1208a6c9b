import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import DropSession from '@/components/measure/DropSession.vue'
import { problem, serve } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

async function dialog(signed: boolean, answer: (asked: Asked) => Reply) {
  const asked = serve(answer)
  const wrapper = mount(DropSession, { props: { session: 6, signed }, attachTo: document.body })
  onTestFinished(() => {
    wrapper.unmount()
    document.body.innerHTML = ''
  })
  await wrapper.get('button').trigger('click')
  await flushPromises()
  const submit = async (why: string) => {
    const field = document.querySelector<HTMLInputElement>('#drop-why')!
    field.value = why
    field.dispatchEvent(new Event('input', { bubbles: true }))
    document.querySelector('.el-dialog form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
  }
  return { wrapper, asked, submit, text: () => document.querySelector('.el-dialog')!.textContent }
}

test('a session goes with its reason', async () => {
  const { wrapper, asked, submit } = await dialog(true, () => ({ status: 204 }))
  await submit('another client')
  expect(asked).toMatchObject([
    { method: 'DELETE', path: '/api/sessions/6', query: { why: 'another client' } },
  ])
  expect(wrapper.emitted('dropped')).toHaveLength(1)
})

test('without the reason it wants, it stays and says so', async () => {
  const { wrapper, submit, text } = await dialog(true, () =>
    problem(422, 'The reason is empty: write something'),
  )
  await submit('')
  expect(text()).toContain('The reason is empty')
  expect(wrapper.emitted('dropped')).toBeUndefined()
})
