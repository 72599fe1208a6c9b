import { mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import type { Check } from '@/api/types'
import CutList from '@/components/CutList.vue'

const check = (rule: number, heading: string, passed: boolean): Check => ({
  code: 'darts',
  rule,
  heading,
  name: `rule ${rule}`,
  passed,
  says: 'as it is',
  faults: [],
})

test('every rule the server looked at is on the list, whatever its number', () => {
  const checks = Array.from({ length: 9 }, (_, index) => check(index + 1, `Heading ${index + 1}`, true))
  const list = mount(CutList, { props: { checks: [...checks].reverse() } })
  expect(list.findAll('ol > li').map((each) => each.get('summary').text())).toEqual(
    checks.map(({ heading }) => `Pass ${heading}`),
  )
})

test('all that hold are a line; what does not hold is open', () => {
  const whole = mount(CutList, {
    props: { checks: [check(1, 'Seams', true), check(8, 'Cutting line', true)] },
  })
  expect(whole.get('section > details').attributes('open')).toBeUndefined()
  expect(whole.get('summary').text()).toBe('All 2 rules hold')
  const broken = mount(CutList, {
    props: { checks: [check(1, 'Seams', true), check(8, 'Cutting line', false)] },
  })
  expect(broken.get('section > details').attributes('open')).toBeDefined()
  expect(broken.get('summary').text()).toBe('One rule does not hold')
  expect(broken.findAll('li.failed').map((each) => each.get('summary').text())).toEqual(['Fail Cutting line'])
})

test('a rule that fails is shown on the drawing, and every fault again', async () => {
  const list = mount(CutList, { props: { checks: [check(3, 'Darts', false)] } })
  await list.get('button').trigger('click')
  await list.get('button').trigger('click')
  expect(list.emitted('show')).toEqual([['darts'], [undefined]])
})
