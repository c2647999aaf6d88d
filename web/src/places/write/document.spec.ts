import { describe, expect, it } from 'vitest'
import { menuText, pieces, readMenus, readSelection, selectionText } from './brackets'
import { addChoice, dropChoice, keyAsResponse, moveChoice, nextId, partsOf, setKey, type ItemDocument } from './document'
import { placeName } from './places'

function choice(kind = 'single-choice'): ItemDocument {
  return {
    kind,
    credit: 'all-or-nothing',
    body: [
      { html: 'Which?' },
      {
        interaction: {
          response: 'R',
          maxChoices: 1,
          choices: [
            { id: 'A', html: 'a' },
            { id: 'B', html: 'b' },
          ],
        },
      },
    ],
    declarations: [{ response: 'R', correct: ['B'] }],
  }
}
const first = (doc: ItemDocument) => partsOf(doc)[0]!

describe('the document of an item', () => {
  it('gives new choices a letter that none has', () => {
    expect(nextId([])).toBe('A')
    expect(nextId([{ id: 'A' }, { id: 'C' }])).toBe('B')
    expect(nextId(Array.from({ length: 26 }, (_, i) => ({ id: String.fromCharCode(65 + i) })))).toBe('AA')
    expect(nextId([{ id: 'T1' }], 'T')).toBe('T2')
  })

  it('keeps key, feedback and languages in step with the choices', () => {
    const doc = choice()
    doc.feedback = { byAnswers: [{ response: 'R', value: 'B', html: 'x' }] }
    doc.variants = [{ language: 'es', body: structuredClone(doc.body) }]
    addChoice(doc, first(doc), 'choices')
    moveChoice(doc, first(doc), 'choices', 2, 0)
    const there = () => doc.variants![0]!.body[1]!.interaction!.choices!.map((c) => c.id)
    expect(first(doc).place.choices!.map((c) => c.id)).toEqual(['C', 'A', 'B'])
    expect(there()).toEqual(['C', 'A', 'B'])
    moveChoice(doc, first(doc), 'choices', 0, -1)
    dropChoice(doc, first(doc), 'choices', 'B')
    expect(there()).toEqual(['C', 'A'])
    expect(first(doc).key.correct).toEqual([])
    expect(doc.feedback.byAnswers).toEqual([])
  })

  it('takes an answer as the key', () => {
    const doc = choice()
    expect(keyAsResponse(doc)).toEqual({ R: ['B'] })
    setKey(doc, { R: ['A'] })
    expect(doc.declarations[0]!.correct).toEqual(['A'])
  })

  it('takes a typed answer as the first of those accepted', () => {
    const doc = choice('number')
    doc.declarations[0]!.correct = ['1/2', '0.5']
    expect(keyAsResponse(doc)).toEqual({ R: ['1/2'] })
    setKey(doc, { R: ['2/4'] })
    expect(doc.declarations[0]!.correct).toEqual(['2/4', '0.5'])
    setKey(doc, { R: [] })
    expect(doc.declarations[0]!.correct).toEqual(['0.5'])
  })

  it('makes areas of spots, and moves the only one', () => {
    const doc = choice('spot')
    doc.body[1]!.interaction = {
      response: 'R',
      maxChoices: 1,
      picture: { source: '/media/x', alt: 'x', width: 400, height: 200 },
    }
    setKey(doc, { R: ['100 50'] })
    expect(doc.declarations[0]!.areas).toEqual([{ shape: 'circle', at: [100, 50, 20] }])
    doc.declarations[0]!.areas![0]!.at[2] = 33
    setKey(doc, { R: ['120 60'] })
    expect(doc.declarations[0]!.areas).toEqual([{ shape: 'circle', at: [120, 60, 33] }])
    doc.body[1]!.interaction.maxChoices = 0
    setKey(doc, { R: ['120 60', '10 10'] })
    expect(doc.declarations[0]!.areas).toHaveLength(2)
    expect(keyAsResponse(doc)).toEqual({ R: ['120 60', '10 10'] })
  })

  it('tells the parts of an item apart', () => {
    const doc = choice('parts')
    doc.body[1]!.interaction!.kind = 'single-choice'
    expect(first(doc)).toMatchObject({ kind: 'single-choice', at: 0 })
    setKey(doc, {})
    expect(first(doc).key.correct).toEqual([])
  })
})

it('names places as an author does', () => {
  expect(
    [
      'body[0]',
      'choices[2]',
      'parts[1].choices[1]',
      'targets[0]',
      'declarations[0].rubric.traits[0]',
      'parts[0].declarations[0].correct',
      'standards',
      'variants[0].body',
    ].map(placeName),
  ).toEqual(['Question', 'Choice C', 'Part 2, choice B', 'Target 1', 'Rubric', 'Part 1, key', 'Standards', 'Spanish'])
})

describe('a text with brackets', () => {
  it('is parted at brackets that are closed', () => {
    expect(pieces('The [tide] rose [twice')).toEqual([
      { text: 'The ', inside: false },
      { text: 'tide', inside: true },
      { text: ' rose ', inside: false },
      { text: '[twice', inside: false },
    ])
  })

  it('keeps the key of what can be selected while other words change', () => {
    const place = { response: 'R', choices: [] }
    const key = { response: 'R', correct: [] as string[] }
    readSelection('The [tide] & [moon] rose', place, key)
    key.correct = ['B']
    readSelection('Then the [tide] & the [moon] rose [twice]', place, key)
    expect(selectionText(place.choices)).toBe('Then the [tide] & the [moon] rose [twice]')
    expect(key.correct).toEqual(['B'])
    readSelection('The [tide]', place, key)
    expect(key.correct).toEqual([])
  })

  it('makes menus and keeps their right words', () => {
    const place = { response: 'R' } as Parameters<typeof readMenus>[1]
    const key = { response: 'R', correct: [] as string[] }
    readMenus('The tide [rises|falls] and [ebbs|flows].', place, key)
    key.correct = ['A G1', 'D G2']
    readMenus('The tide [sinks|rises|falls] and [ebbs|flows].', place, key)
    expect(key.correct).toEqual(['B G1', 'E G2'])
    expect(menuText(place)).toBe('The tide [sinks|rises|falls] and [ebbs|flows].')
  })
})
