import type { Declaration, DocumentPlace } from './document'

/** The kinds that one of several parts can have. */
export const partKinds = [
  'single-choice',
  'multiple-choice',
  'true-false',
  'order',
  'match',
  'sort',
  'box-table',
  'text',
  'number',
  'number-line',
  'select-text',
  'menus',
  'spot',
  'short-written',
]

/** A place to answer with nothing in it yet. Whole items begin on the server; a part begins here. */
export function blankPart(kind: string, response: string): { place: DocumentPlace; key: Declaration } {
  const place: DocumentPlace = { response, kind }
  const key: Declaration = { response, correct: [], credit: 'all-or-nothing' }
  const choices = (n: number, most?: number) =>
    Array.from({ length: n }, (_, i) => ({ id: String.fromCharCode(65 + i), html: '', most }))
  const targets = (n: number, most?: number) => Array.from({ length: n }, (_, i) => ({ id: `T${i + 1}`, html: '', most }))
  switch (kind) {
    case 'single-choice':
      return { place: { ...place, choices: choices(4), maxChoices: 1 }, key }
    case 'multiple-choice':
      return { place: { ...place, choices: choices(4) }, key }
    case 'true-false': {
      const both = ['true', 'false'].map((id) => ({ id, html: id === 'true' ? 'True' : 'False' }))
      return { place: { ...place, choices: both, maxChoices: 1 }, key }
    }
    case 'order':
      return { place: { ...place, choices: choices(3) }, key }
    case 'match':
    case 'sort':
    case 'box-table':
      return {
        place: { ...place, choices: choices(3, 1), targets: targets(2, kind === 'match' ? 1 : undefined) },
        key: { ...key, credit: 'per-part' },
      }
    case 'text':
      return { place, key: { ...key, text: {} } }
    case 'number':
      return { place, key: { ...key, number: {} } }
    case 'number-line':
      return { place: { ...place, line: { from: '0', to: '10', step: '1', labels: 1 } }, key: { ...key, number: {} } }
    case 'spot':
      return {
        place: { ...place, maxChoices: 1, picture: { source: '', alt: '', width: 0, height: 0 } },
        key: { ...key, areas: [] },
      }
    case 'short-written':
      return { place: { ...place, rows: 3 }, key: { ...key, credit: 'by-reader' } }
    default: // select-text, menus: their text is typed
      return { place, key: { ...key, credit: kind === 'menus' ? 'per-part' : 'all-or-nothing' } }
  }
}
