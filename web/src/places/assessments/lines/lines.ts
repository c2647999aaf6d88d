import { api, call, queries, ProblemError, type Schemas } from '@/contract/client'
import { today } from '@/queries/rooms'
import { standBefore, type Arrangement, type Layout } from './layout'

export type Sheet = Schemas['Sheet']
export type LineInput = Schemas['LineInput']

export const sheetKey = (id: number) => ['assessment', id]

export function readSheet(id: number): Promise<Sheet> {
  return call(api.GET('/assessments/{id}', { params: { path: { id } } }))
}

/** Keeps what a change gave back, and lets lists that show the assessment be read again. */
export function keepSheet(sheet: Sheet): Sheet {
  queries.setQueryData(sheetKey(sheet.id), sheet)
  void queries.invalidateQueries({ queryKey: ['assessments'] })
  void queries.invalidateQueries({ queryKey: today.queryKey })
  return sheet
}

/** The lines as they are sent: place in the list is place on the form. */
export function arranged(sheet: Sheet): Arrangement {
  const lines = sheet.lines.map(({ itemId, versionId, points, part, pool, withheld }) => ({
    itemId,
    versionId,
    points,
    part,
    pool,
    ...(withheld && { without: withheld.map((tool) => tool.key) }),
  }))
  return { lines, layout: sheet.layout }
}

export async function putLines(sheet: Sheet, { lines, layout }: Arrangement): Promise<Sheet> {
  return keepSheet(
    await call(
      api.PUT('/assessments/{id}/lines', {
        params: { path: { id: sheet.id }, header: { 'If-Match': sheet.version } },
        body: { lines, layout },
      }),
    ),
  )
}

/** Moves a line so that it stands at a place, in a part and a pool. */
export function moved(lines: LineInput[], from: number, to: number, stand: { part: number; pool: number }): LineInput[] {
  const out = [...lines]
  const [line] = out.splice(from, 1)
  if (line) out.splice(Math.max(0, Math.min(to, out.length)), 0, { ...line, ...stand })
  return out
}

/** Inserts items, each worth a point, before a place. Items that are there already are told, not doubled. */
export function inserted({ lines, layout }: Arrangement, items: number[], at: number): LineInput[] {
  const there = items.map((id) => lines.findIndex((l) => l.itemId === id) + 1).filter((n) => n > 0)
  if (there.length) {
    throw new ProblemError({
      status: 409,
      detail: `Already there, as ${there.length === 1 ? 'line' : 'lines'} ${there.join(', ')}. Nothing was placed.`,
    })
  }
  const stand = standBefore(lines, at, layout)
  return [...lines.slice(0, at), ...items.map((itemId) => ({ itemId, points: 1, ...stand })), ...lines.slice(at)]
}

/** Places items at the end of an assessment. */
export async function addToEnd(id: number, items: number[]): Promise<Sheet> {
  const sheet = await readSheet(id)
  const now = arranged(sheet)
  return putLines(sheet, { ...now, lines: inserted(now, items, sheet.lines.length) })
}

/** Moves several lines, in the order that they have, so that they stand before a place. */
export function movedTogether(lines: LineInput[], items: number[], at: number, layout: Layout): LineInput[] {
  const stand = standBefore(lines, at, layout)
  const together = lines.filter((l) => items.includes(l.itemId)).map((l) => ({ ...l, ...stand }))
  const before = lines.slice(0, at).filter((l) => !items.includes(l.itemId))
  const after = lines.slice(at).filter((l) => !items.includes(l.itemId))
  return [...before, ...together, ...after]
}

/** A line answered without a tool, or with it again. */
export function withhold(lines: LineInput[], item: number, tool: string, out: boolean): LineInput[] {
  const change = ({ without = [], ...line }: LineInput) => ({
    ...line,
    without: out ? [...without.filter((t) => t !== tool), tool] : without.filter((t) => t !== tool),
  })
  return lines.map((l) => (l.itemId === item ? change(l) : l))
}

/** Gives several lines the same points. */
export function weighed(lines: LineInput[], items: number[], points: number): LineInput[] {
  return lines.map((l) => (items.includes(l.itemId) ? { ...l, points } : l))
}
