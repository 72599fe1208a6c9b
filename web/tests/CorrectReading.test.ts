import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import CorrectReading from '@/components/measure/CorrectReading.vue'
import { serve } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const reading = { id: 12, name: 'Bust girth', typed: '36 1/2 in' }

async function dialog(answer: (asked: Asked) => Reply) {
  const asked = serve(answer)
  const wrapper = mount(CorrectReading, { props: { reading: undefined }, attachTo: document.body })
  onTestFinished(() => {
    wrapper.unmount()
    document.body.innerHTML = ''
  })
  await wrapper.setProps({ reading })
  await flushPromises()
  const type = (id: string, text: string) => {
    const field = document.querySelector<HTMLInputElement>(`#${id}`)!
    field.value = text
    field.dispatchEvent(new Event('input', { bubbles: true }))
  }
  const submit = async () => {
    document.querySelector('.el-dialog form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
  }
  return { wrapper, asked, type, submit }
}

test('a reading is corrected by what was typed, with the reason', async () => {
  const { wrapper, asked, type, submit } = await dialog(() => ({ status: 201, body: { id: 13 } }))
  expect(document.querySelector('.el-dialog')!.textContent).toContain('It says 36 1/2 in.')
  type('corrected', '37 1/4')
  type('corrected-why', 'written down wrongly')
  await submit()
  const body = { text: '37 1/4', why: 'written down wrongly', stands: null }
  expect(asked).toMatchObject([{ method: 'POST', path: '/api/readings/12/correction', body }])
  expect(wrapper.emitted('corrected')).toHaveLength(1)
})

test('a length no body has asks for initials, and what was typed stays', async () => {
  const { wrapper, asked, type, submit } = await dialog(({ body }) =>
    (body as { stands: string | null }).stands
      ? { status: 201, body: { id: 13 } }
      : {
          status: 422,
          body: { type: '', title: 'Not so', status: 422, detail: 'no bust', pointer: '/stands' },
        },
  )
  expect(document.querySelector('#corrected-stands')).toBeNull()
  type('corrected', '3')
  type('corrected-why', 'a doll')
  await submit()
  expect(wrapper.emitted('corrected')).toBeUndefined()
  type('corrected-stands', 'mh')
  await submit()
  expect(asked.at(-1)!.body).toEqual({ text: '3', why: 'a doll', stands: 'mh' })
  expect(wrapper.emitted('corrected')).toHaveLength(1)
})
