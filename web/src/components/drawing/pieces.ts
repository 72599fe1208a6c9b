import type { PieceDrawing } from '@/api/types'

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

/** Whether pieces can be laid on each other at the neck side: a skirt has none. */
export const hasNeck = (pieces: readonly PieceDrawing[]): boolean =>
  pieces.some((piece) => piece.seams.some(({ seam }) => seam === 'neckline'))
