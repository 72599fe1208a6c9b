import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import LengthField from '@/components/LengthField.vue'
import { fieldsRead } from '@/composables/usePendingFields'
import { later, problem, serve } from './support'
import type { Asked, Reply } from './support'

/** Reads plain inches and eighths as the core would, slowly where a gate is given. */
function core(gate?: Promise<void>): Asked[] {
  return serve(async ({ query }): Promise<Reply> => {
    const text = query['text'] ?? ''
    if (text.endsWith(' mm')) return { body: view(Number(text.slice(0, -3))) }
    await gate
    const [whole, part] = text.split(' ')
    const [above, below] = (part ?? '0/1').split('/')
    const mm = 25.4 * (Number(whole) + Number(above) / Number(below))
    return Number.isFinite(mm) ? { body: view(mm) } : problem(422, 'this is no length')
  })
}
const view = (mm: number) => {
  const eighths = Math.round(mm / 3.175)
  const text = `${Math.floor(eighths / 8)}${eighths % 8 ? ` ${eighths % 8}/8` : ''}`
  return { mm, text, exact: text, field: text }
}

function field(mm: number | null, more: object = {}) {
  const wrapper = mount(LengthField, {
    attachTo: document.body,
    props: { label: 'Waist', modelValue: mm, ...more },
  })
  onTestFinished(() => wrapper.unmount())
  const input = wrapper.get('input')
  return {
    wrapper,
    input,
    emitted: () => wrapper.emitted('update:modelValue')?.map(([value]) => value) ?? [],
  }
}

test('a value is shown as the house writes it, under its label', async () => {
  core()
  const { wrapper, input } = field(965.2)
  await flushPromises()
  expect(input.element.value).toBe('38')
  expect(wrapper.get('label').attributes('for')).toBe(input.attributes('id'))
})

test('what is typed is read by the core and given on in millimetres', async () => {
  core()
  const { input, emitted } = field(965.2)
  await flushPromises()
  await input.setValue('38 1/2')
  await input.trigger('change')
  await flushPromises()
  expect(emitted()).toEqual([977.9])
})

test('whoever saves waits for what was typed last', async () => {
  const gate = later<void>()
  core(gate.promise)
  const { input, emitted } = field(965.2)
  await flushPromises()
  await input.setValue('39')
  const ready = fieldsRead()
  await input.setValue('39 1/2')
  gate.give()
  expect(await ready).toBe(true)
  expect(emitted()).toEqual([1003.3])
})

test('what is no length is told at the field, and nothing is saved', async () => {
  core()
  const { wrapper, input, emitted } = field(965.2)
  await flushPromises()
  await input.setValue('38 1/x')
  expect(await fieldsRead()).toBe(false)
  await flushPromises()
  expect(wrapper.get('[role=alert]').text()).toContain('this is no length')
  expect(input.attributes('aria-invalid')).toBe('true')
  expect(document.activeElement).toBe(input.element)
  expect(emitted()).toEqual([])
})

test('an optional field that is emptied holds nothing', async () => {
  core()
  const { input, emitted } = field(965.2, { optional: true })
  await flushPromises()
  await input.setValue('')
  expect(await fieldsRead()).toBe(true)
  expect(emitted()).toEqual([null])
})

test('a value that comes in does not write over what is being typed', async () => {
  core()
  const { wrapper, input } = field(965.2)
  await flushPromises()
  await input.setValue('40')
  await wrapper.setProps({ modelValue: 990.6 })
  await flushPromises()
  expect(input.element.value).toBe('40')
})

test('arrow keys go a step up and down', async () => {
  core()
  const { input, emitted } = field(100)
  await flushPromises()
  await input.trigger('keydown', { key: 'ArrowUp' })
  await input.trigger('keydown', { key: 'ArrowDown' })
  expect(emitted()).toEqual([101, 99])
})

test('a live field tells a length while it is typed, and finds no fault with half of one', async () => {
  core()
  vi.useFakeTimers()
  onTestFinished(() => void vi.useRealTimers())
  const { wrapper, input, emitted } = field(null, { live: true, optional: true })
  // The hand is still in the field: nothing is left yet.
  const type = (text: string) => {
    input.element.value = text
    return input.trigger('input')
  }
  await type('5')
  expect(emitted()).toEqual([])
  await vi.advanceTimersByTimeAsync(300)
  expect(emitted()).toEqual([127])
  // What the page makes of it is not written into the field under the hand.
  await wrapper.setProps({ modelValue: 127 })
  await type('5 1/')
  await vi.advanceTimersByTimeAsync(300)
  expect([emitted(), wrapper.find('[role=alert]').exists()]).toEqual([[127], false])
  await type('5 1/2')
  await vi.advanceTimersByTimeAsync(300)
  expect([emitted().at(-1), input.element.value]).toEqual([139.7, '5 1/2'])
  // Left, it is read as any other.
  await input.trigger('change')
  await vi.advanceTimersByTimeAsync(0)
  expect([emitted().at(-1), await fieldsRead()]).toEqual([139.7, true])
})
