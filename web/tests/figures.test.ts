import { expect, test } from 'vitest'
import type { FigureRow, OrderView } from '@/api/types'
import { pageOf } from '@/composables/useOrder'
import { changeOf, hasChanged, isNought } from '@/figures'

const row = (change: string | null) =>
  ({ change: change === null ? null : { text: change } }) as unknown as FigureRow

test('nothing is nothing in every unit, and a little is something', () => {
  for (const text of ['0', '0.0', '0,0', '−0.00']) expect(isNought(text)).toBe(true)
  for (const text of ['1/8', '0.1', '−0,5', '10']) expect(isNought(text)).toBe(false)
})

test('a figure that was not there before has changed, and is told as new', () => {
  expect([hasChanged(row('0')), hasChanged(row('−1/4')), hasChanged(row(null))]).toEqual([false, true, true])
  expect([changeOf(row('−1/4')), changeOf(row(null))]).toEqual(['−1/4', 'new'])
})

test('what is handed over is looked at where it was cut, all else where it stands', () => {
  const at = (stage: string) => pageOf({ id: 7, standing: { stage } } as unknown as OrderView)
  expect(at('toile')).toEqual({ name: 'toile', params: { id: 7 } })
  expect(at('done')).toEqual({ name: 'cut', params: { id: 7 } })
})
