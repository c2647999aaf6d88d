import { describe, expect, it } from 'vitest'
import { nothing, readQuery, searchParams, writeQuery } from './useBankQuery'

describe('the search in the address', () => {
  it('is read back as it was written', () => {
    const q = readQuery({
      words: 'tide table',
      standard: '12',
      sort: 'lastUse',
      kind: ['number', 'single-choice'],
      grade: '06',
      tag: ['calculator', 'tide'],
      usesTo: '0',
      notUsedSince: '2026-01-31',
      unaligned: 'true',
      unlinked: 'true',
      owner: '7',
    })
    expect(q.facets.kind).toEqual(['number', 'single-choice'])
    expect(q.usesTo).toBe(0)
    expect(q.tags).toEqual(['calculator', 'tide'])
    expect(readQuery(writeQuery(q))).toEqual(q)
  })

  it('leaves out what does not restrict', () => {
    expect(writeQuery(readQuery({ sort: 'newest', words: '' }))).toEqual({})
    expect(writeQuery({ ...nothing, sort: 'newest' })).toEqual({})
  })

  it('takes nonsense as no restriction', () => {
    const q = readQuery({ standard: 'x', sort: 'sideways', usesFrom: '-1', usedSince: 'yesterday', unaligned: 'maybe' })
    expect(q).toEqual({ ...nothing, sort: 'newest' })
  })

  it('asks the contract for the same', () => {
    const params = searchParams(readQuery({ words: 'tide', depth: ['2', '3'], tag: 'x' }))
    expect(params).toMatchObject({ words: 'tide', depth: [2, 3], tag: ['x'] })
    expect(params.usedSince).toBeUndefined()
  })
})
