import type { Schemas } from '@/contract/client'

export interface Group {
  passage?: Schemas['Passage']
  lines: { number: number; line: Schemas['PrintedLine'] }[]
}

/** Lines in their order; a passage stands once, before the first of its lines that follow each other. */
export function booklet(lines: Schemas['PrintedLine'][], passages: Schemas['Passage'][]): Group[] {
  const out: Group[] = []
  lines.forEach((line, i) => {
    const last = out.at(-1)
    if (last && (last.passage?.identifier ?? '') === line.passage) last.lines.push({ number: i + 1, line })
    else out.push({ passage: passages.find((p) => p.identifier === line.passage), lines: [{ number: i + 1, line }] })
  })
  return out
}
