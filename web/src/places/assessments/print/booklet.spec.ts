import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/contract/client'
import { booklet } from './booklet'

const line = (passage = '') => ({ passage, identifier: 'x' }) as Schemas['PrintedLine']
const tides = { identifier: 'tides', title: 'Tides', body: '' }

describe('a booklet', () => {
  it('puts a passage once before the lines that hang on it, and numbers on', () => {
    const groups = booklet([line(), line('tides'), line('tides'), line()], [tides])
    expect(groups.map((g) => [g.passage?.title, g.lines.map((l) => l.number)])).toEqual([
      [undefined, [1]],
      ['Tides', [2, 3]],
      [undefined, [4]],
    ])
  })

  it('shows a passage again where other lines came between', () => {
    expect(booklet([line('tides'), line(), line('tides')], [tides]).map((g) => !!g.passage)).toEqual([true, false, true])
  })
})
