import { effectScope, nextTick, ref } from 'vue'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useServerEvents } from '@/composables/useServerEvents'

/** A stream of the browser's, opened, heard and ended by hand. */
class Stream extends EventTarget {
  static readonly CLOSED = 2
  static readonly all: Stream[] = []
  readyState = 0

  constructor(readonly url: string) {
    super()
    Stream.all.push(this)
  }

  close(): void {
    this.readyState = Stream.CLOSED
  }

  say(name: string, data = ''): void {
    this.dispatchEvent(new MessageEvent(name, { data }))
  }
}

describe('the stream of what happens', () => {
  beforeEach(() => {
    Stream.all.length = 0
    vi.useFakeTimers()
    vi.stubGlobal('EventSource', Stream)
  })
  afterEach(() => {
    vi.useRealTimers()
    vi.unstubAllGlobals()
  })

  function listening(address = ref<string | undefined>('/api/rounds/1/events')) {
    const heard: string[] = []
    const scope = effectScope()
    const live = scope.run(() => useServerEvents(address, { round: (data) => heard.push(data) }))!
    return { address, heard, live, scope }
  }

  it('is heard while it is open', () => {
    const { heard, live } = listening()
    const [stream] = Stream.all
    expect(live.value).toBe(false)
    stream!.say('open')
    stream!.say('round', '{"changes":1}')
    expect(live.value).toBe(true)
    expect(heard).toEqual(['{"changes":1}'])
  })

  it('leaves a cut line to the browser, which comes back by itself', () => {
    const { live } = listening()
    Stream.all[0]!.say('open')
    Stream.all[0]!.say('error')
    expect(live.value).toBe(false)
    vi.advanceTimersByTime(60_000)
    expect(Stream.all).toHaveLength(1)
  })

  it('asks again where it was turned down, until it is let in', () => {
    const { heard, live } = listening()
    for (const turn of [1, 2]) {
      const stream = Stream.all.at(-1)!
      stream.close()
      stream.say('error')
      expect(Stream.all).toHaveLength(turn)
      vi.advanceTimersByTime(3000)
      expect(Stream.all).toHaveLength(turn + 1)
    }
    Stream.all.at(-1)!.say('open')
    Stream.all.at(-1)!.say('round', '{"changes":2}')
    expect(live.value).toBe(true)
    expect(heard).toEqual(['{"changes":2}'])
  })

  it('does not come back for a page that was left, or that shows something else by now', async () => {
    const { address, scope } = listening()
    Stream.all[0]!.close()
    Stream.all[0]!.say('error')
    address.value = '/api/rounds/2/events'
    await nextTick()
    vi.advanceTimersByTime(10_000)
    expect(Stream.all.map((stream) => stream.url)).toEqual(['/api/rounds/1/events', '/api/rounds/2/events'])
    Stream.all[1]!.close()
    Stream.all[1]!.say('error')
    scope.stop()
    vi.advanceTimersByTime(10_000)
    expect(Stream.all).toHaveLength(2)
  })
})
