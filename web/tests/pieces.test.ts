import { describe, expect, it } from 'vitest'
import { sameIn } from '@/components/drawing/pieces'
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
