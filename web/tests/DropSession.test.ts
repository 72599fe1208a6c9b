import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import DropSession from '@/components/measure/DropSession.vue'
import { clearedAfterwards, problem, serve, submitDialog, typeInto } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

async function dialog(signed: boolean, answer: (asked: Asked) => Reply) {
  const asked = serve(answer)
  const wrapper = mount(DropSession, { props: { session: 6, signed }, attachTo: document.body })
  clearedAfterwards(wrapper)
  await wrapper.get('button').trigger('click')
  await flushPromises()
  const submit = async (why: string) => {
    typeInto('drop-why', why)
    await submitDialog()
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
