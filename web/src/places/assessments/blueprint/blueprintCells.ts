import { kindName, kindNames } from '@/contract/format'
import type { Schemas } from '@/contract/client'

/** A blueprint row as it is typed: one text a cell, so that it can be typed fast and pasted from a spreadsheet. */
export interface Cells {
  standards: string
  kinds: string
  depth: string
  difficulty: string
  tags: string
  banks: string
  count: string
  title: string
  /** Not typed; a row keeps the one that it has. */
  language?: string
}

export type CellName = Exclude<keyof Cells, 'language'>
export const cellNames: CellName[] = ['standards', 'kinds', 'depth', 'difficulty', 'tags', 'banks', 'count', 'title']

export const blank = (): Cells => ({
  standards: '',
  kinds: '',
  depth: '',
  difficulty: '',
  tags: '',
  banks: '',
  count: '',
  title: '',
})

export type RowInput = Schemas['BlueprintRowInput']

const dash = /\s*(?:–|—|-|to|\.\.)\s*/

/** A range as 3, 3–5 or 3 to 5. */
function range(text: string): [number, number] | undefined {
  const ends = text.split(dash).map((t) => Number(t))
  if (ends.length > 2 || ends.some((n) => !Number.isFinite(n)) || text.trim() === '') return undefined
  const [from, to = from] = ends as [number, number?]
  return [from, to]
}

const list = (text: string) =>
  text
    .split(/[,;]+/)
    .map((t) => t.trim())
    .filter(Boolean)

/** The kinds whose names begin as typed; the name itself or the code counts too. */
function kindOf(typed: string): string | undefined {
  const words = typed.toLowerCase()
  const all = Object.entries(kindNames)
  const exact = all.find(([code, name]) => code === words || name === words)
  const begun = all.filter(([, name]) => name.startsWith(words))
  return (exact ?? (begun.length === 1 ? begun[0] : undefined))?.[0]
}

const labels = ['easy', 'medium', 'hard']

/** What is wrong with a cell, in words; nothing where it can be read. */
export type Faults = Partial<Record<CellName, string>>

/** Reads the cells of a row. `known` tells whether a code is a standard. */
export function readCells(c: Cells, known: (code: string) => boolean): { row: RowInput; faults: Faults } {
  const faults: Faults = {}
  const row: RowInput = { title: c.title, filter: {}, byPoints: false, min: 0, max: 0 }
  const standards = c.standards.split(/[\s,;]+/).filter(Boolean)
  const strange = standards.filter((code) => !known(code))
  if (strange.length) faults.standards = `There is no standard ${strange.join(', ')}.`
  else if (standards.length) row.filter.standards = standards

  const kinds = list(c.kinds).map((k) => [k, kindOf(k)] as const)
  const odd = kinds.filter(([, code]) => !code)
  if (odd.length) faults.kinds = `No kind of item is called ${odd.map(([k]) => k).join(', ')}.`
  else if (kinds.length) row.filter.kinds = kinds.map(([, code]) => code!)

  if (c.depth.trim()) {
    const depths = list(c.depth).flatMap((part) => {
      const r = range(part)
      return r && r[0] <= r[1] ? Array.from({ length: r[1] - r[0] + 1 }, (_, i) => r[0] + i) : [NaN]
    })
    if (depths.some((d) => !Number.isInteger(d) || d < 1 || d > 4)) faults.depth = 'Depths are 1 to 4, as in 2 or 2–3.'
    else row.filter.depth = [...new Set(depths)].sort()
  }
  readDifficulty(c.difficulty.trim().toLowerCase(), row, faults)
  readTags(c.tags, row)
  const banks = c.banks
    .split(';')
    .map((b) => b.trim())
    .filter(Boolean)
  if (banks.length) row.filter.banks = banks
  if (c.language) row.filter.language = c.language
  readCount(c.count.trim().toLowerCase(), row, faults)
  return { row, faults }
}

function readDifficulty(text: string, row: RowInput, faults: Faults) {
  if (!text) return
  const label = labels.find((l) => l === text)
  if (label) {
    row.filter.ease = label as 'easy' | 'medium' | 'hard'
    return
  }
  const r = range(text)
  if (!r || r[0] < 0 || r[1] > 1 || r[0] > r[1]) faults.difficulty = 'A range of p-values, as in .4–.7, or easy, medium, hard.'
  else row.filter.difficulty = [Math.round(r[0] * 1000), Math.round(r[1] * 1000)]
}

