import { describe, expect, it } from 'vitest'
import {
  filledFrom,
  keyAfter,
  keyTyped,
  labelSet,
  labelText,
  lacks,
  pastedKeys,
  questionsOf,
  withStandard,
  type Question,
} from './keyGrid'

const choice = (labels: string[], kind = 'single-choice'): Question => ({
  number: '1',
  kind,
  labels,
  key: [],
  points: 1,
  standards: [],
})

describe('labels', () => {
  it.each<[string, string[]]>([
    ['A–D', ['A', 'B', 'C', 'D']],
    ['F-J', ['F', 'G', 'H', 'J']],
    ['A to L', [...'ABCDEFGHIJKL']],
    ['1–4', ['1', '2', '3', '4']],
    ['true, false, not said', ['true', 'false', 'not said']],
  ])('%s are read, and come back', (text, labels) => {
    expect(labelSet(text)).toEqual(labels)
    expect(labelSet(labelText(labels))).toEqual(labels)
  })

  it('take turns on even numbers', () => {
    const q = questionsOf(
      [
        { count: 3, kind: 'single-choice', labels: 'A–D', turns: 'F–J', points: 1 },
        { count: 1, kind: 'number', labels: '', turns: '', points: 2 },
      ],
      5,
    )
    expect(q.map((x) => [x.number, labelText(x.labels), x.points])).toEqual([
      ['5', 'A–D', 1],
      ['6', 'F–J', 1],
      ['7', 'A–D', 1],
      ['8', '', 2],
    ])
  })
})

describe('a key', () => {
  it('takes one press for a single choice', () => {
    expect(keyAfter(choice(['A', 'B', 'C']), 'b')).toEqual(['B'])
    expect(keyAfter(choice(['true', 'false']), 'f')).toEqual(['false'])
    expect(keyAfter(choice(['true', 'toward']), 't')).toBeUndefined()
    expect(keyAfter(choice(['A', 'B']), 'x')).toBeUndefined()
  })

  it('takes presses in and out for several, in the order of the labels', () => {
    const q = choice(['A', 'B', 'C'], 'multiple-choice')
    q.key = keyAfter(q, 'c')!
    q.key = keyAfter(q, 'a')!
    expect(q.key).toEqual(['A', 'C'])
    expect(keyAfter(q, 'c')).toEqual(['A'])
  })

  it.each<[string, Question, string, string[] | undefined]>([
    ['several letters', choice(['A', 'B', 'C'], 'multiple-choice'), 'CA', ['A', 'C']],
    ['several words', choice(['ebb', 'flood', 'slack'], 'multiple-choice'), 'slack, ebb', ['ebb', 'slack']],
    ['two for a single choice', choice(['A', 'B']), 'AB', undefined],
    ['equal spellings of a number', { ...choice([]), kind: 'number' }, '3/4; 0.75', ['3/4', '0.75']],
    ['nothing', choice(['A', 'B']), '  ', []],
  ])('is typed whole: %s', (_, q, text, want) => {
    expect(keyTyped(q, text)).toEqual(want)
  })

  it('is pasted as a string of letters, and says what it did not understand', () => {
    const all = questionsOf([{ count: 5, kind: 'single-choice', labels: 'A–D', turns: '', points: 1 }], 1)
    const { questions, strange } = pastedKeys(all, 1, 'BXD A')
    expect(questions.map((q) => q.key.join(''))).toEqual(['', 'B', '', 'D', 'A'])
    expect(strange).toEqual(['3: X'])
  })

  it('is pasted as a column, past written answers', () => {
    const all = questionsOf(
      [
        { count: 2, kind: 'single-choice', labels: 'A–D', turns: '', points: 1 },
        { count: 1, kind: 'short-written', labels: '', turns: '', points: 3 },
        { count: 1, kind: 'number', labels: '', turns: '', points: 1 },
      ],
      1,
    )
    const { questions } = pastedKeys(all, 0, 'C\r\nD\r\n\r\n12.5\r\n')
    expect(questions.map((q) => q.key)).toEqual([['C'], ['D'], [], ['12.5']])
  })
})

