import type { PieceDrawing } from '@/api/types'
import type { Box } from '@/composables/useDrawingView'

const part = (kind: string): string => kind.replace(/_(left|right)$/, '')
/** A divided front or back lies where the whole one lay: its centre panel, or its upper part, stands for it. */
const whole = (kind: string): string =>
  part(kind)
    .replace(/^centre_panel$/, 'front')
    .replace(/^back_centre_panel$/, 'back')
    .replace(/^upper_(front|back)$/, '$1')
    .replace(/^(bodice|dress)_/, '')

/** The same piece in another state of the pattern: its own, or the one it was made from. */
export function sameIn(pieces: readonly PieceDrawing[], kind: string): PieceDrawing | undefined {
  return (
    pieces.find((piece) => piece.kind === kind) ??
    pieces.find((piece) => part(piece.kind) === part(kind)) ??
    pieces.find((piece) => whole(piece.kind) === whole(kind))
  )
}

/** Room between two pieces, and between two rows of them, in millimetres. */
export const GAP = 34
/** A drawing is so high for its width before it takes too much of the page. */
const HIGH = 0.95
/** Another row is begun where everything is then drawn so many times as large. */
const WORTH = 1.25
const MOST_ROWS = 3

/** These in so many rows, in their order, the rows about as long as each other. */
function split<T extends { box: Box }>(all: readonly T[], count: number): T[][] {
  const whole = all.reduce((sum, { box }) => sum + box.width + GAP, 0)
  const rows: T[][] = Array.from({ length: count }, () => [])
  let along = 0
  for (const each of all) {
    const wide = each.box.width + GAP
    rows[Math.min(count - 1, Math.floor(((along + wide / 2) / whole) * count))]?.push(each)
    along += wide
  }
  return rows.filter((row) => row.length)
}

/** How high a row is: its pieces keep their levels beside each other. */
const highOf = (row: readonly { box: Box }[]): number =>
  Math.max(...row.map(({ box }) => box.y + box.height)) - Math.min(...row.map(({ box }) => box.y))

/** How large everything would be drawn. */
function scaleOf(rows: readonly { box: Box }[][]): number {
  const wide = rows.map((row) => row.reduce((sum, { box }) => sum + box.width + GAP, 0))
  const high = rows.reduce((sum, row) => sum + highOf(row) + GAP, 0)
  return Math.min(1 / Math.max(...wide), HIGH / high)
}

/** In how many rows pieces are drawn largest: one, unless more make them clearly larger. */
export function rowsFor(all: readonly { box: Box }[]): number {
  let best = 1
  for (let count = 2; count <= Math.min(MOST_ROWS, all.length); count += 1) {
    if (scaleOf(split(all, count)) > scaleOf(split(all, best)) * WORTH) best = count
  }
  return best
}

/** Pieces laid in so many rows: how far each is moved. */
export function inRows<T extends { box: Box }>(
  all: readonly T[],
  count: number,
): { laid: (T & { dx: number; dy: number })[]; foot: number } {
  let foot: number | undefined
  const laid = split(all, count).flatMap((row) => {
    const top = Math.min(...row.map(({ box }) => box.y))
    const dy = foot === undefined ? 0 : foot - top
    let right = 0
    const moved = row.map((each) => {
      const dx = right - Math.min(0, each.box.x)
      right = dx + each.box.x + each.box.width + GAP
      return { ...each, dx, dy }
    })
    foot = dy + top + highOf(row) + GAP
    return moved
  })
  return { laid, foot: foot ?? 0 }
}

/** Whether pieces can be laid on each other at the neck side: a skirt has none. */
export const hasNeck = (pieces: readonly PieceDrawing[]): boolean =>
  pieces.some((piece) => piece.seams.some(({ seam }) => seam === 'neckline'))
