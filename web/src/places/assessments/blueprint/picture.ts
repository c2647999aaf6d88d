import type { Sheet } from '@/places/assessments/lines/lines'

/** One standard, or several together, with what is planned and placed at each depth; the last cell is for any depth. */
export interface PictureRow {
  name: string
  cells: { planned: number; placed: number }[]
  planned: number
  placed: number
}

const anyDepth = 4

/** Lays out the rows that count items, and the lines by the row that claims them or else by their own standard. */
export function picture(sheet: Pick<Sheet, 'rows' | 'lines'>): { rows: PictureRow[]; most: number } {
  const rows = new Map<string, PictureRow>()
  const rowOf = (name: string) => {
    let row = rows.get(name)
    if (!row) {
      row = { name, planned: 0, placed: 0, cells: Array.from({ length: 5 }, () => ({ planned: 0, placed: 0 })) }
      rows.set(name, row)
    }
    return row
  }
  const nameOf = (r: Sheet['rows'][number]) => (r.filter.standards ?? []).join(', ') || 'any standard'
  for (const r of sheet.rows) {
    if (r.byPoints) continue
    const depth = r.filter.depth ?? []
    const row = rowOf(nameOf(r))
    row.planned += r.min
    row.cells[depth.length === 1 ? depth[0]! - 1 : anyDepth]!.planned += r.min
  }
  for (const l of sheet.lines) {
    const claimed = sheet.rows[l.row]
    const row = rowOf(claimed ? nameOf(claimed) : (l.standards[0] ?? 'no standard'))
    row.placed++
    row.cells[l.depth ? l.depth - 1 : anyDepth]!.placed++
  }
  const out = [...rows.values()]
  return { rows: out, most: Math.max(1, ...out.flatMap((r) => r.cells.flatMap((c) => [c.planned, c.placed]))) }
}
