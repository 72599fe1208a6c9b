import type { FigureRow } from '@/api/types'

/** Whether a figure is written as nothing, in whichever unit. */
export const isNought = (text: string): boolean => /^−?0([.,]0+)?$/.test(text)

/** Whether a figure is another than before; one that was not there before is. */
export const hasChanged = (row: FigureRow): boolean => !row.change || !isNought(row.change.text)

/** How a change is written: a figure that was not there before is new. */
export const changeOf = (row: FigureRow): string => row.change?.text ?? 'new'
