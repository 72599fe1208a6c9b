import { expect, test, vi } from 'vitest'
import { channel } from '@/api/changes'
import { get, post, put, remove, send, signedOut } from '@/api/client'
import { problem, serve } from './support'

test('a call is sent to its address with its parameters, and its answer comes back as a value', async () => {
  const asked = serve(() => ({ body: { mm: 965.2, text: '38', exact: '38', field: '38' } }))
  const read = await send(get('/api/length', { params: { query: { text: '38 in', least: 100 } } }))
  expect(read).toEqual({ ok: true, value: { mm: 965.2, text: '38', exact: '38', field: '38' } })
  expect(asked).toEqual([
    {
      method: 'GET',
      path: '/api/length',
      query: { text: '38 in', least: '100' },
      body: undefined,
      key: null,
    },
  ])
})

test('a write carries its body, and a key unless one is given', async () => {
  const asked = serve(() => ({ status: 204 }))
  const at = { path: { id: 7 } }
  await send(put('/api/orders/{id}/finished', { params: at, body: { revision: 2, finished: true } }), {
    key: 'mine',
  })
  await send(post('/api/sign-out'))
  await send(remove('/api/clients/{id}', { params: at }))
  expect(asked.map((each) => `${each.method} ${each.path}`)).toEqual([
    'PUT /api/orders/7/finished',
    'POST /api/sign-out',
    'DELETE /api/clients/7',
  ])
  expect(asked[0]?.body).toEqual({ revision: 2, finished: true })
  expect(asked[0]?.key).toBe('mine')
  expect(asked[1]?.key).toMatch(/^[0-9a-f-]{36}$/)
})

test('what is refused comes back as the problem the server names', async () => {
  serve(() => problem(422, 'a length has at most 40 characters'))
  const read = await send(get('/api/length', { params: { query: { text: 'x' } } }))
  expect(read).toMatchObject({
    ok: false,
    problem: { status: 422, detail: 'a length has at most 40 characters' },
  })
})

test('nobody signed in is told to the whole application', async () => {
  signedOut.value = false
  serve(() => problem(401, 'sign in first', 'urn:yardwand:signed-out'))
  await send(get('/api/me'))
  expect(signedOut.value).toBe(true)
})

test('a lost line is tried three times under one key, then told', async () => {
  vi.useFakeTimers()
  try {
    const asked = serve(() => 'lost')
    const sent = send(post('/api/letters'))
    await vi.runAllTimersAsync()
    expect(await sent).toMatchObject({ ok: false, problem: { status: 0, title: 'No connection' } })
    expect(asked).toHaveLength(3)
    expect(new Set(asked.map((each) => each.key)).size).toBe(1)
  } finally {
    vi.useRealTimers()
  }
})

test('a page of a proxy is no answer of the server', async () => {
  serve(() => ({ status: 502, text: '<html>Bad gateway</html>' }))
  expect(await send(get('/api/me'))).toMatchObject({ ok: false, problem: { status: 0 } })
})

test('other tabs hear of a write, and of no question', async () => {
  serve(() => ({ body: [] }))
  const told = vi.spyOn(channel, 'postMessage').mockImplementation(() => {})
  await send(get('/api/orders'))
  await send(post('/api/balance', { body: { front: '', left: '', right: '', back: '', caught: [] } }))
  expect(told).not.toHaveBeenCalled()
  await send(post('/api/letters'), { key: 'a' })
  await send(remove('/api/sets/{id}', { params: { path: { id: 1 } } }))
  expect(told).toHaveBeenCalledTimes(2)
  told.mockRestore()
})
