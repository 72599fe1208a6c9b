import 'fake-indexeddb/auto'
import { flushPromises } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import { shallowRef } from 'vue'
import type { DrapePieceView } from '@/api/types'
import { usePieceInHand } from '@/composables/usePieceInHand'
import { living, problem, serve } from './support'
import type { Asked, Reply } from './support'

const VIEW = (revision: number, marks: Record<string, unknown> = {}) =>
  ({
    marked: { by: 'typing', marks, sheets: [], path: '', controls: [], focal_px: null, mm_per_unit: null },
    picture: null,
    revision,
    wanted: [],
    darts: [],
  }) as unknown as DrapePieceView

/** A server that keeps what it is sent, by revision; and the piece in hand over it. */
function piece(drape: number, answer?: (asked: Asked) => Reply | undefined) {
  const held = { revision: 1, marks: {} as Record<string, unknown> }
  const asked = serve((call) => {
    const own = answer?.(call)
    if (own) return own
    const body = call.body as { revision: number; marked: { marks: Record<string, unknown> } }
    if (body.revision !== held.revision) return problem(409, 'changed meanwhile', 'urn:yardwand:stale')
    held.revision += 1
    held.marks = body.marked.marks
    return { body: VIEW(held.revision, held.marks) }
  })
  const view = shallowRef<DrapePieceView>(VIEW(1))
  const open = () =>
    living(() =>
      usePieceInHand(
        drape,
        'front',
        () => view.value,
        (now) => (view.value = now),
      ),
    )
  return { held, asked, view, open }
}
const put = (mark: string, at: [number, number]) => (now: { marks?: Record<string, unknown> }) => {
  now.marks = { ...now.marks, [mark]: at }
}

test('every click is sent as it is made, and clicks that come while one is under way go with the next', async () => {
  const { held, asked, open } = piece(1)
  const hand = open()
  await flushPromises()
  hand.change(put('tip', [1, 2]))
  hand.change(put('across', [3, 4]))
  hand.change(put('underarm', [5, 6]))
  await hand.settle()
  expect(held.marks).toEqual({ tip: [1, 2], across: [3, 4], underarm: [5, 6] })
  expect(asked.length).toBeLessThan(3)
  expect(hand.isKept.value).toBe(true)
})

test('a click is taken back, and what stood before is kept', async () => {
  const { held, open } = piece(2)
  const hand = open()
  await flushPromises()
  hand.change(put('tip', [1, 2]))
  hand.change(put('tip', [9, 9]))
  hand.takeBack()
  await hand.settle()
  expect(held.marks).toEqual({ tip: [1, 2] })
})

test('without a line it is kept on this device, and sent when somebody opens it again', async () => {
  let lost = true
  const { held, open } = piece(3, () => (lost ? 'lost' : undefined))
  const hand = open()
  await flushPromises()
  hand.change(put('tip', [1, 2]))
  await vi.waitFor(() => expect(hand.lost.value).toBe(true))
  expect(hand.isKept.value).toBe(false)
  lost = false
  // As after a closed tab: read anew, with what this device holds.
  const later = open()
  await vi.waitFor(() => expect(held.marks).toEqual({ tip: [1, 2] }))
  await vi.waitFor(() => expect(later.isKept.value).toBe(true))
})

test('what somebody else marked meanwhile is said, and taken when it is wished', async () => {
  const { held, view, open } = piece(4)
  const hand = open()
  await flushPromises()
  held.revision = 7
  hand.change(put('tip', [1, 2]))
  await hand.settle()
  expect(hand.problem.value?.detail).toBe('changed meanwhile')
  expect(hand.marked.value?.marks).toEqual({ tip: [1, 2] })
  view.value = VIEW(7, { across: [3, 4] })
  hand.takeTheirs(view.value)
  expect(hand.marked.value?.marks).toEqual({ across: [3, 4] })
  expect(hand.problem.value).toBeUndefined()
})
