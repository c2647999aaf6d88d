import { describe, expect, it } from 'vitest'
import { placeAt } from './dragged'

describe('where something dropped stands', () => {
  const rows = [0, 32, 64].map((top) => ({ top, height: 32 }))
  it('is before the row whose upper half it is over, or after all', () => {
    expect(placeAt(rows, 3)).toBe(0)
    expect(placeAt(rows, 20)).toBe(1)
    expect(placeAt(rows, 79)).toBe(2)
    expect(placeAt(rows, 200)).toBe(3)
    expect(placeAt([], 10)).toBe(0)
  })
})
