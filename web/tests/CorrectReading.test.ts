import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import CorrectReading from '@/components/measure/CorrectReading.vue'
import { clearedAfterwards, serve, submitDialog, typeInto } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const reading = { id: 12, name: 'Bust girth', typed: '36 1/2 in' }

async function dialog(answer: (asked: Asked) => Reply) {
  const asked = serve(answer)
  const wrapper = mount(CorrectReading, { props: { reading: undefined }, attachTo: document.body })
  clearedAfterwards(wrapper)
  await wrapper.setProps({ reading })
  await flushPromises()
  return { wrapper, asked }
}

test('a reading is corrected by what was typed, with the reason', async () => {
  const { wrapper, asked } = await dialog(() => ({ status: 201, body: { id: 13 } }))
  expect(document.querySelector('.el-dialog')!.textContent).toContain('It says 36 1/2 in.')
  typeInto('corrected', '37 1/4')
  typeInto('corrected-why', 'written down wrongly')
  await submitDialog()
  const body = { text: '37 1/4', why: 'written down wrongly', stands: null }
  expect(asked).toMatchObject([{ method: 'POST', path: '/api/readings/12/correction', body }])
  expect(wrapper.emitted('corrected')).toHaveLength(1)
})

test('a length no body has asks for initials, and what was typed stays', async () => {
  const { wrapper, asked } = await dialog(({ body }) =>
    (body as { stands: string | null }).stands
      ? { status: 201, body: { id: 13 } }
      : {
          status: 422,
          body: { type: '', title: 'Not so', status: 422, detail: 'no bust', pointer: '/stands' },
        },
  )
  expect(document.querySelector('#corrected-stands')).toBeNull()
  typeInto('corrected', '3')
  typeInto('corrected-why', 'a doll')
  await submitDialog()
  expect(wrapper.emitted('corrected')).toBeUndefined()
  typeInto('corrected-stands', 'mh')
  await submitDialog()
  expect(asked.at(-1)!.body).toEqual({ text: '3', why: 'a doll', stands: 'mh' })
  expect(wrapper.emitted('corrected')).toHaveLength(1)
})
