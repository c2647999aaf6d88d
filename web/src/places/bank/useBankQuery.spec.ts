import { describe, expect, it } from 'vitest'
import { readQuery, writeQuery } from './useBankQuery'

describe('the search in the address', () => {
  it('is read back as it was written', () => {
    const q = readQuery({ words: 'tide table', standard: '12', sort: 'uses', kind: ['number', 'single-choice'], grade: '06' })
    expect(q.facets.kind).toEqual(['number', 'single-choice'])
    expect(readQuery(writeQuery(q))).toEqual(q)
  })

  it('leaves out what does not restrict', () => {
    expect(writeQuery(readQuery({ sort: 'newest', words: '' }))).toEqual({})
  })

  it('takes nonsense as no restriction', () => {
    const q = readQuery({ standard: 'x', sort: 'sideways' })
    expect(q.standard).toBeUndefined()
    expect(q.sort).toBe('newest')
  })
})
