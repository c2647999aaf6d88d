import type { Schemas } from '@/contract/client'

/** A question of a keyed document as it is typed. */
export type Question = Omit<Schemas['KeyRow'], 'itemId'>

/** So many questions of one sort, in a row. */
export interface Block {
  count: number
  kind: string
  labels: string
  /** Labels of every second question, as where A–D and F–J take turns; '' for none. */
  turns: string
  points: number
}

export const keyedKinds = ['single-choice', 'multiple-choice', 'number', 'text', 'short-written', 'extended-written']
export const isChosen = (q: { kind: string }) => q.kind === 'single-choice' || q.kind === 'multiple-choice'
export const isWritten = (q: { kind: string }) => q.kind === 'short-written' || q.kind === 'extended-written'

/** Labels as they are typed: a range of letters or numbers, or words with commas between them. F–J leaves I out, as is usual. */
export function labelSet(text: string): string[] {
  const range = /^([A-Za-z]|\d+)\s*(?:–|-|to)\s*([A-Za-z]|\d+)$/.exec(text.trim())
  if (!range)
    return text
      .split(/[,;]+/)
      .map((t) => t.trim())
      .filter(Boolean)
  const [, from, to] = range as unknown as [string, string, string]
  if (/\d/.test(from)) {
    const [a, b] = [Number(from), Number(to)]
    return b >= a && b - a < 60 ? Array.from({ length: b - a + 1 }, (_, i) => String(a + i)) : []
  }
  const letters: string[] = []
  for (let c = from.charCodeAt(0); c <= to.charCodeAt(0) && letters.length < 60; c++) letters.push(String.fromCharCode(c))
  return from.toUpperCase() === 'F' && to.toUpperCase() === 'J' ? letters.filter((l) => l.toUpperCase() !== 'I') : letters
}

/** A label set as one would type it. */
export function labelText(labels: string[]): string {
  if (labels.join() === 'F,G,H,J') return 'F–J'
  const run = labels.length > 2 && labels.every((l, i) => l.length === 1 && l.charCodeAt(0) === labels[0]!.charCodeAt(0) + i)
  return run ? `${labels[0]}–${labels[labels.length - 1]}` : labels.join(', ')
}

/** The questions of some blocks, numbered on from those that are there. */
export function questionsOf(blocks: Block[], first: number): Question[] {
  const out: Question[] = []
  for (const b of blocks) {
    for (let i = 0; i < b.count; i++) {
      const labels = isChosen(b) ? labelSet(i % 2 && b.turns ? b.turns : b.labels) : []
      out.push({ number: String(first + out.length), kind: b.kind, labels, key: [], points: b.points, standards: [] })
    }
  }
  return out
}

/** The label that a key press means: the one it is, or the only one that begins with it. */
export function pressed(q: Question, letter: string): string | undefined {
  const typed = letter.toUpperCase()
  const exact = q.labels.find((l) => l.toUpperCase() === typed)
  const begun = q.labels.filter((l) => l.toUpperCase().startsWith(typed))
  return exact ?? (begun.length === 1 ? begun[0] : undefined)
}

/** The key after a press: a single choice takes it, a multiple one takes it in or out. Nothing where it is no label. */
export function keyAfter(q: Question, letter: string): string[] | undefined {
  const label = pressed(q, letter)
  if (label === undefined) return undefined
  if (q.kind === 'single-choice') return [label]
  const key = q.key.includes(label) ? q.key.filter((k) => k !== label) : [...q.key, label]
  return q.labels.filter((l) => key.includes(l))
}

/** A key as typed whole: labels of a choice, spellings of a number or word with ; between them. */
export function keyTyped(q: Question, text: string): string[] | undefined {
  const words = text.trim()
  if (!isChosen(q))
    return words
      .split(';')
      .map((t) => t.trim())
      .filter(Boolean)
  if (!words) return []
  const whole = pressed(q, words)
  if (whole) return [whole]
  const parts = /[,; ]/.test(words) ? words.split(/[,; ]+/) : [...words]
  const labels = parts.map((p) => pressed(q, p))
  if (labels.some((l) => l === undefined) || (q.kind === 'single-choice' && labels.length > 1)) return undefined
  return q.labels.filter((l) => labels.includes(l))
}

