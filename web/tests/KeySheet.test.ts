import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test } from 'vitest'
import KeySheet from '@/components/KeySheet.vue'
import { KEYS } from '@/keys'

function sheet() {
  const wrapper = mount(KeySheet, { attachTo: document.body })
  onTestFinished(() => {
    wrapper.unmount()
    document.body.innerHTML = ''
  })
}
const stroke = async (key: string, on: EventTarget = document.body) => {
  on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
  await flushPromises()
}
const isOpen = () => document.querySelector('.el-dialog')?.textContent.includes('Keys') ?? false

test('a question mark opens the sheet with every key', async () => {
  sheet()
  await stroke('?')
  expect(isOpen()).toBe(true)
  const text = document.querySelector('.el-dialog')!.textContent
  for (const { key, does } of KEYS.flatMap((group) => group.keys)) {
    expect(text).toContain(key)
    expect(text).toContain(does)
  }
})

test('in a field it is a question mark', async () => {
  sheet()
  const field = document.body.appendChild(document.createElement('input'))
  await stroke('?', field)
  expect(isOpen()).toBe(false)
})
