import type { PieceDrawing } from '@/api/types'

const part = (kind: string): string => kind.replace(/_(left|right)$/, '')
/** A divided front lies where the whole one lay: its centre panel stands for it. */
const whole = (kind: string): string => part(kind).replace(/^centre_panel$/, 'bodice_front')

/** The same piece in another state of the pattern: its own, or the one it was made from. */
export function sameIn(pieces: readonly PieceDrawing[], kind: string): PieceDrawing | undefined {
  return (
    pieces.find((piece) => piece.kind === kind) ??
    pieces.find((piece) => part(piece.kind) === part(kind)) ??
    pieces.find((piece) => whole(piece.kind) === whole(kind))
  )
}
