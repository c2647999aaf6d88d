import type { Schemas } from '@/contract/client'

export type Matrix = Schemas['SupportMatrix']
export type Row = Schemas['SupportMatrixRow']
export type Cell = Schemas['SupportMatrixCell']
export type Column = Schemas['SupportMatrixColumn']
export type Gap = Schemas['SupportGap']

/** A line of the table: a section's heading, or a student of it. */
export type Entry = { section: string; school: string; students: number } | Row
export const isSection = (e: Entry): e is Exclude<Entry, Row> => 'students' in e

/** Students under the heading of their section. */
export function sectioned(rows: Row[]): Entry[] {
  const out: Entry[] = []
  rows.forEach((row, i) => {
    if (rows[i - 1]?.sectionId !== row.sectionId || rows[i - 1]?.school !== row.school)
      out.push({ section: row.section, school: row.school, students: rows.filter((r) => r.sectionId === row.sectionId).length })
    out.push(row)
  })
  return out
}

/** Those with something that is not possible yet before the others, in the order of their sections. */
export const gapsFirst = (rows: Row[]) => {
  const has = (r: Row) => r.cells.some((c) => c.letters.length)
  const wanting = new Set(rows.filter(has).map((r) => r.sectionId))
  return [...rows.filter((r) => wanting.has(r.sectionId)), ...rows.filter((r) => !wanting.has(r.sectionId))]
}

/** Columns under their groups. */
export function groupsOf(columns: Column[]): { name: string; n: number }[] {
  const out: { name: string; n: number }[] = []
  for (const c of columns) {
    const last = out.at(-1)
    if (last?.name === c.group) last.n++
    else out.push({ name: c.group, n: 1 })
  }
  return out
}

export const cellOf = (row: Row, key: string) => row.cells.find((c) => c.key === key)

/** What a cell says to who hears it. */
export function spoken(c: Cell, column: Column, gaps: Gap[]) {
  const missing = gaps.filter((g) => c.letters.includes(g.letter)).map((g) => g.title)
  return [
    c.words || column.name,
    missing.length
      ? `not yet possible: ${missing.join('; ')}`
      : { program: 'by itself', person: 'a person gives it', paper: 'on paper' }[column.by],
    c.temporary && 'some weeks only',
    c.source === 'today' && 'added for this sitting',
    c.apart && 'the result will not compare',
  ]
    .filter(Boolean)
    .join(', ')
}

/** What would mend a gap, as a button or a link says it. */
export const mends: Record<Gap['mends'][number], string> = {
  lines: 'Go to the lines',
  hours: 'Longer hours',
  days: 'Let them go on another day',
  allow: 'Allow with a reason',
  without: 'Leave that out',
  name: 'Name people',
  made: 'Note what is made',
  unlock: 'Look at the lock',
  continue: 'Look at the profile',
}