export type Column = 'key' | 'points' | 'standard' | 'second'
export const columns: Column[] = ['key', 'points', 'standard', 'second']

/** What the columns of a pasted table are called; numbers of questions are passed over. */
const heads: [RegExp, Column | 'number'][] = [
  [/^(no\.?|num|number|#|q|question)/i, 'number'],
  [/^(key|answer|correct)/i, 'key'],
  [/^(points?|pts?|worth|value)/i, 'points'],
  [/^(second|2nd)/i, 'second'],
  [/^(standards?|codes?|alignment)/i, 'standard'],
]
const headOf = (cell: string) => heads.find(([words]) => words.test(cell))?.[1]

/**
 * Lays a paste over the questions from one on, from a column on: a table of a spreadsheet with a question a
 * line, whose first row may name its columns; a column; or in the key a string with a letter a
 * question. Says what was not understood.
 */
export function pastedKeys(
  questions: Question[],
  at: number,
  text: string,
  from: Column = 'key',
): { questions: Question[]; strange: string[] } {
  const lines = text.replace(/\r/g, '').replace(/\n+$/, '').split('\n')
  const table = lines.map((line) => line.split('\t').map((cell) => cell.trim()))
  const out = questions.map((q) => ({ ...q }))
  const strange: string[] = []
  const lay = (q: Question | undefined, cells: string[], names: (Column | 'number' | undefined)[]) => {
    cells.forEach((cell, k) => {
      const problem = q && names[k] !== undefined && names[k] !== 'number' && put(q, names[k], cell)
      if (problem) strange.push(`${q.number}: ${problem}`)
    })
  }
  const named = table[0]!.filter(headOf).length > (table[0]!.length > 1 ? 1 : 0) && table.length > 1
  if (named || (lines.length > 1 && text.includes('\t')) || isRow(table, from) || from !== 'key') {
    const names = named ? table.shift()!.map(headOf) : columns.slice(columns.indexOf(from))
    table.forEach((cells, i) => lay(out[at + i], cells, names))
  } else {
    const tokens =
      lines.length > 1 || text.includes('\t')
        ? table.flat()
        : /[,;]/.test(text)
          ? text.split(/[,;]+/)
          : [...text.replace(/\s+/g, '')]
    tokens.forEach((token, i) => lay(out[at + i], [token], ['key']))
  }
  return { questions: out, strange }
}

/** Whether one line of cells is a question's key and points, not the keys of several questions. */
const isRow = (table: string[][], from: Column) =>
  from === 'key' &&
  table.length === 1 &&
  table[0]!.length > 1 &&
  /^\d+(\.\d+)?$/.test(table[0]![1]!) &&
  !/^\d/.test(table[0]![0]!)

/** Puts a pasted cell into a question; gives the words that it did not understand. */
function put(q: Question, column: Column, cell: string): string | undefined {
  if (column === 'key') {
    if (isWritten(q)) return undefined
    const key = keyTyped(q, cell)
    if (!key) return cell
    q.key = key
  } else if (column === 'points') {
    if (!cell) return undefined
    const points = Number(cell)
    if (!(points > 0 && points <= 100)) return cell
    q.points = points
  } else q.standards = withStandard(q, column === 'standard' ? 0 : 1, cell).standards
  return undefined
}

/** Gives a question what the one above it has in a column. */
export function filledFrom(above: Question, q: Question, column: Column): Question {
  switch (column) {
    case 'key':
      return isChosen(q) && above.key.some((k) => !q.labels.includes(k)) ? q : { ...q, key: [...above.key] }
    case 'points':
      return { ...q, points: above.points }
    case 'standard':
      return withStandard(q, 0, above.standards[0] ?? '')
    case 'second':
      return withStandard(q, 1, above.standards[1] ?? '')
  }
}

/** Sets the first or the second standard. A second one without a first becomes the first. */
export function withStandard(q: Question, place: 0 | 1, code: string): Question {
  const standards = [q.standards[0] ?? '', q.standards[1] ?? '']
  standards[place] = code
  return { ...q, standards: standards.filter(Boolean) }
}

/** What a question still lacks, in words. */
export function lacks(q: Question): string[] {
  const out: string[] = []
  if (isWritten(q) ? q.kind === 'extended-written' && !q.rubric?.traits.length : !q.key.length) out.push('key')
  if (!q.standards.length) out.push('standard')
  return out
}
