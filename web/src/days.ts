/** Dates as the house writes them. */
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })

export const asDay = (iso: string): string => DAY.format(new Date(iso))

/** Whole days from today to a plain date; negative when it is past. */
export function daysUntil(day: string): number {
  const today = new Date(new Date().toISOString().slice(0, 10))
  return Math.round((new Date(day).getTime() - today.getTime()) / 86_400_000)
}

export const today = (): string => new Date().toISOString().slice(0, 10)
