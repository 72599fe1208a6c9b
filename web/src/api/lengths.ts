import { get, send } from './client'
import type { ApiResult } from './client'
import type { LengthView } from './types'

/**
 * What a tape says, read by the core: millimetres, and how the house writes them. Refused outside of `least` to
 * `most`, in millimetres.
 */
export function readLength(text: string, least?: number, most?: number): Promise<ApiResult<LengthView>> {
  return send(get('/api/length', { params: { query: { text, least, most } } }))
}

/**
 * How so many millimetres stand in a field of the house; nothing where the core cannot be asked. Rounded to the marks
 * of a tape, one of so many `parts` with them, or `exactly`: so that it reads back as the very same length.
 */
export async function fieldText(mm: number, exactly: boolean, parts = 1): Promise<string | undefined> {
  const query = { text: `${mm.toFixed(6)} mm`, exactly, parts }
  const read = await send(get('/api/length', { params: { query } }))
  return read.ok ? read.value.field : undefined
}
