import { describe, expect, it } from 'vitest'
import { blank, cellsOf, pasted, readCells, type Cells } from './blueprintCells'

const known = (code: string) => code.startsWith('M6')
const read = (cells: Partial<Cells>) => readCells({ ...blank(), count: '3', ...cells }, known)

describe('the cells of a blueprint row', () => {
  it.each<[string, Partial<Cells>, object]>([
    ['several standards', { standards: 'M6.RR, M6.NS;M6.EX' }, { filter: { standards: ['M6.RR', 'M6.NS', 'M6.EX'] } }],
    [
      'kinds by the beginning of their names',
      { kinds: 'single, typed number' },
      { filter: { kinds: ['single-choice', 'number'] } },
    ],
    ['depths one by one and as a range', { depth: '1, 3–4' }, { filter: { depth: [1, 3, 4] } }],
    ['a range of p-values', { difficulty: '.4–.725' }, { filter: { difficulty: [400, 725] } }],
    ['a label of difficulty', { difficulty: 'Easy' }, { filter: { ease: 'easy' } }],
    ['tags in and out', { tags: 'tides, not draft' }, { filter: { tags: ['tides'], without: ['draft'] } }],
    ['banks', { banks: 'Harbor, old; Quarry' }, { filter: { banks: ['Harbor, old', 'Quarry'] } }],
    ['a number of items', { count: '4' }, { byPoints: false, min: 4, max: 4 }],
    ['a range of items', { count: '3 to 5' }, { byPoints: false, min: 3, max: 5 }],
    ['points', { count: '7.5–8 pt' }, { byPoints: true, min: 7.5, max: 8 }],
  ])('say %s', (_, cells, want) => {
    const { row, faults } = read(cells)
    expect(faults).toEqual({})
    expect(row).toMatchObject(want)
  })

  it.each<[string, Partial<Cells>, keyof Cells]>([
    ['a standard that is none', { standards: 'M6.RR Z1' }, 'standards'],
    ['a kind that is none', { kinds: 'riddle' }, 'kinds'],
    ['the beginning of several kinds', { kinds: 'm' }, 'kinds'],
    ['a depth that is none', { depth: '5' }, 'depth'],
    ['a difficulty above 1', { difficulty: '40–70' }, 'difficulty'],
    ['half an item', { count: '2.5' }, 'count'],
    ['nothing', { count: '' }, 'count'],
    ['a range the wrong way round', { count: '5–3' }, 'count'],
  ])('refuse %s, by name', (_, cells, cell) => {
    expect(Object.keys(read(cells).faults)).toEqual([cell])
  })

  it('come back as they were', () => {
    for (const cells of [
      {
        standards: 'M6.RR, M6.NS',
        kinds: 'typed number',
        depth: '2–3',
        difficulty: '.4–.725',
        tags: 'tides, not draft',
        banks: 'Harbor, old; Quarry',
        language: 'es',
        count: '3–5',
        title: 'Ratio',
      },
      { ...blank(), depth: '1, 4', difficulty: '0–1', count: '7.5 points' },
    ]) {
      expect(cellsOf(readCells(cells, known).row)).toEqual(cells)
    }
  })

  it('take what was copied from a spreadsheet, and grow', () => {
    const rows = pasted(
      [{ ...blank(), title: 'first', count: '1' }],
      0,
      'standards',
      'M6.RR\tsingle choice\t2\r\nM6.NS\t\t3\n',
      known,
    )
    expect(rows).toHaveLength(2)
    expect(rows[0]).toMatchObject({ standards: 'M6.RR', kinds: 'single choice', depth: '2', title: 'first', count: '1' })
    expect(rows[1]).toMatchObject({ standards: 'M6.NS', depth: '3' })
    const pair = pasted([], 0, 'standards', 'M6.RR\t4\nM6.NS\t3–5\n', known)
    expect(pair.map((r) => [r.standards, r.count, r.kinds])).toEqual([
      ['M6.RR', '4', ''],
      ['M6.NS', '3–5', ''],
    ])
    const named = pasted([], 0, 'standards', 'Name\tStandard\tDOK\tItems\nRatio\tM6.RR\t2\t6\n', known)
    expect(named).toEqual([{ ...blank(), title: 'Ratio', standards: 'M6.RR', depth: '2', count: '6' }])
    expect(pasted([], 0, 'standards', 'M6.RR\tnumber', known)[0], 'a row whose code is known names no column').toMatchObject({
      standards: 'M6.RR',
      kinds: 'number',
    })
    expect(pasted(rows, 1, 'count', '4\tNumbers\tbeyond', known)[1]).toMatchObject({ count: '4', title: 'Numbers' })
  })
})
