import type { Schemas } from '@/contract/client'

/** The box around an area: left, top, right and bottom, in the units of its picture. */
export function boxAround({ shape, at }: Schemas['Area']): [number, number, number, number] {
  const [x = 0, y = 0, z = 0, w = 0] = at
  if (shape === 'circle') return [x - z, y - z, x + z, y + z]
  if (shape !== 'polygon') return [x, y, z, w]
  const xs = at.filter((_, i) => i % 2 === 0)
  const ys = at.filter((_, i) => i % 2 === 1)
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
}

export const percent = (n: number, of: number) => `${(100 * n) / of}%`
