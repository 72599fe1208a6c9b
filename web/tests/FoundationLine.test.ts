import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import FoundationLine from '@/components/measure/FoundationLine.vue'
import { clearedAfterwards, problem, serve } from './support'
import type { Asked, Reply } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

function line(
  said: { worn?: string; before?: string; closed?: boolean },
  answer: (asked: Asked) => Reply = () => ({ status: 204 }),
) {
  const asked = serve(answer)
  const props = { session: 6, worn: '', before: '', closed: false, ...said }
  const wrapper = mount(FoundationLine, { props, attachTo: document.body })
  clearedAfterwards(wrapper)
  return { wrapper, asked }
}

test('what she wears is said, and shown once it is kept', async () => {
  const { wrapper, asked } = line({})
  await wrapper.get('input').setValue('  a corset ')
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(asked).toMatchObject([
    { method: 'PUT', path: '/api/sessions/6/foundation', body: { foundation: 'a corset' } },
  ])
  expect(wrapper.emitted('said')).toHaveLength(1)
  await wrapper.setProps({ worn: 'a corset' })
  expect(wrapper.text()).toContain('Under the tape: a corset')
  expect(wrapper.find('form').exists()).toBe(false)
})

test('the same as last time is one press', async () => {
  const { wrapper, asked } = line({ before: 'her own bra, firm' })
  const again = wrapper.findAll('button').find((button) => button.text().includes('As last time'))!
  await again.trigger('click')
  await flushPromises()
  expect(asked).toMatchObject([{ body: { foundation: 'her own bra, firm' } }])
})

test('another one than last time is said to be no comparison', () => {
  const { wrapper } = line({ worn: 'a corset', before: 'her own bra, firm' })
  expect(wrapper.get('[role=status]').text()).toContain('Last time it was her own bra, firm')
  const same = line({ worn: 'her own bra, firm', before: 'her own bra, firm' })
  expect(same.wrapper.find('[role=status]').exists()).toBe(false)
})

test('a refusal is said, and what was typed stays', async () => {
  const { wrapper } = line({}, () => problem(409, 'This session is closed: open a new one'))
  await wrapper.get('input').setValue('a corset')
  await wrapper.get('form').trigger('submit')
  await flushPromises()
  expect(wrapper.text()).toContain('This session is closed')
  expect((wrapper.get('input').element as HTMLInputElement).value).toBe('a corset')
  expect(wrapper.emitted('said')).toBeUndefined()
})

test('a signed session shows it and asks nothing', () => {
  expect(line({ worn: 'a corset', closed: true }).wrapper.find('button').exists()).toBe(false)
  const unsaid = line({ closed: true }).wrapper
  expect(unsaid.text()).toBe('')
})
