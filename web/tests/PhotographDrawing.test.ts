import { flushPromises, mount } from '@vue/test-utils'
import { expect, onTestFinished, test, vi } from 'vitest'
import type { PhotographView } from '@/api/types'
import PhotographDrawing from '@/components/photographs/PhotographDrawing.vue'
import { serve } from './support'

const photograph: PhotographView = {
  id: 4,
  width: 600,
  height: 800,
  taken_at: '2026-11-02T10:00:00Z',
  observation_id: null,
  strokes: [{ from: { x: 0.1, y: 0.1 }, to: { x: 0.4, y: 0.1 }, arrow: false }],
}

function large(drawable = true) {
  const asked = serve(() => ({ status: 204 }))
  const wrapper = mount(PhotographDrawing, { props: { photograph, drawable }, attachTo: document.body })
  onTestFinished(() => wrapper.unmount())
  const svg = wrapper.get('svg')
  svg.element.getBoundingClientRect = () => ({ left: 100, top: 50, width: 300, height: 400 }) as DOMRect
  svg.element.setPointerCapture = () => {}
  const press = (name: string) =>
    wrapper
      .findAll('button')
      .find((each) => each.text() === name)!
      .trigger('click')
  const draw = async (...path: [number, number][]) => {
    const [first, last] = [path[0]!, path.at(-1)!]
    await svg.trigger('pointerdown', { clientX: first[0], clientY: first[1], pointerId: 1 })
    for (const [clientX, clientY] of path) await svg.trigger('pointermove', { clientX, clientY })
    await svg.trigger('pointerup', { clientX: last[0], clientY: last[1] })
  }
  return { wrapper, asked, press, draw }
}

vi.spyOn(console, 'warn').mockImplementation(() => {})

test('an arrow goes from where it is pressed to where it is let go, in parts of the picture', async () => {
  const { wrapper, asked, press, draw } = large()
  expect(wrapper.text()).not.toContain('Keep what is drawn')
  await press('Arrow')
  await draw([160, 90], [200, 200], [250, 250])
  await press('Keep what is drawn')
  await flushPromises()
  expect(asked).toMatchObject([
    {
      method: 'PUT',
      path: '/api/photographs/4/strokes',
      body: {
        strokes: [photograph.strokes[0], { from: { x: 0.2, y: 0.1 }, to: { x: 0.5, y: 0.5 }, arrow: true }],
      },
    },
  ])
})

test('a tap is no line, and a line that leaves the picture ends at its edge', async () => {
  const { wrapper, press, draw } = large()
  await press('Line')
  await draw([160, 90], [161, 90])
  expect(wrapper.findAll('g')).toHaveLength(1)
  await draw([160, 90], [900, 90])
  expect(wrapper.findAll('line:not(.under)').at(-1)!.attributes()).toMatchObject({ x1: '120', x2: '600' })
})

test('the last line is taken off, and nothing is drawn without a tool or where it may not be', async () => {
  const { wrapper, press, draw } = large()
  await draw([160, 90], [250, 250])
  expect(wrapper.findAll('g')).toHaveLength(1)
  await press('Take the last off')
  expect(wrapper.findAll('g')).toHaveLength(0)
  expect(large(false).wrapper.findAll('button')).toHaveLength(0)
})

test('what is drawn is told where it cannot be seen', () => {
  expect(large().wrapper.get('img').attributes('alt')).toBe('The photograph, large, 1 line')
})