describe('a pasted table', () => {
  const four = () => questionsOf([{ count: 4, kind: 'single-choice', labels: 'A–D', turns: '', points: 1 }], 1)
  const told = (list: Question[]) => list.map((q) => [q.key.join(''), q.points, ...q.standards].join(' '))

  it('lands in its columns: key, points, standard', () => {
    const { questions, strange } = pastedKeys(four(), 1, 'B\t2\tM6.RR\nC\t\tM6.NS\nQ\t0\tM6.NS\tM6.RR\n')
    expect(told(questions)).toEqual([' 1', 'B 2 M6.RR', 'C 1 M6.NS', ' 1 M6.NS M6.RR'])
    expect(strange).toEqual(['4: Q', '4: 0'])
  })

  it('with a first row that names them goes where it says, past the numbers', () => {
    const { questions, strange } = pastedKeys(four(), 0, 'No.\tStandard\tAnswer\tPts\n1\tM6.RR\tD\t3\n2\tM6.NS\tA\t1\n')
    expect(told(questions).slice(0, 2)).toEqual(['D 3 M6.RR', 'A 1 M6.NS'])
    expect(strange).toEqual([])
  })

  it('of one line is a row where points follow the key, else a key a cell', () => {
    expect(told(pastedKeys(four(), 0, 'B\t2\tM6.RR').questions)[0]).toBe('B 2 M6.RR')
    expect(told(pastedKeys(four(), 0, 'B\tC\tD').questions).slice(0, 3)).toEqual(['B 1', 'C 1', 'D 1'])
  })

  it('from a column on fills that column down', () => {
    expect(told(pastedKeys(four(), 1, 'M6.RR\nM6.NS\n', 'standard').questions)).toEqual([' 1', ' 1 M6.RR', ' 1 M6.NS', ' 1'])
    expect(told(pastedKeys(four(), 0, '2\tM6.RR\n3\tM6.NS', 'points').questions).slice(0, 2)).toEqual([' 2 M6.RR', ' 3 M6.NS'])
  })

  it('longer than the questions ends with them', () => {
    expect(pastedKeys(four(), 3, 'A\nB\nC\n').questions.map((q) => q.key.join(''))).toEqual(['', '', '', 'A'])
  })
})

describe('filling down', () => {
  it('copies what stands above, where it can', () => {
    const above = { ...choice(['A', 'B']), key: ['A'], points: 3, standards: ['M6.RR', 'M6.NS'] }
    expect(filledFrom(above, choice(['A', 'B']), 'key').key).toEqual(['A'])
    expect(filledFrom(above, choice(['F', 'G']), 'key').key).toEqual([])
    expect(filledFrom(above, choice([]), 'points').points).toBe(3)
    expect(filledFrom(above, choice([]), 'standard').standards).toEqual(['M6.RR'])
    expect(filledFrom(above, withStandard(choice([]), 0, 'M6.EX'), 'second').standards).toEqual(['M6.EX', 'M6.NS'])
  })

  it('leaves no gap between two standards', () => {
    expect(withStandard(choice([]), 1, 'M6.NS').standards).toEqual(['M6.NS'])
    expect(lacks(choice(['A', 'B']))).toEqual(['key', 'standard'])
  })

  it('asks for a rubric where an extended answer is read', () => {
    expect(lacks({ ...choice([]), kind: 'short-written', standards: ['M6'] })).toEqual([])
    const long = { ...choice([]), kind: 'extended-written', standards: ['M6'] }
    expect(lacks(long)).toEqual(['key'])
    expect(lacks({ ...long, rubric: { traits: [{ name: 'Reasons', levels: [] }] } })).toEqual([])
  })
})
