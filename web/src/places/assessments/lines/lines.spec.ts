import { describe, expect, it } from 'vitest'
import { inserted, moved, movedTogether, weighed } from './lines'

const layout = { parts: [], pools: [] }
const nowhere = { part: 0, pool: 0 }
const lines = [1, 2, 3].map((itemId) => ({ itemId, points: 1 }))
const ids = (list: { itemId: number }[]) => list.map((l) => l.itemId)

describe('arranging lines', () => {
  it('moves a line up, down and no further than the ends', () => {
    expect(ids(moved(lines, 2, 0, nowhere))).toEqual([3, 1, 2])
    expect(ids(moved(lines, 0, 1, nowhere))).toEqual([2, 1, 3])
    expect(ids(moved(lines, 0, 99, nowhere))).toEqual([2, 3, 1])
    expect(ids(moved(lines, 1, -5, nowhere))).toEqual([2, 1, 3])
  })

  it('inserts before a place, each item worth a point', () => {
    expect(inserted({ lines, layout }, [7, 8], 1)).toEqual([
      { itemId: 1, points: 1 },
      { itemId: 7, points: 1, ...nowhere },
      { itemId: 8, points: 1, ...nowhere },
      { itemId: 2, points: 1 },
      { itemId: 3, points: 1 },
    ])
  })

  it('moves several together, in the order that they have', () => {
    const five = [1, 2, 3, 4, 5].map((itemId) => ({ itemId, points: 1 }))
    expect(ids(movedTogether(five, [5, 2], 0, layout))).toEqual([2, 5, 1, 3, 4])
    expect(ids(movedTogether(five, [1, 2], 5, layout))).toEqual([3, 4, 5, 1, 2])
    expect(ids(movedTogether(five, [2, 4], 3, layout))).toEqual([1, 3, 2, 4, 5])
  })

  it('gives several the same points and leaves the others', () => {
    expect(weighed(lines, [1, 3], 2.5).map((l) => l.points)).toEqual([2.5, 1, 2.5])
  })

  it('says what is already there', () => {
    expect(() => inserted({ lines, layout }, [9, 3, 1], 0)).toThrow('Already there, as lines 3, 1. Nothing was placed.')
  })
})
