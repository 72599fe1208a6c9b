import { flushPromises, mount } from '@vue/test-utils'
import { expect, test, vi } from 'vitest'
import { defineComponent, h, ref } from 'vue'
import type { MarkWanted, PieceInHand } from '@/api/types'
import TypedMarks from '@/components/drape/TypedMarks.vue'
import type { Step } from '@/components/drape/marks'
import { clearedAfterwards, serve, signedIn } from './support'

vi.spyOn(console, 'warn').mockImplementation(() => {})

const step = (mark: string, least_dots?: number): Step => ({
  kind: 'mark',
  wanted: { mark, name: mark, place: 'there', need: 'needed', least_dots } as unknown as MarkWanted,
})
const STEPS = [step('centre_top'), step('neckline_dots', 4), step('neck_side')]

/** Inches, as the core would read them; slowly, so that keys run ahead. */
async function page() {
  signedIn('cutting')
  serve(async ({ query }) => {
    await new Promise((done) => setTimeout(done, 5))
    const text = query['text'] ?? ''
    const mm = text.endsWith(' mm') ? Number(text.slice(0, -3)) : 25.4 * Number(text)
    const field = String(Math.round(mm / 25.4))
    return { body: { mm, text: field, exact: field, field } }
  })
  const piece = ref<PieceInHand>({
    by: 'typing',
    marks: {},
    sheets: [],
    tape: { ends_px: [], mm: 0 },
    path: '',
    controls: [],
    focal_px: null,
    mm_per_unit: null,
  })
  const wrapper = mount(
    defineComponent(
      () => () =>
        h(TypedMarks, {
          piece: piece.value,
          steps: STEPS,
          onChange: (make: (piece: PieceInHand) => void) => {
            const next = JSON.parse(JSON.stringify(piece.value)) as PieceInHand
            make(next)
            piece.value = next
          },
        }),
    ),
    { attachTo: document.body },
  )
  clearedAfterwards(wrapper)
  await flushPromises()
  const fields = () => wrapper.findAll<HTMLInputElement>('.rows input').map((each) => each.element)
  /** Types into what has the focus, as fast as it goes, and presses Enter. */
  async function type(text: string): Promise<void> {
    const field = document.activeElement as HTMLInputElement
    field.value = text
    field.dispatchEvent(new Event('input', { bubbles: true }))
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))
    await flushPromises()
  }
  return { wrapper, piece, fields, type }
}

test('keys run ahead of their figures: another dot is there before the last one is read', async () => {
  const { piece, fields, type } = await page()
  expect(fields()).toHaveLength(6)
  fields()[0]?.focus()
  for (const text of ['0', '3', '1', '3', '2', '2']) await type(text)
  // The third dot is begun, and nothing of it is there yet.
  expect(fields().indexOf(document.activeElement as HTMLInputElement)).toBe(6)
  // An empty dot ends the run.
  await type('')
  expect(fields().indexOf(document.activeElement as HTMLInputElement)).toBe(8)
  document
    .querySelectorAll('.rows input')
    .forEach((each) => each.dispatchEvent(new Event('change', { bubbles: true })))
  await vi.waitFor(() => expect(piece.value.marks['neckline_dots']).toHaveLength(2))
  expect(piece.value.marks['centre_top']?.[0]).toBe(0)
})
