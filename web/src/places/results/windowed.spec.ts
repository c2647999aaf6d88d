import { describe, expect, it } from 'vitest'
import { windowed } from './windowed'

describe('the rows in view', () => {
  it('are few of many, whatever is scrolled to', () => {
    expect(windowed(3000, 28, 0, 600)).toEqual({ from: 0, to: 37 })
    const deep = windowed(3000, 28, 28 * 1500, 600)
    expect(deep.from).toBe(1485)
    expect(deep.to - deep.from).toBeLessThan(60)
  })

  it('end where the rows end', () => {
    expect(windowed(10, 28, 5000, 600)).toEqual({ from: 10, to: 10 })
    expect(windowed(0, 28, 0, 600)).toEqual({ from: 0, to: 0 })
  })
})
