import { mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import { reactive } from 'vue'
import type { MarkingEntry, MarkingView } from '@/api/types'
import FormMarking from '@/components/FormMarking.vue'
import { clearedAfterwards, shown } from './support'

function marks(saved: Partial<MarkingView> = {}) {
  const entry = reactive<MarkingEntry>({
    tape_width: '',
    bridged: null,
    centre: [
      { line: 'bust', across: '19 1/2', off: '' },
      { line: 'waist', across: '14', off: '' },
    ],
  })
  const view = {
    tape_width: '',
    bridged: null,
    not_bridged: null,
    check: null,
    centre: [{ line: 'bust', across: '19 1/2', off: '', half: shown(247.65, '9 3/4') }],
    ...saved,
  } as MarkingView
  const wrapper = mount(FormMarking, { attachTo: document.body, props: { modelValue: entry, saved: view } })
  clearedAfterwards(wrapper)
  return { wrapper, entry }
}

test('the half stands beside what was saved, never beside what is typed over it', async () => {
  const { wrapper, entry } = marks()
  const rows = wrapper.findAll('tbody tr')
  expect(rows[0]!.text()).toContain('9 3/4')
  expect(rows[1]!.text()).not.toContain('9 3/4')
  await rows[0]!.get('input').setValue('20')
  expect(entry.centre![0]!.across).toBe('20')
  expect(rows[0]!.text()).not.toContain('9 3/4')
})

test('a mark beside the plumb line says what to measure again, and a straight centre says so', () => {
  const crooked = marks({ check: { straight: false, says: 'The mark at the waist line lies aside.' } })
  expect(crooked.wrapper.text()).toContain('The mark at the waist line lies aside.')
  const straight = marks({ check: { straight: true, says: '' } })
  expect(straight.wrapper.text()).toContain('On one plumb line.')
})

test('what it costs that the bust is not bridged is said, and an answer can be taken back', async () => {
  const { wrapper, entry } = marks({ bridged: false, not_bridged: 'The cloth sinks.' })
  const radios = wrapper.findAll('input[name=bridged]')
  await radios[1]!.setValue()
  expect(entry.bridged).toBe(false)
  expect(wrapper.text()).toContain('The cloth sinks.')
  await radios[2]!.setValue()
  expect(entry.bridged).toBeNull()
  expect(wrapper.text()).not.toContain('The cloth sinks.')
})
