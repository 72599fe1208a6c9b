/** What of a drawing is shown besides the net line. */
export interface Layers {
  darts: boolean
  levels: boolean
  points: boolean
  before: boolean
  /** Seams as they run with their darts folded. */
  folded: boolean
}

export const LAYERS: { key: keyof Layers; name: string }[] = [
  { key: 'darts', name: 'Darts' },
  { key: 'levels', name: 'Levels' },
  { key: 'points', name: 'Points' },
  { key: 'before', name: 'Before' },
  { key: 'folded', name: 'Darts folded' },
]
