import 'fake-indexeddb/auto'
import { beforeEach, expect, test, vi } from 'vitest'
import { get, keptSince, send } from '@/api/client'
import type { Call } from '@/api/client'
import { forgetAll, forgetOld, kept } from '@/api/kept'
import { serve } from './support'

const round = get('/api/rounds/{id}', { params: { path: { id: 7 } } })
const other = get('/api/rounds/{id}', { params: { path: { id: 8 } } })
const clients = get('/api/clients')

beforeEach(async () => {
  await forgetAll()
  keptSince.value = undefined
})

/** Reads as on a page: an answer is kept behind it. */
async function read(call: Parameters<typeof send>[0]): ReturnType<typeof send> {
  const result = await send(call, { tries: 1 })
  await vi.waitFor(async () => expect(await kept(round)).toBeDefined())
  return result
}

test('a round that was opened opens again without a line, and says when it was read', async () => {
  let line = true
  serve(({ path }) => (line ? { body: { path } } : 'lost'))
  const before = Date.now()
  await read(round)
  expect(keptSince.value).toBeUndefined()
  line = false
  expect(await send(round, { tries: 1 })).toEqual({ ok: true, value: { path: '/api/rounds/7' } })
  expect(Date.parse(keptSince.value ?? '')).toBeGreaterThanOrEqual(before)
  // Another round, and what no fitting needs, are not here.
  expect(await send(other, { tries: 1 })).toMatchObject({ ok: false, problem: { status: 0 } })
  expect(await send(clients, { tries: 1 })).toMatchObject({ ok: false, problem: { status: 0 } })
  // The line is back: what is read is new.
  line = true
  await send(other, { tries: 1 })
  expect(keptSince.value).toBeUndefined()
})

test('the oldest of what is shown says since when', async () => {
  let line = true
  serve(() => (line ? { body: {} } : 'lost'))
  const me = get('/api/me')
  vi.useFakeTimers({ now: new Date('2026-11-29T08:00:00Z'), toFake: ['Date'] })
  try {
    await read(round)
    vi.setSystemTime(new Date('2026-11-29T10:00:00Z'))
    await send(me, { tries: 1 })
    await vi.waitFor(async () => expect(await kept(me)).toBeDefined())
    line = false
    const orders: Call<unknown>[][] = [
      [round, me],
      [me, round],
    ]
    for (const order of orders) {
      keptSince.value = undefined
      for (const call of order) await send(call, { tries: 1 })
      expect(keptSince.value).toBe('2026-11-29T08:00:00.000Z')
    }
  } finally {
    vi.useRealTimers()
  }
})

test('what the server refuses is refused, whatever is kept', async () => {
  let status = 200
  serve(() => ({ status, body: status === 200 ? {} : { detail: 'there is no such round', status } }))
  await read(round)
  status = 404
  expect(await send(round, { tries: 1 })).toMatchObject({ ok: false, problem: { status: 404 } })
})

test('what says a proxy whose server is away is a lost line', async () => {
  let away = false
  serve(() => (away ? { status: 502, text: '<html>Bad gateway</html>' } : { body: { number: 2 } }))
  await read(round)
  away = true
  expect(await send(round, { tries: 1 })).toEqual({ ok: true, value: { number: 2 } })
})

test('it goes after two days, and when its reader signs out', async () => {
  serve(() => ({ body: {} }))
  await read(round)
  vi.useFakeTimers({ now: Date.now() + 47 * 3600 * 1000, toFake: ['Date'] })
  try {
    await forgetOld()
    expect(await kept(round)).toBeDefined()
    vi.setSystemTime(Date.now() + 2 * 3600 * 1000)
    expect(await kept(round)).toBeUndefined()
    await forgetOld()
    vi.setSystemTime(Date.now() - 2 * 3600 * 1000)
    expect(await kept(round)).toBeUndefined()
  } finally {
    vi.useRealTimers()
  }
  await read(round)
  await forgetAll()
  expect(await kept(round)).toBeUndefined()
})
