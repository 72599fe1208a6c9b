import { describe, expect, it } from 'vitest'
import { GAP, inRows, rowsFor, sameIn } from '@/components/drawing/pieces'
import type { PieceDrawing } from '@/api/types'

const piece = (kind: string) => ({ kind }) as PieceDrawing
const found = (pieces: readonly PieceDrawing[], kind: string) => sameIn(pieces, kind)?.kind

describe('a piece in another state of its pattern', () => {
  it('is its own, or the same part of both sides', () => {
    const pieces = [piece('bodice_front_left'), piece('bodice_front_right'), piece('bodice_back')]
    expect(found(pieces, 'bodice_front_right')).toBe('bodice_front_right')
    expect(found([piece('bodice_front')], 'bodice_front_left')).toBe('bodice_front')
  })

  it('is the whole piece it was cut from, by a princess line or under the bust', () => {
    const whole = [piece('bodice_front'), piece('bodice_back'), piece('sleeve')]
    expect(found(whole, 'centre_panel')).toBe('bodice_front')
    expect(found(whole, 'back_centre_panel')).toBe('bodice_back')
    expect(found(whole, 'upper_front')).toBe('bodice_front')
    expect(found(whole, 'upper_back_left')).toBe('bodice_back')
  })
})

describe('the pieces of a drawing', () => {
  const box = (width: number, height: number, y = 0) => ({ box: { x: 0, y, width, height } })

  it('pieces that fill the sheet stay in one row', () => {
    expect(rowsFor([])).toBe(1)
    expect(rowsFor([box(250, 500)])).toBe(1)
    expect(rowsFor([box(280, 480), box(270, 470)])).toBe(1)
  })

  it('a row that would make them small is broken, in their order', () => {
    const many = Array.from({ length: 8 }, () => box(250, 400))
    expect(rowsFor(many)).toBeGreaterThan(1)
    const { laid, foot } = inRows(many, 2)
    expect(laid.map(({ dy }) => dy)).toEqual([0, 0, 0, 0, 434, 434, 434, 434])
    expect(laid.map(({ dx }) => dx)).toEqual([0, 284, 568, 852, 0, 284, 568, 852])
    expect(foot).toBe(2 * (400 + GAP))
  })

  it('pieces of a row keep their levels beside each other and none lies on another', () => {
    const all = [box(200, 300, -20), box(260, 420), box(180, 700, 10), box(300, 150, 200), box(90, 60)]
    for (const count of [1, 2, 3]) {
      const { laid } = inRows(all, count)
      expect(laid).toHaveLength(all.length)
      for (const [index, one] of laid.entries()) {
        for (const other of laid.slice(index + 1)) {
          const apart =
            one.dx + one.box.width <= other.dx ||
            other.dx + other.box.width <= one.dx ||
            one.dy + one.box.y + one.box.height <= other.dy + other.box.y ||
            other.dy + other.box.y + other.box.height <= one.dy + one.box.y
          expect(apart).toBe(true)
        }
      }
    }
  })
})
