import { computed, ref, shallowRef } from 'vue'
import type { Ref } from 'vue'

export interface Box {
  x: number
  y: number
  width: number
  height: number
}

/** Zoom and pan over a sheet: by wheel, pinch, buttons and keys. */
export function useDrawingView(whole: Ref<Box>, svg: Ref<SVGSVGElement | null>) {
  const zoom = ref(1)
  const centre = ref<{ x: number; y: number }>()
  const view = computed<Box>(() => {
    const { x, y, width, height } = whole.value
    const at = centre.value ?? { x: x + width / 2, y: y + height / 2 }
    const [w, h] = [width / zoom.value, height / zoom.value]
    return { x: at.x - w / 2, y: at.y - h / 2, width: w, height: h }
  })

  function inDrawing(event: { clientX: number; clientY: number }): DOMPoint | undefined {
    const matrix = svg.value?.getScreenCTM()
    return matrix ? new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse()) : undefined
  }

  function moveTo(x: number, y: number): void {
    const box = whole.value
    centre.value = {
      x: Math.min(box.x + box.width, Math.max(box.x, x)),
      y: Math.min(box.y + box.height, Math.max(box.y, y)),
    }
  }

  function scale(by: number, about?: { x: number; y: number }): void {
    const before = view.value
    const next = Math.min(12, Math.max(1, zoom.value * by))
    const { width, height } = whole.value
    if (next === 1) {
      centre.value = undefined
    } else {
      const at = about ?? { x: before.x + before.width / 2, y: before.y + before.height / 2 }
      const share = { x: (at.x - before.x) / before.width, y: (at.y - before.y) / before.height }
      moveTo(at.x + (0.5 - share.x) * (width / next), at.y + (0.5 - share.y) * (height / next))
    }
    zoom.value = next
  }

  /** Moves the sheet by a share of what is seen. */
  function shift(across: number, down: number): void {
    const { x, y, width, height } = view.value
    moveTo(x + width * (0.5 + across), y + height * (0.5 + down))
  }

  const fingers = new Map<number, { clientX: number; clientY: number }>()
  const panned = shallowRef<DOMPoint>()
  let spread = 0

  function down(event: PointerEvent): void {
    fingers.set(event.pointerId, event)
    if (fingers.size === 2) spread = apart()
    panned.value = zoom.value > 1 ? inDrawing(event) : undefined
  }

  function move(event: PointerEvent): void {
    if (fingers.has(event.pointerId)) fingers.set(event.pointerId, event)
    if (fingers.size === 2) {
      const now = apart()
      const [one, other] = [...fingers.values()]
      if (spread > 0 && one && other)
        scale(
          now / spread,
          inDrawing({
            clientX: (one.clientX + other.clientX) / 2,
            clientY: (one.clientY + other.clientY) / 2,
          }),
        )
      spread = now
      return
    }
    const now = inDrawing(event)
    if (!panned.value || !now) return
    const { x, y, width, height } = view.value
    moveTo(x + width / 2 + panned.value.x - now.x, y + height / 2 + panned.value.y - now.y)
  }

  function up(event: PointerEvent): void {
    fingers.delete(event.pointerId)
    panned.value = undefined
  }

  function apart(): number {
    const [one, other] = [...fingers.values()]
    return one && other ? Math.hypot(one.clientX - other.clientX, one.clientY - other.clientY) : 0
  }

  function wheel(event: WheelEvent): void {
    // A page that is scrolled past a whole drawing goes on scrolling.
    if (!event.ctrlKey && zoom.value === 1 && event.deltaY > 0) return
    event.preventDefault()
    scale(event.deltaY < 0 ? 1.2 : 1 / 1.2, inDrawing(event))
  }

  return { zoom, view, inDrawing, scale, shift, down, move, up, wheel }
}
