import { flushPromises, mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import FileField from '@/components/FileField.vue'
import { clearedAfterwards } from './support'

function field() {
  const wrapper = mount(FileField, {
    attachTo: document.body,
    props: { id: 'file', label: 'CSV file', accept: '.csv' },
  })
  clearedAfterwards(wrapper)
  async function bring(file: File): Promise<void> {
    const input = wrapper.get('input[type=file]')
    Object.defineProperty(input.element, 'files', { value: [file], configurable: true })
    await input.trigger('change')
    await flushPromises()
  }
  return { wrapper, bring }
}

test('it is named, offers what is accepted, and sends nothing by itself', async () => {
  const { wrapper, bring } = field()
  const group = wrapper.get('[role=group]')
  expect(document.getElementById(group.attributes('aria-labelledby')!)?.textContent).toBe('CSV file')
  expect(wrapper.get('input').attributes('accept')).toBe('.csv')
  const file = new File(['a,b'], 'tape.csv')
  await bring(file)
  expect(wrapper.emitted('file')).toEqual([[file]])
  expect(wrapper.text()).not.toContain('tape.csv')
})

test('the same file after a correction is brought again', async () => {
  const { wrapper, bring } = field()
  const [first, mended] = [new File(['a'], 'tape.csv'), new File(['b'], 'tape.csv')]
  await bring(first)
  await bring(mended)
  expect(wrapper.emitted('file')).toEqual([[first], [mended]])
})
