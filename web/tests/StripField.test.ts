import { mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import { nextTick } from 'vue'
import StageStrip from '@/components/alter/StageStrip.vue'
import StripField from '@/components/StripField.vue'

const choices = [
  { value: 'seen', name: 'Seen' },
  { value: 'lines', name: 'Lines' },
]

test('what is chosen is pressed, and every press is said, also of what is chosen already', async () => {
  const strip = mount(StripField<string>, { props: { modelValue: 'seen', label: 'Parts', choices } })
  const pressed = () => strip.findAll('button').map((each) => each.attributes('aria-pressed'))
  expect(pressed()).toEqual(['true', 'false'])
  await strip.findAll('button')[1]!.trigger('click')
  await strip.findAll('button')[0]!.trigger('click')
  expect(strip.emitted('update:modelValue')).toEqual([['lines'], ['seen']])
  await strip.setProps({ modelValue: 'lines' })
  expect(pressed()).toEqual(['false', 'true'])
})

test('stages are shown one by one, played to the end, and stopped by the one that is shown', async () => {
  vi.useFakeTimers()
  const stage = (kind: 'mark' | 'move') => ({ kind, words: `${kind} it.`, drawings: [] })
  let shown: number | undefined
  const strip = mount(StageStrip, {
    props: {
      stages: [stage('mark'), stage('move')],
      modelValue: undefined,
      'onUpdate:modelValue': (now: number | undefined) => {
        shown = now
        void strip.setProps({ modelValue: now })
      },
    },
  })
  const press = async (name: string) => {
    await strip
      .findAll('button')
      .find((each) => each.text() === name)!
      .trigger('click')
    await nextTick()
  }
  await press('2 Move')
  expect([shown, strip.text().includes('move it.')]).toEqual([1, true])
  await press('Play')
  expect(shown).toBe(0)
  await press('1 Mark')
  await vi.advanceTimersByTimeAsync(10_000)
  expect([shown, strip.get('button').text()], 'stopped where it was').toEqual([0, 'Play'])
  await press('Play')
  await vi.advanceTimersByTimeAsync(10_000)
  expect([shown, strip.get('button').text()], 'played to the end').toEqual([undefined, 'Play'])
  vi.useRealTimers()
})
