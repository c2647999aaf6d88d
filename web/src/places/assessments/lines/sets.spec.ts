import { describe, expect, it } from 'vitest'
import { movedSet, setAt, splitOff, steppedSet } from './sets'
import type { Arrangement } from './layout'

/** Lines by item, each with the passage that its letter names, '.' for none: 'a1 a2 .3'; after a slash the part. */
function laid(text: string): { now: Arrangement; passageOf: (item: number) => number } {
  const passages = new Map<number, number>()
  const lines = text.split(' ').map((word) => {
    const [, passage, item, part] = /^(.)(\d+)(?:\/(\d))?$/.exec(word)!
    passages.set(Number(item), passage === '.' ? 0 : passage!.charCodeAt(0))
    return { itemId: Number(item), points: 1, part: Number(part ?? 0), pool: 0 }
  })
  const part = (title: string) => ({ title, directions: '', calculator: false })
  const parts = text.includes('/') ? [part('One'), part('Two')] : []
  return { now: { lines, layout: { parts, pools: [] } }, passageOf: (item) => passages.get(item) ?? 0 }
}
const ids = (lines: { itemId: number }[]) => lines.map((l) => l.itemId).join(' ')

describe('the set of a passage', () => {
  it('is what stands together of it', () => {
    const { now, passageOf } = laid('.1 a2 a3 b4 a5')
    expect([0, 1, 2, 3, 4].map((at) => setAt(now.lines, at, passageOf).join('–'))).toEqual(['0–1', '1–3', '1–3', '3–4', '4–5'])
  })

  it('ends where a part ends', () => {
    const { now, passageOf } = laid('a1/1 a2/1 a3/2')
    expect(setAt(now.lines, 0, passageOf)).toEqual([0, 2])
  })

  it('moves as one by steps, and lines change places within it', () => {
    const { now, passageOf } = laid('.1 a2 a3 .4')
    expect(ids(steppedSet(now, 1, -1, passageOf)!.lines)).toBe('2 3 1 4')
    expect(ids(steppedSet(now, 1, 1, passageOf)!.lines)).toBe('1 3 2 4')
    const down = steppedSet(now, 2, 1, passageOf)!
    expect(ids(down.lines)).toBe('1 4 2 3')
    expect(down.at, 'the line in hand is where it went').toBe(3)
  })

  it('is stepped past whole', () => {
    const { now, passageOf } = laid('.1 a2 a3 b4 b5')
    expect(ids(steppedSet(now, 0, 1, passageOf)!.lines)).toBe('2 3 1 4 5')
    expect(ids(steppedSet(now, 4, 1, passageOf)?.lines ?? [])).toBe('')
    expect(ids(steppedSet(now, 3, -1, passageOf)!.lines)).toBe('1 4 5 2 3')
  })

  it('goes into the next part as one', () => {
    const { now, passageOf } = laid('.1/1 a2/1 a3/1 .4/2')
    const next = steppedSet(now, 2, 1, passageOf)!
    expect(next.lines.map((l) => `${l.itemId}/${l.part}`)).toEqual(['1/1', '2/2', '3/2', '4/2'])
  })

  it('is dragged as one, and nothing is dropped into the midst of it', () => {
    const { now, passageOf } = laid('.1 a2 a3 .4 .5')
    const there = { part: 0, pool: 0 }
    expect(ids(movedSet(now.lines, 1, 4, there, passageOf))).toBe('1 4 5 2 3')
    expect(ids(movedSet(now.lines, 2, 0, there, passageOf))).toBe('2 3 1 4 5')
    expect(ids(movedSet(now.lines, 1, 2, there, passageOf)), 'within it').toBe('1 3 2 4 5')
    expect(ids(movedSet(now.lines, 4, 2, there, passageOf))).toBe('1 2 3 5 4')
    expect(ids(movedSet(now.lines, 0, 4, there, passageOf))).toBe('2 3 4 5 1')
    expect(movedSet(now.lines, -1, 2, there, passageOf), 'a line that is gone by now moves no other').toBe(now.lines)
  })

  it('is split on purpose only', () => {
    const { now, passageOf } = laid('.1 a2 a3 b4 b5')
    expect(ids(splitOff(now.lines, 2, passageOf))).toBe('1 3 4 5 2')
    expect(ids(splitOff(now.lines, 5, passageOf))).toBe('1 5 2 3 4')
    const whole = laid('a1 a2').now.lines
    expect(
      splitOff(whole, 1, () => 7),
      'there is nothing to stand behind',
    ).toBe(whole)
    expect(splitOff(now.lines, 1, passageOf), 'a line by itself').toBe(now.lines)
  })
})
