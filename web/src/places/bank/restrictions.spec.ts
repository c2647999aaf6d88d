import { describe, expect, it } from 'vitest'
import { restrictions } from './restrictions'
import { nothing, readQuery, writeQuery } from './useBankQuery'

describe('what restricts a search', () => {
  const q = readQuery({
    standard: '12',
    grade: ['06', '07'],
    ease: 'hard',
    tag: 'ferry',
    passage: '3',
    owner: '7',
    usesFrom: '1',
    usesTo: '0',
    usedSince: '2026-07-01',
    notUsedSince: '2026-08-01',
    unaligned: 'true',
  })

  it('is named, each by itself', () => {
    expect(restrictions(q, 7).map((r) => r.label)).toEqual([
      'the chosen standard',
      'aligned to nothing',
      'grade 6',
      'grade 7',
      'hard, below .40',
      'tag ferry',
      'with one passage',
      'my items',
      'on 1 or more forms',
      'never used',
      'used since 2026-07-01',
      'not used since 2026-08-01',
    ])
    expect(restrictions(q, 8).map((r) => r.label)).toContain('of one owner')
  })

  it('is lifted one by one until nothing is left', () => {
    let left = q
    for (let rest = restrictions(left, 7); rest.length; rest = restrictions(left, 7)) {
      left = { ...left, ...rest[0]!.without }
      expect(restrictions(left, 7)).toHaveLength(rest.length - 1)
    }
    expect(writeQuery(left)).toEqual(writeQuery({ ...nothing, sort: 'newest' }))
  })
})
