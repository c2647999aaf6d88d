import { boxAround } from '@/item/area'
import type { Area } from './document'

/** What the areas of a picture stay within. */
export interface Bounds {
  width: number
  height: number
}

const clamp = (n: number, least: number, most: number) => Math.round(Math.min(Math.max(n, least), Math.max(least, most)))

/** An area moved, no further than the edges of the picture. */
export function movedArea(a: Area, dx: number, dy: number, { width, height }: Bounds): Area {
  const [left, top, right, bottom] = boxAround(a)
  const x = clamp(dx, -left, width - right)
  const y = clamp(dy, -top, height - bottom)
  if (a.shape === 'circle') return { ...a, at: [a.at[0]! + x, a.at[1]! + y, a.at[2]!] }
  return { ...a, at: a.at.map((n, i) => n + (i % 2 ? y : x)) }
}

/** The least size of an area, in units of the picture: smaller ones nobody hits. */
export const leastSize = 4

/** An area pulled so that its edge is at a point: a circle's rim, a rectangle's lower right corner. A polygon stays. */
export function pulledArea(a: Area, x: number, y: number, { width, height }: Bounds): Area {
  const [cx = 0, cy = 0] = a.at
  if (a.shape === 'circle') {
    const most = Math.min(cx, cy, width - cx, height - cy)
    return { ...a, at: [cx, cy, clamp(Math.hypot(x - cx, y - cy), leastSize, most)] }
  }
  if (a.shape === 'rectangle') return { ...a, at: [cx, cy, clamp(x, cx + leastSize, width), clamp(y, cy + leastSize, height)] }
  return a
}

/** An area drawn from one point to another; nothing where it would be too small. */
export function drawnArea(
  shape: 'circle' | 'rectangle',
  from: [number, number],
  to: [number, number],
  bounds: Bounds,
): Area | undefined {
  const [l, r] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])]
  const [t, b] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])]
  if (Math.max(r - l, b - t) < leastSize) return undefined
  const at = [clamp(l, 0, bounds.width), clamp(t, 0, bounds.height), clamp(r, 0, bounds.width), clamp(b, 0, bounds.height)]
  if (shape === 'rectangle') return at[2]! - at[0]! < leastSize || at[3]! - at[1]! < leastSize ? undefined : { shape, at }
  const [x, y] = [clamp(from[0], 0, bounds.width), clamp(from[1], 0, bounds.height)]
  return pulledArea({ shape, at: [x, y, leastSize] }, to[0], to[1], bounds)
}

/** Where an area is pulled at: a circle's rim on the right, a rectangle's lower right corner. */
export function handleOf(a: Area): [number, number] | undefined {
  if (a.shape === 'circle') return [a.at[0]! + a.at[2]!, a.at[1]!]
  if (a.shape === 'rectangle') return [a.at[2]!, a.at[3]!]
  return undefined
}
