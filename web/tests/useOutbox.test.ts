import { flushPromises } from '@vue/test-utils'
import { afterEach, expect, test, vi } from 'vitest'
import { post, put } from '@/api/client'
import type { Problem } from '@/api/types'
import { useOutbox } from '@/composables/useOutbox'
import { living, problem, serve } from './support'

const PLACE = 'yardwand-outbox:round-5'
const aside = (pins_out: number) =>
  put('/api/rounds/{id}/aside', {
    params: { path: { id: 5 } },
    body: { comfort: '', postures: [], pins_out },
  })

function outbox() {
  const sent: unknown[] = []
  const refused: { problem: Problem; late: boolean }[] = []
  const box = living(() =>
    useOutbox('round-5', {
      sent: (_, answer) => sent.push(answer),
      refused: (_, why, late) => refused.push({ problem: why, late }),
    }),
  )
  return { ...box, was: { sent, refused } }
}

afterEach(() => {
  localStorage.clear()
  vi.useRealTimers()
})

test('a write without a line is kept on the device, and sent once under its key when the line is back', async () => {
  vi.useFakeTimers()
  let line = false
  const asked = serve(() => (line ? { status: 204 } : 'lost'))
  const { send, lost, waiting, was } = outbox()
  void send(aside(3))
  await vi.advanceTimersByTimeAsync(0)
  expect(lost.value).toBe(true)
  expect(JSON.parse(localStorage.getItem(PLACE) ?? '[]')).toHaveLength(1)
  line = true
  await vi.advanceTimersByTimeAsync(1500)
  expect(waiting.value).toHaveLength(0)
  expect(localStorage.getItem(PLACE)).toBeNull()
  expect(was.sent).toHaveLength(1)
  expect(new Set(asked.map((each) => each.key)).size).toBe(1)
  expect(asked.at(-1)).toMatchObject({ method: 'PUT', path: '/api/rounds/5/aside', body: { pins_out: 3 } })
})

test('writes go in the order in which they were made', async () => {
  const asked = serve(() => ({ status: 204 }))
  const { send } = outbox()
  await Promise.all([send(aside(1)), send(aside(2)), send(aside(3))])
  expect(asked.map((each) => (each.body as { pins_out: number }).pins_out)).toEqual([1, 2, 3])
})

test('what is turned down is told to whoever sent it, and not tried again', async () => {
  const asked = serve(() => problem(422, 'more than 500 pins: count again'))
  const { send, waiting, was } = outbox()
  expect((await send(aside(900)))?.detail).toBe('more than 500 pins: count again')
  expect(was.refused).toMatchObject([{ late: false }])
  expect([asked.length, waiting.value.length]).toEqual([1, 0])
})

test('nobody signed in is no answer: the write waits', async () => {
  serve(() => problem(401, 'sign in first'))
  const { send, waiting } = outbox()
  void send(aside(1))
  await flushPromises()
  expect(waiting.value).toHaveLength(1)
})

test('what version 0.5 left on a device is still sent', async () => {
  const left = [
    { key: 'a', path: '/api/rounds/5/observations', body: { place: 'waist' } },
    { key: 'b', path: '/api/rounds/5/marks', body: { mark: 'gone' }, method: 'PUT' },
  ]
  localStorage.setItem(PLACE, JSON.stringify(left))
  const asked = serve(() => ({ status: 204 }))
  outbox()
  await flushPromises()
  expect(asked.map(({ method, path, key }) => [method, path, key])).toEqual([
    ['POST', '/api/rounds/5/observations', 'a'],
    ['PUT', '/api/rounds/5/marks', 'b'],
  ])
})

test('a call is kept as plain data, so that it can be sent after the page was closed', async () => {
  serve(() => 'lost')
  const { send } = outbox()
  const body = { place: 'waist', kind: 'drag' as const }
  void send(post('/api/rounds/{id}/observations', { params: { path: { id: 5 } }, body }))
  await flushPromises()
  const [kept] = JSON.parse(localStorage.getItem(PLACE) ?? '[]') as unknown[]
  expect(kept).toMatchObject({
    method: 'post',
    path: '/api/rounds/{id}/observations',
    params: { path: { id: 5 } },
    body,
  })
})
