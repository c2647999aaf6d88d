import { describe, expect, it } from 'vitest'
import type { Sheet } from '@/places/assessments/lines/lines'
import { picture } from './picture'

const row = (standards: string[], min: number, depth?: number[], byPoints = false) =>
  ({
    title: '',
    filter: { standards, depth },
    byPoints,
    min,
    max: min,
    placed: 0,
    balance: 0,
  }) as unknown as Sheet['rows'][number]
const line = (claimed: number, depth: number, standard = 'M6.FS') =>
  ({ row: claimed, depth, standards: [standard] }) as unknown as Sheet['lines'][number]

describe('the picture of a blueprint', () => {
  const drawn = picture({
    rows: [row(['M6.RR'], 3, [2]), row(['M6.RR'], 2), row(['M6.NS'], 8, undefined, true)],
    lines: [line(0, 2), line(1, 3), line(-1, 0)],
  } as unknown as Sheet)

  it('adds up what is planned for a standard, at its depth or at any', () => {
    const ratio = drawn.rows[0]!
    expect([ratio.name, ratio.planned, ratio.placed]).toEqual(['M6.RR', 5, 2])
    expect(ratio.cells.map((c) => c.planned)).toEqual([0, 3, 0, 0, 2])
    expect(ratio.cells.map((c) => c.placed)).toEqual([0, 1, 1, 0, 0])
  })

  it('shows a line that no row claims by its own standard, and leaves rows in points out', () => {
    expect(drawn.rows.map((r) => r.name)).toEqual(['M6.RR', 'M6.FS'])
    expect(drawn.rows[1]!.cells[4]).toEqual({ planned: 0, placed: 1 })
    expect(drawn.most).toBe(3)
  })
})
