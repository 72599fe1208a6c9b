import { afterEach, expect, test, vi } from 'vitest'
import { asDay, asWeekday, daysUntil, mondayOf, plusDays, today } from '@/days'

afterEach(() => vi.useRealTimers())

test('a day is written as the house writes it', () => {
  expect(asDay('2026-08-03')).toBe('3 Aug 2026')
  expect(asWeekday('2026-08-03')).toBe('Mon, 3 Aug 2026')
})

test('today is the day where this device is, an hour after midnight too', () => {
  vi.useFakeTimers()
  vi.setSystemTime(new Date(2026, 10, 27, 0, 30))
  expect(today()).toBe('2026-11-27')
  vi.setSystemTime(new Date(2026, 10, 27, 23, 30))
  expect(today()).toBe('2026-11-27')
})

test('days are counted over the ends of months, years and summer time', () => {
  vi.useFakeTimers()
  vi.setSystemTime(new Date(2026, 2, 28, 12))
  expect(daysUntil('2026-03-28')).toBe(0)
  expect(daysUntil('2026-03-30')).toBe(2)
  expect(daysUntil('2026-03-01')).toBe(-27)
  expect(plusDays('2026-02-27', 3)).toBe('2026-03-02')
  expect(plusDays('2028-02-28', 1)).toBe('2028-02-29')
  expect(plusDays('2026-01-01', -1)).toBe('2025-12-31')
})

test('a week begins on Monday', () => {
  expect(mondayOf('2026-11-23')).toBe('2026-11-23')
  expect(mondayOf('2026-11-29')).toBe('2026-11-23')
})
