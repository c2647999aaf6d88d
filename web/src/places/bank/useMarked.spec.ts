import { describe, expect, it } from 'vitest'
import { useMarked } from './useMarked'

describe('marks', () => {
  const five = () => useMarked(() => [1, 2, 3, 4, 5])

  it('come and go one by one', () => {
    const m = five()
    m.mark(2)
    m.mark(4)
    m.mark(2)
    expect(m.ids.value).toEqual([4])
  })

  it('reach from the last mark, both ways, and take away as well', () => {
    const m = five()
    m.mark(4)
    m.mark(2, true)
    expect(m.ids.value.sort()).toEqual([2, 3, 4])
    m.mark(3, true)
    expect(m.ids.value.sort()).toEqual([4])
  })

  it('reach no further than what is shown', () => {
    const m = five()
    m.mark(9)
    m.mark(3, true)
    expect(m.ids.value.sort()).toEqual([3, 9])
    m.clear()
    expect(m.ids.value).toEqual([])
  })
})
