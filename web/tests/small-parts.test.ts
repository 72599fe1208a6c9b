import { mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import { ref } from 'vue'
import ProblemNote from '@/components/ProblemNote.vue'
import type { Check } from '@/api/types'
import { useFaults } from '@/composables/useFaults'
import { isUnanswered } from '@/composables/useRetry'
import { router } from '@/router'
import { living } from './support'

test('a problem is said as a sentence', () => {
  const said = (detail: string) =>
    mount(ProblemNote, { props: { problem: { type: '', title: 'Not yet', status: 0, detail } } }).text()
  expect(said('choose where it is')).toBe('Not yet. Choose where it is.')
  expect(said('Choose where it is.')).toBe('Not yet. Choose where it is.')
  expect(mount(ProblemNote).text()).toBe('')
})

test('faults are those of all rules that fail, or of the one that is picked', () => {
  const check = (code: string, passed: boolean, says: string) =>
    ({ code, passed, faults: [{ says }] }) as unknown as Check
  const checks = ref([check('seams', false, 'a'), check('kinks', false, 'b'), check('grain', true, 'c')])
  const { picked, faults } = living(() => useFaults(() => checks.value))
  const said = () => faults.value.map((fault) => (fault as unknown as { says: string }).says)
  expect(said()).toEqual(['a', 'b'])
  picked.value = 'kinks'
  expect(said()).toEqual(['b'])
})

test('a lost line, a server in trouble or crowded and nobody signed in are no answer', () => {
  const status = (code: number) => isUnanswered({ type: '', title: '', status: code, detail: '' })
  expect([0, 401, 408, 429, 500, 503].filter((code) => !status(code))).toEqual([])
  expect([400, 404, 409, 422].map(status)).toEqual([false, false, false, false])
})

test('the number in an address reaches its page as a number', () => {
  const rows = router.getRoutes().filter((route) => route.path.includes(':id'))
  const props = rows
    .flatMap((route) => Object.values(route.props))
    .filter((each) => typeof each === 'function')
  expect(props.length).toBeGreaterThan(7)
  for (const of of props) {
    const given = of({ params: { id: '12', round: '3' }, query: { other: '7' } } as never) as Record<
      string,
      unknown
    >
    for (const value of Object.values(given)) expect(typeof value).toBe('number')
  }
})

test('every page has a title', () => {
  const untitled = router.getRoutes().filter((route) => route.name && !route.meta['title'])
  expect(untitled.map((route) => route.path)).toEqual([])
})
