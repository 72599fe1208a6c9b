import { get } from './client'
import type { ApiResult } from './client'
import type { Shown } from './types'

const asked = (text: string): Promise<ApiResult<Shown>> =>
  get<Shown>(`/api/length?text=${encodeURIComponent(text)}`)

/** What a tape says, read by the core: millimetres, and how the house writes them. */
export const readLength = asked

/** How the house writes so many millimetres; nothing where the core cannot be asked. */
export async function writtenLength(mm: number): Promise<string | undefined> {
  const shown = await asked(`${mm.toFixed(4)} mm`)
  return shown.ok ? shown.value.text : undefined
}
