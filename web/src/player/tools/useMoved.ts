import { useEventListener } from '@vueuse/core'
import { reactive, ref } from 'vue'

export interface Place {
  x: number
  y: number
  /** Degrees, clockwise. */
  turn: number
  width: number
  height: number
}

/**
 * Something that lies over the page and is moved: by dragging it, or while it has the focus by the arrow keys, with Shift
 * further. [ and ] turn it where it turns; with Alt the arrows make it larger or smaller where it grows.
 */
export function useMoved(begin: Place, may: { turn?: boolean; grow?: boolean }) {
  const place = reactive({ ...begin })
  const held = ref<{ x: number; y: number; how: 'move' | 'turn' | 'grow' }>()
  const inside = (v: number, most: number) => Math.max(-40, Math.min(most - 40, v))
  function to(x: number, y: number) {
    place.x = inside(x, window.innerWidth)
    place.y = inside(y, window.innerHeight)
  }
  function grow(dx: number, dy: number) {
    place.width = Math.max(60, place.width + dx)
    place.height = Math.max(40, place.height + dy)
  }
  function take(e: PointerEvent, how: 'move' | 'turn' | 'grow' = 'move') {
    held.value = { x: e.clientX, y: e.clientY, how }
    e.preventDefault()
    ;(e.currentTarget as HTMLElement | null)?.focus()
  }
  useEventListener(document, 'pointermove', (e) => {
    const from = held.value
    if (!from) return
    const [dx, dy] = [e.clientX - from.x, e.clientY - from.y]
    if (from.how === 'move') to(place.x + dx, place.y + dy)
    else if (from.how === 'grow') grow(dx, dy)
    else place.turn = Math.round((place.turn + dx / 2 + dy / 2) * 10) / 10
    held.value = { ...from, x: e.clientX, y: e.clientY }
  })
  useEventListener(document, ['pointerup', 'pointercancel'], () => (held.value = undefined))

  const arrows: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  }
  function onKey(e: KeyboardEvent) {
    const [dx, dy] = arrows[e.key] ?? [0, 0]
    const step = e.shiftKey ? 40 : 8
    if (dx || dy) {
      if (e.altKey && may.grow) grow(dx * step, dy * step)
      else to(place.x + dx * step, place.y + dy * step)
    } else if (may.turn && (e.key === '[' || e.key === ']')) place.turn += e.key === '[' ? -1 : 1
    else if (may.turn && (e.key === '{' || e.key === '}')) place.turn += e.key === '{' ? -15 : 15
    else return
    e.preventDefault()
  }
  return { place, take, onKey }
}