/** Tags that must be there, and with “not” before them those that must not. */
function readTags(text: string, row: RowInput) {
  const tags = list(text)
  const without = tags.filter((t) => /^not\s+/i.test(t)).map((t) => t.replace(/^not\s+/i, ''))
  const within = tags.filter((t) => !/^not\s+/i.test(t))
  if (within.length) row.filter.tags = within
  if (without.length) row.filter.without = without
}

function readCount(text: string, row: RowInput, faults: Faults) {
  const points = /(pt|pts|points?|p)\.?$/.test(text)
  const r = range(text.replace(/\s*(pt|pts|points?|p|items?)\.?$/, ''))
  const fine = r && r[0] >= 0 && r[1] >= r[0] && r[1] <= 1000 && (points || (Number.isInteger(r[0]) && Number.isInteger(r[1])))
  if (!fine) faults.count = 'How many, as in 4, 3–5 or 8 points.'
  else Object.assign(row, { byPoints: points, min: r[0], max: r[1] })
}

const decimal = (thousandths: number) =>
  thousandths === 1000 ? '1' : thousandths === 0 ? '0' : (thousandths / 1000).toFixed(3).replace(/^0|0$/g, '').replace(/0$/, '')

/** A row as cells. */
export function cellsOf(r: Pick<RowInput, 'title' | 'filter' | 'byPoints' | 'min' | 'max'>): Cells {
  const f = r.filter
  const depth = f.depth ?? []
  const whole = depth.length > 1 && depth[depth.length - 1]! - depth[0]! === depth.length - 1
  return {
    title: r.title,
    standards: (f.standards ?? []).join(', '),
    kinds: (f.kinds ?? []).map(kindName).join(', '),
    depth: whole ? `${depth[0]}–${depth[depth.length - 1]}` : depth.join(', '),
    difficulty: f.difficulty ? `${decimal(f.difficulty[0]!)}–${decimal(f.difficulty[1]!)}` : (f.ease ?? ''),
    tags: [...(f.tags ?? []), ...(f.without ?? []).map((t) => `not ${t}`)].join(', '),
    banks: (f.banks ?? []).join('; '),
    ...(f.language && { language: f.language }),
    count: `${r.min}${r.max > r.min ? `–${r.max}` : ''}${r.byPoints ? ' points' : ''}`,
  }
}

/** What the columns of other people's tables are called. */
const heads: Record<CellName, RegExp> = {
  standards: /^(standards?|codes?|alignment)/i,
  kinds: /^(kinds?|types?|item types?)/i,
  depth: /^(depth|dok)/i,
  difficulty: /^(difficulty|p-?values?)/i,
  tags: /^(tags?|keywords?)/i,
  banks: /^(banks?|item banks?)/i,
  count: /^(count|plan|items|number|how many|points|no\.|#)/i,
  title: /^(name|title|row|description|label)/i,
}

/** The columns that a first row names; nothing where it is a row like the others. */
function headed(cells: string[], known: (code: string) => boolean): (CellName | undefined)[] | undefined {
  if (cells.some((c) => known(c) || /\d/.test(c.replace(/^#$/, '')))) return undefined
  const names = cells.map((c) => cellNames.find((name) => heads[name].test(c)))
  return names.filter(Boolean).length >= Math.min(2, cells.length) ? names : undefined
}

/**
 * What was copied from a spreadsheet, laid over the rows from a cell on: tabs part
 * cells, lines part rows; rows that are missing are added. A first row that names the columns
 * says where they go; two columns from the first cell on are standards and how many.
 */
export function pasted(rows: Cells[], at: number, cell: CellName, text: string, known: (code: string) => boolean): Cells[] {
  const out = rows.map((r) => ({ ...r }))
  const table = text
    .replace(/\r/g, '')
    .replace(/\n+$/, '')
    .split('\n')
    .map((line) => line.split('\t').map((value) => value.trim()))
  const named = headed(table[0]!, known)
  if (named) table.shift()
  const pair = !named && cell === 'standards' && table.every((r) => r.length === 2 && /^\d/.test(r[1]!))
  const columns = named ?? (pair ? (['standards', 'count'] as const) : cellNames.slice(cellNames.indexOf(cell)))
  table.forEach((cells, i) => {
    const row = (out[at + i] ??= blank())
    cells.forEach((value, k) => {
      const name = columns[k]
      if (name) row[name] = value
    })
  })
  return out
}
