import type { Schemas } from '@/contract/client'

export interface Group {
  /** A part begins here. */
  part?: Schemas['TestPart']
  partNumber?: number
  /** A pool begins here: so many of so many lines. */
  pool?: { choose: number; lines: number }
  passage?: Schemas['Passage']
  lines: { number: number; line: Schemas['PrintedLine'] }[]
}

type Printed = Pick<Schemas['Printed'], 'lines' | 'passages' | 'layout'>

/**
 * Lines in their order; a passage stands once, before the first of its lines that follow each other.
 * Parts and pools begin with a head of their own; where one attempt's draw is printed, pools have none.
 */
export function booklet({ lines, passages, layout }: Printed, drawn: boolean): Group[] {
  const out: Group[] = []
  lines.forEach((line, i) => {
    const before = lines[i - 1]
    const part = line.part !== (before?.part ?? 0) ? layout.parts[line.part - 1] : undefined
    const pool = !drawn && line.pool && line.pool !== before?.pool ? layout.pools[line.pool - 1] : undefined
    const goesOn = before && before.passage === line.passage && !part && !pool && (drawn || line.pool === before.pool)
    if (goesOn) out.at(-1)!.lines.push({ number: i + 1, line })
    else
      out.push({
        part,
        partNumber: part && line.part,
        pool: pool && { choose: pool.choose, lines: lines.filter((l) => l.pool === line.pool).length },
        passage: before?.passage === line.passage && !part ? undefined : passages.find((p) => p.identifier === line.passage),
        lines: [{ number: i + 1, line }],
      })
  })
  return out
}
