import { describe, expect, it } from 'vitest'
import { drawnArea, handleOf, movedArea, pulledArea } from './areas'

const picture = { width: 400, height: 200 }
const circle = { shape: 'circle', at: [100, 100, 20] }
const box = { shape: 'rectangle', at: [10, 20, 60, 80] }

describe('areas on a picture', () => {
  it('move, no further than its edges', () => {
    expect(movedArea(circle, 5, -7, picture).at).toEqual([105, 93, 20])
    expect(movedArea(circle, -500, 500, picture).at).toEqual([20, 180, 20])
    expect(movedArea(box, 1000, -1000, picture).at).toEqual([350, 0, 400, 60])
    expect(movedArea({ shape: 'polygon', at: [10, 10, 50, 10, 30, 40] }, -20, 3, picture).at).toEqual([0, 13, 40, 13, 20, 43])
  })

  it('are pulled at their rim or corner, within the picture and never to nothing', () => {
    expect(pulledArea(circle, 130, 140, picture).at).toEqual([100, 100, 50])
    expect(pulledArea(circle, 400, 100, picture).at, 'the nearest edge is 100 away').toEqual([100, 100, 100])
    expect(pulledArea(circle, 100, 100, picture).at).toEqual([100, 100, 4])
    expect(pulledArea(box, 500, 10, picture).at).toEqual([10, 20, 400, 24])
    const polygon = { shape: 'polygon', at: [0, 0, 9, 0, 0, 9] }
    expect(pulledArea(polygon, 50, 50, picture)).toBe(polygon)
  })

  it('are drawn from any corner; a click draws none', () => {
    expect(drawnArea('rectangle', [60, 80], [10, 20], picture)?.at).toEqual([10, 20, 60, 80])
    expect(drawnArea('rectangle', [390, 190], [500, 300], picture)?.at).toEqual([390, 190, 400, 200])
    expect(drawnArea('circle', [100, 100], [100, 130], picture)?.at).toEqual([100, 100, 30])
    expect(drawnArea('circle', [100, 100], [102, 101], picture)).toBeUndefined()
    expect(drawnArea('rectangle', [10, 10], [90, 11], picture), 'a line is no area').toBeUndefined()
  })

  it('have a place to pull at', () => {
    expect([circle, box, { shape: 'polygon', at: [] }].map(handleOf)).toEqual([[120, 100], [60, 80], undefined])
  })
})
