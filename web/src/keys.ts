/** Every key that does something, by where it does it: the sheet of keys shows them. */
export interface KeyGroup {
  /** Where they work. */
  name: string
  keys: { key: string; does: string }[]
}

export const KEYS: readonly KeyGroup[] = [
  {
    name: 'Everywhere',
    keys: [
      { key: '/', does: 'find a client, a garment, a block, an alteration or a page' },
      { key: '?', does: 'this sheet' },
      { key: 'Tab', does: 'to the next field or button' },
      { key: 'Esc', does: 'close what is open' },
    ],
  },
  {
    name: 'Lengths and amounts',
    keys: [
      { key: '↑ ↓', does: 'a step more or less' },
      { key: 'Enter', does: 'take it' },
    ],
  },
  {
    name: 'Measuring, in an empty field',
    keys: [
      { key: 'Enter', does: 'save and go on' },
      { key: 'b', does: 'back' },
      { key: 's', does: 'skip' },
      { key: 'r', does: 'a repeat' },
      { key: 'n', does: 'a note' },
      { key: 'l g', does: 'left, right' },
    ],
  },
  {
    name: 'Marking a photograph or an outline',
    keys: [
      { key: 'Space', does: 'place what is asked for, in the middle of what is seen' },
      { key: '← ↑ → ↓', does: 'move the chosen point, with Shift ten times as far' },
      { key: 'Enter', does: 'on to the next mark' },
      { key: 'Delete', does: 'take the chosen point out' },
      { key: '+ − 0', does: 'larger, smaller, the whole' },
    ],
  },
  {
    name: 'Cutting table',
    keys: [
      { key: 'Ctrl Z', does: 'take the last change back' },
      { key: 'Ctrl ⇧ Z', does: 'do it again' },
    ],
  },
  {
    name: 'Practice',
    keys: [
      { key: '1 … 9', does: 'choose the answer of that number' },
      { key: 'Enter', does: 'that is it, and on' },
    ],
  },
  {
    name: 'Calendar, on a visit',
    keys: [{ key: 'Alt ← → ↑ ↓', does: 'a day or a week earlier or later' }],
  },
]

/** A stroke in a field is a stroke: `3/8` is a length. */
export function isTyping(event: KeyboardEvent): boolean {
  const at = event.target
  return at instanceof HTMLElement && (at.isContentEditable || at.matches('input, textarea, select'))
}
