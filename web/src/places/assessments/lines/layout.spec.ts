import { describe, expect, it } from 'vitest'
import {
  beginning,
  beginsAt,
  entries,
  standBefore,
  stepped,
  withoutPart,
  withoutPool,
  withPart,
  withPool,
  type Arrangement,
} from './layout'

/** Lines written as part and pool: '10 11 11 20'. */
function laid(text: string, parts = 2, pools = 1): Arrangement {
  return {
    lines: text.split(' ').map((s, i) => ({ itemId: i + 1, points: 1, part: Number(s[0]), pool: Number(s[1]) })),
    layout: {
      parts: Array.from({ length: parts }, (_, i) => ({ title: `Part ${i + 1}`, directions: '', calculator: false })),
      pools: Array.from({ length: pools }, () => ({ title: '', choose: 1 })),
    },
  }
}
const places = (a: Pick<Arrangement, 'lines'>) => a.lines.map((l) => `${l.part ?? 0}${l.pool ?? 0}`).join(' ')
const ids = (a: Pick<Arrangement, 'lines'>) => a.lines.map((l) => l.itemId)

describe('one step of a line', () => {
  it('goes past its neighbor within a part or pool', () => {
    const moved = stepped(laid('10 10 11 11'), 0, 1)!
    expect(ids(moved)).toEqual([2, 1, 3, 4])
    expect(moved.at).toBe(1)
  })

  it('enters a pool, passes through it, leaves it, and goes on to the next part', () => {
    let now = laid('10 11 11')
    const seen: string[] = []
    let at = 0
    for (let i = 0; i < 5; i++) {
      const step = stepped(now, at, 1)
      if (!step) break
      now = { ...now, lines: step.lines }
      at = step.at
      seen.push(`${ids(now).join('')} ${places(now)}`)
    }
    expect(seen).toEqual(['123 11 11 11', '213 11 11 11', '231 11 11 11', '231 11 11 10', '231 11 11 20'])
  })

  it('goes back to the part before, and no further than the ends', () => {
    expect(places(stepped(laid('10 20'), 1, -1)!)).toBe('10 10')
    expect(stepped(laid('10 20'), 0, -1)).toBeUndefined()
    expect(stepped(laid('10 20'), 1, 1)).toBeUndefined()
  })
})

describe('what is placed before a line', () => {
  it('stands with that line, in a pool only between two of its lines', () => {
    const { lines, layout } = laid('10 11 11 20')
    expect([0, 1, 2, 3, 4].map((at) => standBefore(lines, at, layout))).toEqual([
      { part: 1, pool: 0 },
      { part: 1, pool: 0 },
      { part: 1, pool: 1 },
      { part: 2, pool: 0 },
      { part: 2, pool: 0 },
    ])
  })
})

describe('parts', () => {
  it('begin with all lines, and then at a line', () => {
    const one = withPart(laid('00 00 00 00', 0), 'By hand', 3)
    expect(places(one)).toBe('10 10 10 10')
    const two = withPart(one, 'With a calculator', 3)
    expect(places(two)).toBe('10 10 20 20')
    const three = withPart(two, 'In between', 2)
    expect(places(three)).toBe('10 20 30 30')
    expect(three.layout.parts.map((p) => p.title)).toEqual(['By hand', 'In between', 'With a calculator'])
    expect(places(withPart(two, 'Empty yet', 5))).toBe('10 10 20 20')
  })

  it('begin elsewhere, and end', () => {
    const two = laid('10 10 20 20')
    expect([1, 2, 3].map((p) => beginsAt(two.lines, p))).toEqual([1, 3, 5])
    expect(places(beginning(two, 2, 2))).toBe('10 20 20 20')
    expect(places(beginning(two, 2, 4))).toBe('10 10 10 20')
    expect(places(withoutPart(two, 1))).toBe('10 10 10 10')
    expect(places(withoutPart(two, 2))).toBe('10 10 10 10')
    expect(places(withoutPart(laid('10 10', 1), 1))).toBe('00 00')
  })
})

describe('pools', () => {
  it('gather their lines behind the first of them', () => {
    const pooled = withPool(laid('10 10 20 20', 2, 0), [2, 4], 1)
    expect(ids(pooled)).toEqual([1, 2, 4, 3])
    expect(places(pooled)).toBe('10 11 11 20')
  })

  it('are not made in the midst of another', () => {
    const pooled = withPool(laid('10 11 11 11', 2, 1), [3], 1)
    expect(ids(pooled)).toEqual([1, 3, 2, 4])
    expect(places(pooled)).toBe('10 12 11 11')
  })

  it('end with their lines where they were', () => {
    expect(places(withoutPool(laid('11 11 12 10', 2, 2), 1))).toBe('10 10 11 10')
  })
})

it('shows the heads of parts and pools between the lines, empty parts too', () => {
  const { lines, layout } = laid('10 11 11 30', 4)
  const shown = entries(
    lines.map((l) => ({ part: l.part!, pool: l.pool! })),
    layout,
  )
  expect(shown.map((e) => (e.is === 'line' ? e.at + 1 : `${e.is} ${e.number}`))).toEqual([
    'part 1',
    1,
    'pool 1',
    2,
    3,
    'part 2',
    'part 3',
    4,
    'part 4',
  ])
})
