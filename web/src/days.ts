import dayjs from 'dayjs'

/** How the house writes a day, in words and in date fields. */
export const DAY = 'D MMM YYYY'

/** A plain date with its day of the week: `Mon, 3 Aug 2026`. */
export const asWeekday = (day: string): string => dayjs(day).format(`ddd, ${DAY}`)

/** A plain date, or the day of a moment where this device is: `3 Aug 2026`. */
export const asDay = (iso: string): string => dayjs(iso).format(DAY)

/** A moment where this device is: `3 Aug 2026, 14:05`. */
export const asMoment = (iso: string): string => dayjs(iso).format(`${DAY}, HH:mm`)

/** Whole days from today to a plain date; negative when it is past. */
export function daysUntil(day: string): number {
  return Math.round((new Date(day).getTime() - new Date(today()).getTime()) / 86_400_000)
}

/** The workroom's day as a plain date: where this device is, not where the sun stands at Greenwich. */
export function today(): string {
  const now = new Date()
  const two = (part: number) => String(part).padStart(2, '0')
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`
}

/** A plain date so many days later. */
export function plusDays(day: string, count: number): string {
  const date = new Date(`${day}T00:00:00Z`)
  date.setUTCDate(date.getUTCDate() + count)
  return date.toISOString().slice(0, 10)
}

/** Monday of the week a plain date lies in. */
export function mondayOf(day: string): string {
  const weekday = (new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7
  return plusDays(day, -weekday)
}
