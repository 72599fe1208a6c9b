import { expect, test, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import type { TapeView } from '@/api/types'
import { useSessionEvents } from '@/composables/useSessionEvents'
import { living } from './support'

/** A stream the test speaks into. */
class Stream extends EventTarget {
  static open: Stream[] = []
  closed = false
  constructor(readonly url: string) {
    super()
    Stream.open.push(this)
  }
  close(): void {
    this.closed = true
  }
  says(kind: string, what: unknown): void {
    this.dispatchEvent(new MessageEvent(kind, { data: JSON.stringify(what) }))
  }
}

const tape = (seq: number, held_seq: number): TapeView => ({
  text: '37 3/8',
  unit: 'inch',
  seq,
  held_seq,
  alive: true,
})

function listening() {
  Stream.open = []
  vi.stubGlobal('EventSource', Stream)
  const session = ref<number | undefined>(7)
  const heard = { changes: [] as number[], held: [] as number[] }
  const events = living(() =>
    useSessionEvents(session, {
      changed: (changes) => heard.changes.push(changes),
      held: (now) => heard.held.push(now.held_seq),
    }),
  )
  return { session, heard, events, stream: () => Stream.open.at(-1)! }
}

test('what is entered elsewhere is heard, and whether the stream is open', () => {
  const { heard, events, stream } = listening()
  expect(stream().url).toBe('/api/sessions/7/events')
  stream().dispatchEvent(new Event('open'))
  expect(events.live.value).toBe(true)
  stream().says('session', { changes: 4 })
  expect(heard.changes).toEqual([4])
  stream().dispatchEvent(new Event('error'))
  expect(events.live.value).toBe(false)
})

test('a button of the tape counts once, and not what was pressed before the page was open', () => {
  const { heard, events, stream } = listening()
  stream().says('tape', tape(5, 3))
  expect([events.tape.value?.text, heard.held]).toEqual(['37 3/8', []])
  stream().says('tape', tape(6, 4))
  stream().says('tape', tape(7, 4))
  expect(heard.held).toEqual([4])
  stream().says('tape', null)
  expect(events.tape.value).toBeUndefined()
  // Paired again: what that tape holds already is not new.
  stream().says('tape', tape(1, 9))
  expect(heard.held).toEqual([4])
})

test('another session is another stream', async () => {
  const { session, stream } = listening()
  const first = stream()
  session.value = 8
  await nextTick()
  expect(first.closed).toBe(true)
  expect(stream().url).toBe('/api/sessions/8/events')
  session.value = undefined
  await nextTick()
  expect(stream().closed).toBe(true)
})
