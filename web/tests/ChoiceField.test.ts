import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import type { Choice } from '@/components/ChoiceField.vue'
import ChoiceField from '@/components/ChoiceField.vue'
import { pick, picked } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const SIDES: Choice<string>[] = [
  { value: 'left', label: 'left only' },
  { value: 'right', label: 'right only', disabled: true },
]

function field(props: { modelValue?: string; none?: string; choices?: Choice<string>[] }) {
  const wrapper = mount(ChoiceField<string>, {
    attachTo: document.body,
    props: { id: 'side', label: 'Done on', choices: SIDES, modelValue: undefined, ...props },
  })
  onTestFinished(() => wrapper.unmount())
  return wrapper
}
const given = (wrapper: ReturnType<typeof field>) =>
  wrapper.emitted<[string | undefined]>('update:modelValue')?.map(([value]) => value) ?? []

test('its label names it, and what is chosen stands in it', async () => {
  const wrapper = field({ modelValue: 'left' })
  await flushPromises()
  expect(wrapper.get('label').attributes('for')).toBe('side')
  expect(wrapper.get('#side').attributes('role')).toBe('combobox')
  expect(picked('side')).toBe('left only')
})

test('an entry is given on by its value, and the choice of nothing as nothing', async () => {
  const wrapper = field({ none: 'both sides' })
  await flushPromises()
  expect(picked('side')).toBe('both sides')
  await pick('side', 'left only')
  await wrapper.setProps({ modelValue: 'left' })
  await pick('side', 'both sides')
  expect(given(wrapper)).toEqual(['left', undefined])
})

test('what cannot be chosen is shown and not given on', async () => {
  const wrapper = field({})
  await flushPromises()
  await pick('side', 'right only')
  expect(given(wrapper)).toEqual([])
})

test('where something must be chosen it says so until then', async () => {
  field({})
  await flushPromises()
  expect(picked('side')).toBe('choose')
})

test('a form hears of a choice as of anything typed', async () => {
  const wrapper = field({})
  const heard = vi.fn()
  wrapper.element.addEventListener('input', heard)
  await flushPromises()
  await pick('side', 'left only')
  expect(heard).toHaveBeenCalledOnce()
})

test('entries stand under their headings', async () => {
  field({
    choices: [
      { value: 'name', label: 'Client’s name' },
      { value: 'bust', label: 'Bust', group: 'Lengths of' },
      { value: 'waist', label: 'Waist', group: 'Lengths of' },
    ],
  })
  await flushPromises()
  const headings = [...document.querySelectorAll('.el-select-group__title')].map((each) => each.textContent)
  expect(headings).toEqual(['Lengths of'])
  expect(document.querySelectorAll('.el-select-group [role=option]')).toHaveLength(2)
})
