import { mount } from '@vue/test-utils'
import { ElDatePicker } from 'element-plus'
import { expect, test } from 'vitest'
import DayField from '@/components/DayField.vue'

const field = (more: object = {}) =>
  mount(DayField, { props: { id: 'on', modelValue: '2026-08-03', ...more } })

test('a day is shown as the house writes it', async () => {
  const wrapper = field()
  await wrapper.vm.$nextTick()
  expect(wrapper.get('input').element.value).toBe('3 Aug 2026')
  expect(wrapper.get('input').attributes('id')).toBe('on')
})

test('what is chosen is given on as a plain date; only a day that may be left out can be emptied', () => {
  const chosen = (given: object, now: string | null) => {
    const wrapper = field(given)
    wrapper.getComponent(ElDatePicker).vm.$emit('update:modelValue', now)
    return wrapper.emitted('update:modelValue')?.map(([day]) => day) ?? []
  }
  expect(chosen({}, '2026-08-04')).toEqual(['2026-08-04'])
  expect(chosen({}, null)).toEqual([''])
  expect(chosen({ required: true }, null)).toEqual([])
})

test('days before the first that can be chosen are closed', () => {
  const isClosed = field({ min: '2026-08-03' }).getComponent(ElDatePicker).props('disabledDate') as (
    at: Date,
  ) => boolean
  expect(isClosed(new Date(2026, 7, 2))).toBe(true)
  expect(isClosed(new Date(2026, 7, 3))).toBe(false)
})
