import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/contract/client'
import { booklet } from './booklet'

const line = (passage = '', part = 0, pool = 0) => ({ passage, part, pool, identifier: 'x' }) as Schemas['PrintedLine']
const tides = { identifier: 'tides', title: 'Tides', body: '' }
const none = { parts: [], pools: [] }

describe('a booklet', () => {
  it('puts a passage once before the lines that hang on it, and numbers on', () => {
    const groups = booklet({ lines: [line(), line('tides'), line('tides'), line()], passages: [tides], layout: none }, false)
    expect(groups.map((g) => [g.passage?.title, g.lines.map((l) => l.number)])).toEqual([
      [undefined, [1]],
      ['Tides', [2, 3]],
      [undefined, [4]],
    ])
  })

  it('shows a passage again where other lines came between', () => {
    const groups = booklet({ lines: [line('tides'), line(), line('tides')], passages: [tides], layout: none }, false)
    expect(groups.map((g) => !!g.passage)).toEqual([true, false, true])
  })

  it('begins parts and pools with their heads, and a part with its passage', () => {
    const parts = ['By hand', 'With a calculator'].map((title) => ({ title, directions: '', calculator: false }))
    const lines = [line('tides', 1), line('tides', 2), line('tides', 2, 1), line('tides', 2, 1)]
    const printed = { lines, passages: [tides], layout: { parts, pools: [{ title: '', choose: 1 }] } }
    expect(booklet(printed, false).map((g) => [g.part?.title, g.pool, g.passage?.title, g.lines.length])).toEqual([
      ['By hand', undefined, 'Tides', 1],
      ['With a calculator', undefined, 'Tides', 1],
      [undefined, { choose: 1, lines: 2 }, undefined, 2],
    ])
    expect(booklet(printed, true).map((g) => [g.part?.title, g.pool, g.lines.length])).toEqual([
      ['By hand', undefined, 1],
      ['With a calculator', undefined, 3],
    ])
  })
})
