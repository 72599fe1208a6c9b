import { computed, ref, shallowRef } from 'vue'
import { fieldText } from '@/api/lengths'

interface Spot {
  x: number
  y: number
}

/** How near a corner catches the pointer, in millimetres at full view. */
const CATCHES = 9

/** Measures between any two points of a drawing: by pointer, or by keys with a cross that is moved. */
export function usePointToPoint(corners: () => readonly Spot[], zoom: () => number) {
  const on = ref(false)
  const from = shallowRef<Spot>()
  const to = shallowRef<Spot>()
  /** Where a key would mark next. */
  const cross = shallowRef<Spot>()
  const says = ref('')

  function start(at: Spot): void {
    on.value = true
    from.value = undefined
    to.value = undefined
    cross.value = at
    says.value = 'Mark the first point: click, or move the cross with the arrow keys and press Enter.'
  }

  function stop(): void {
    on.value = false
    from.value = undefined
    to.value = undefined
    cross.value = undefined
    says.value = ''
  }

  function caught(at: Spot): Spot {
    const reach = CATCHES / zoom()
    const near = corners()
      .map((corner) => ({ corner, off: Math.hypot(corner.x - at.x, corner.y - at.y) }))
      .filter(({ off }) => off <= reach)
      .sort((a, b) => a.off - b.off)
    return near[0]?.corner ?? at
  }

  async function mark(at: Spot): Promise<void> {
    const point = caught(at)
    if (!from.value || to.value) {
      from.value = point
      to.value = undefined
      says.value = 'Mark the second point.'
      return
    }
    to.value = point
    const mm = Math.hypot(point.x - from.value.x, point.y - from.value.y)
    const [across, down] = [Math.abs(point.x - from.value.x), Math.abs(point.y - from.value.y)]
    const [length, x, y] = await Promise.all([mm, across, down].map(asWritten))
    says.value = `${length} from point to point; ${x} across, ${y} down.`
  }

  /** Written by the core, as every length is. */
  async function asWritten(mm: number): Promise<string> {
    return (await fieldText(mm, false)) ?? `${mm.toFixed(1)} mm`
  }

  /** Moves the cross; false where the key is not one of its keys. */
  function keyed(key: string, step: number): boolean {
    const at = cross.value
    if (!on.value || !at) return false
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[key]
    if (by) {
      cross.value = { x: at.x + (by[0] ?? 0) * step, y: at.y + (by[1] ?? 0) * step }
      return true
    }
    if (key === 'Enter' || key === ' ') {
      void mark(at)
      return true
    }
    if (key === 'Escape') {
      stop()
      return true
    }
    return false
  }

  const line = computed(() => (from.value && to.value ? { from: from.value, to: to.value } : undefined))
  return { on, from, cross, line, says, start, stop, mark, keyed }
}
