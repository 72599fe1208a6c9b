import { expect, test } from 'vitest'
import type { MarkWanted, PieceInHand } from '@/api/types'
import { isThere, nextOf, placesOf, putPlaces, roundThe, standing } from '@/components/drape/marks'
import type { Step } from '@/components/drape/marks'

const cross = (mark: string): Step => ({
  kind: 'mark',
  wanted: { mark, name: mark.replace('_', ' '), place: '', need: 'needed' } as unknown as MarkWanted,
})
const run = (mark: string, least: number): Step => ({
  kind: 'mark',
  wanted: { mark, name: mark, place: '', need: 'helps', least_dots: least } as unknown as MarkWanted,
})
const empty = (): PieceInHand => ({
  by: 'photograph',
  marks: {},
  sheets: [{ width: 297, height: 210, corners_px: [] }],
  tape: { ends_px: [], mm: 0 },
  path: '',
  controls: [],
  focal_px: null,
  mm_per_unit: null,
})

const sheet: Step = { kind: 'sheet', index: 0, name: 'Sheet 1' }
const steps = [sheet, cross('centre_top'), run('neckline_dots', 3), cross('neck_side')]

test('a cross has one place, a run as many as are clicked, a sheet four corners', () => {
  const piece = empty()
  putPlaces(piece, steps[1]!, [[3, 4]])
  expect(piece.marks).toEqual({ centre_top: [3, 4] })
  putPlaces(piece, steps[2]!, [
    [5, 6],
    [7, 8],
  ])
  expect(isThere(piece, steps[2]!)).toBe(false)
  putPlaces(piece, steps[2]!, [...placesOf(piece, steps[2]!), [9, 9]])
  expect(isThere(piece, steps[2]!)).toBe(true)
  putPlaces(piece, sheet, [
    [0, 0],
    [9, 0],
    [9, 9],
  ])
  expect(isThere(piece, sheet)).toBe(false)
  expect(standing(piece, steps).map(({ at }) => at)).toHaveLength(7)
  putPlaces(piece, steps[2]!, [])
  expect(piece.marks).toEqual({ centre_top: [3, 4] })
})

test('the walk goes on to what is not there yet, round to what was passed over', () => {
  const piece = empty()
  expect(nextOf(piece, steps, undefined)).toBe(sheet)
  putPlaces(piece, steps[3]!, [[1, 1]])
  expect(nextOf(piece, steps, steps[2])).toBe(sheet)
  for (const [at, step] of steps.entries())
    putPlaces(
      piece,
      step,
      Array.from({ length: 4 }, (_, index) => [at, index]),
    )
  expect(nextOf(piece, steps, undefined)).toBeUndefined()
})

test('the line for the eye goes round the piece, the waist from the side back to the centre', () => {
  const piece = empty()
  putPlaces(piece, cross('centre_waist'), [[0, 400]])
  putPlaces(piece, cross('side_waist'), [[200, 390]])
  putPlaces(piece, run('waist_dots', 3), [
    [50, 400],
    [100, 398],
  ])
  const walk = [cross('side_waist'), run('waist_dots', 3), cross('centre_waist'), run('level_dots', 3)]
  putPlaces(piece, walk[3]!, [[10, 10]])
  expect(roundThe(piece, walk)).toBe('M200 390L100 398L50 400L0 400')
})
