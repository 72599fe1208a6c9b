/** Marks of a piece while it is being marked: where they are, which are there, and which comes next. */
import type { MarkWanted, PieceInHand } from '@/api/types'

/** A place: right and down, in millimetres, in pixels of the photograph or in units of the path. */
export type Place = [number, number]

/** Something to be placed: a corner of a sheet, an end of a tape that lies in the picture, or a mark. */
export type Step =
  | { kind: 'sheet'; index: number; name: string }
  | { kind: 'tape'; name: string }
  | { kind: 'mark'; wanted: MarkWanted }

/** A point that stands: a corner, a cross or a dot. */
export interface Standing {
  step: Step
  /** Which corner or which dot; 0 for a cross. */
  index: number
  at: Place
}

/** A sheet has four corners. */
export const CORNERS = 4
/** A tape has two ends. */
export const ENDS = 2
/** How many places a sheet or a tape has. */
const pointsOf = (step: Step) => (step.kind === 'sheet' ? CORNERS : ENDS)

/** A sheet of A4, in millimetres, none of its corners clicked. */
export const A4 = { width: 297, height: 210, corners_px: [] }

export const isRun = (wanted: MarkWanted) => wanted.least_dots !== undefined
/** A mark of one click. */
export const isCross = (step: Step) => step.kind === 'mark' && !isRun(step.wanted)
/** A mark that is dotted along a line. */
export const isDotted = (step: Step) => step.kind === 'mark' && isRun(step.wanted)
/** A cross as it is drawn: so large from its middle. */
export const crossAt = (x: number, y: number, r: number) => `M${x - r} ${y}h${2 * r}M${x} ${y - r}v${2 * r}`

/** The places of a step: of a cross at most one. */
export function placesOf(piece: PieceInHand, step: Step): Place[] {
  if (step.kind === 'sheet') return (piece.sheets?.[step.index]?.corners_px ?? []) as Place[]
  if (step.kind === 'tape') return (piece.tape?.ends_px ?? []) as Place[]
  const places = piece.marks?.[step.wanted.mark] as Place | Place[] | undefined
  if (!places) return []
  return isRun(step.wanted) ? (places as Place[]) : [places as Place]
}

/** Puts the places of a step; none takes it away. */
export function putPlaces(piece: PieceInHand, step: Step, places: readonly Place[]): void {
  if (step.kind === 'sheet') {
    const sheet = piece.sheets?.[step.index]
    if (sheet) sheet.corners_px = places.map(([x, y]) => [x, y])
    return
  }
  if (step.kind === 'tape') {
    piece.tape = { mm: piece.tape?.mm ?? 0, ends_px: places.map(([x, y]) => [x, y]) }
    return
  }
  const marks = (piece.marks ??= {})
  const { mark } = step.wanted
  const [first] = places
  if (first === undefined) delete marks[mark]
  else marks[mark] = isRun(step.wanted) ? places.map(([x, y]) => [x, y]) : [first[0], first[1]]
}

/** How many places a step has at most. */
export const mostOf = (step: Step) =>
  step.kind === 'mark' ? (isRun(step.wanted) ? Infinity : 1) : pointsOf(step)

/** Whether all of a step is there. */
export function isThere(piece: PieceInHand, step: Step): boolean {
  const least = step.kind === 'mark' ? (step.wanted.least_dots ?? 1) : pointsOf(step)
  return placesOf(piece, step).length >= least
}

/** What a step is called. */
export const nameOf = (step: Step) => (step.kind === 'mark' ? step.wanted.name : step.name)

/** Two steps that are the same thing to place. */
export const same = (one: Step | undefined, other: Step | undefined) =>
  one !== undefined &&
  other !== undefined &&
  (one.kind === 'mark'
    ? other.kind === 'mark' && one.wanted.mark === other.wanted.mark
    : one.kind === other.kind && nameOf(one) === nameOf(other))

/** Every point that stands. */
export const standing = (piece: PieceInHand, steps: readonly Step[]): Standing[] =>
  steps.flatMap((step) => placesOf(piece, step).map((at, index) => ({ step, index, at })))

/** The next step after this one that is not there yet, going round; none where all are. */
export function nextOf(
  piece: PieceInHand,
  steps: readonly Step[],
  after: Step | undefined,
): Step | undefined {
  const from = after === undefined ? 0 : steps.findIndex((step) => same(step, after)) + 1
  const order = [...steps.slice(from), ...steps.slice(0, from)]
  return order.find((step) => !isThere(piece, step))
}

/**
 * A path round the piece through its marks, for the eye: never cut by. The walk ends its round at the centre's waist. Two marks have no
 * round: a slashed back has only those.
 */
export function roundThe(piece: PieceInHand, steps: readonly Step[]): string {
  const marks = steps.flatMap((step) => (step.kind === 'mark' ? [step] : []))
  const end = marks.findIndex((step) => step.wanted.mark === 'centre_waist')
  const places = marks.slice(0, end + 1).flatMap((step) => {
    const own = placesOf(piece, step)
    // A waist is dotted from the centre outwards and walked the other way.
    return step.wanted.mark === 'waist_dots' || step.wanted.mark === 'waist_outer_dots'
      ? [...own].reverse()
      : own
  })
  if (places.length < 3) return ''
  return places.map(([x, y], index) => `${index === 0 ? 'M' : 'L'}${x} ${y}`).join('')
}
