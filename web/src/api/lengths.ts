import { get } from './client'
import type { ApiResult } from './client'
import type { LengthView } from './types'

/**
 * What a tape says, read by the core: millimetres, and how the house writes them. Refused outside of `least` to
 * `most`, in millimetres.
 */
export function readLength(text: string, least?: number, most?: number): Promise<ApiResult<LengthView>> {
  const ask = new URLSearchParams({ text })
  if (least !== undefined) ask.set('least', String(least))
  if (most !== undefined) ask.set('most', String(most))
  return get<LengthView>(`/api/length?${ask}`)
}

/**
 * How so many millimetres stand in a field of the house; nothing where the core cannot be asked. Rounded to the marks
 * of a tape, one of so many `parts` with them, or `exactly`: so that it reads back as the very same length.
 */
export async function fieldText(mm: number, exactly: boolean, parts = 1): Promise<string | undefined> {
  const ask = new URLSearchParams({
    text: `${mm.toFixed(6)} mm`,
    exactly: String(exactly),
    parts: String(parts),
  })
  const read = await get<LengthView>(`/api/length?${ask}`)
  return read.ok ? read.value.field : undefined
}
