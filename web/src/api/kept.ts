/**
 * What a fitting needs, as it was read last: kept on this device, so that a round that was opened opens again where there is no
 * line. It goes when its reader signs out, and after two days.
 */
import { clear, createStore, delMany, entries, get, set } from 'idb-keyval'
import type { Call } from './client'

interface Kept {
  /** When it was read, in milliseconds since 1970. */
  at: number
  value: unknown
}

const KEPT_FOR = 2 * 24 * 60 * 60 * 1000
const PATHS = new Set([
  '/api/me',
  '/api/house',
  '/api/craft',
  '/api/today',
  '/api/week',
  '/api/orders',
  '/api/orders/{id}',
  '/api/orders/{id}/rounds',
  '/api/rounds/{id}',
  '/api/rounds/{id}/causes',
])
const store = createStore('yardwand-kept', 'answers')

const isKept = ({ method, path }: Call<unknown>) => method === 'get' && PATHS.has(path)
const name = ({ path, params }: Call<unknown>) => JSON.stringify([path, params])
const isOld = ({ at }: Kept) => Date.now() - at > KEPT_FOR
/** A browser that keeps nothing, as in a private window, has no answers: nothing else is lost by it. */
async function quietly<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await work()
  } catch {
    return undefined
  }
}

/** Keeps what was read. */
export async function keep(call: Call<unknown>, value: unknown): Promise<void> {
  if (isKept(call)) await quietly(() => set(name(call), { at: Date.now(), value }, store))
}

/** What was read last, where it is kept. */
export async function kept(call: Call<unknown>): Promise<Kept | undefined> {
  if (!isKept(call)) return undefined
  const found = await quietly(() => get<Kept>(name(call), store))
  return found && !isOld(found) ? found : undefined
}

/** Lets go of what is old. */
export const forgetOld = (): Promise<void> =>
  quietly(async () => {
    const old = (await entries<string, Kept>(store)).filter(([, each]) => isOld(each))
    await delMany(
      old.map(([key]) => key),
      store,
    )
  })

/** Lets go of everything: whoever signs in next sees nothing that was read for somebody else. */
export const forgetAll = (): Promise<void> => quietly(() => clear(store))
