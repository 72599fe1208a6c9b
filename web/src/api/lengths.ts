import { get } from './client'
import type { ApiResult } from './client'
import type { Shown } from './types'

/**
 * What a tape says, read by the core: millimetres, and how the house writes them. Refused outside of `least` to
 * `most`, in millimetres.
 */
export function readLength(text: string, least?: number, most?: number): Promise<ApiResult<Shown>> {
  const ask = new URLSearchParams({ text })
  if (least !== undefined) ask.set('least', String(least))
  if (most !== undefined) ask.set('most', String(most))
  return get<Shown>(`/api/length?${ask}`)
}

/** How the house writes so many millimetres; nothing where the core cannot be asked. */
export async function writtenLength(mm: number): Promise<string | undefined> {
  const shown = await readLength(`${mm.toFixed(4)} mm`)
  return shown.ok ? shown.value.text : undefined
}
