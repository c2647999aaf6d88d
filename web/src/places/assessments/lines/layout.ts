import type { Schemas } from '@/contract/client'
import type { LineInput } from './lines'

export type Layout = Schemas['Layout']

/** The lines with the parts and pools that they stand in: what is sent, and what undo brings back. */
export interface Arrangement {
  lines: LineInput[]
  layout: Layout
}

/** A place among lines: part and pool, counted from 1, 0 for none. */
export interface Stand {
  part: number
  pool: number
}

const stand = (l: LineInput): Stand => ({ part: l.part ?? 0, pool: l.pool ?? 0 })

/** Where something placed before a line stands: with it; in a pool only between two lines of that pool. */
export function standBefore(lines: LineInput[], at: number, layout: Layout): Stand {
  const above = lines[at - 1]
  const below = lines[at]
  const part = below ? stand(below).part : above ? stand(above).part : Math.min(1, layout.parts.length)
  const pool = above && below && stand(above).pool === stand(below).pool ? stand(below).pool : 0
  return { part, pool }
}

/** One step of a line up or down: out of or into a part or pool first, then past its neighbor. Nothing where it cannot go. */
export function stepped(
  { lines, layout }: Arrangement,
  from: number,
  by: 1 | -1,
): { lines: LineInput[]; at: number } | undefined {
  const line = lines[from]
  if (!line) return undefined
  const here = stand(line)
  const next = lines[from + by]
  const there = next ? stand(next) : { part: here.part + by, pool: 0 }
  const change = (to: Stand) => ({ lines: lines.map((l, i) => (i === from ? { ...l, ...to } : l)), at: from })
  if (next && here.part === there.part && here.pool === there.pool) {
    const out = [...lines]
    out[from] = next
    out[from + by] = line
    return { lines: out, at: from + by }
  }
  if (here.pool) return change({ part: here.part, pool: 0 })
  if (here.part !== there.part) {
    const part = here.part + by
    return part >= 1 && part <= layout.parts.length ? change({ part, pool: 0 }) : undefined
  }
  return change(there)
}

/** A new part that begins at a line, from 1; one behind the last begins an empty part. The first takes all lines. */
export function withPart({ lines, layout }: Arrangement, title: string, at: number): Arrangement {
  const part = { title, directions: '', calculator: false }
  if (!layout.parts.length) return { lines: lines.map((l) => ({ ...l, part: 1 })), layout: { ...layout, parts: [part] } }
  const of = at <= lines.length ? stand(lines[at - 1]!).part : layout.parts.length
  return {
    lines: lines.map((l, i) => ({ ...l, part: stand(l).part + (i + 1 >= at && stand(l).part >= of ? 1 : 0) })),
    layout: { ...layout, parts: layout.parts.toSpliced(of, 0, part) },
  }
}

/** Where a part begins, from 1: of an empty one, where its first line would stand. */
export function beginsAt(lines: { part?: number }[], part: number): number {
  const at = lines.findIndex((l) => (l.part ?? 0) >= part)
  return (at < 0 ? lines.length : at) + 1
}

/** A part moved so that it begins at another line; the part before it gives or takes the lines between. */
export function beginning({ lines, layout }: Arrangement, part: number, at: number): Arrangement {
  return {
    layout,
    lines: lines.map((l, i) => {
      const of = stand(l).part
      if (i + 1 >= at && of < part) return { ...l, part }
      if (i + 1 < at && of === part) return { ...l, part: part - 1 }
      return l
    }),
  }
}

/** Without a part: its lines join the one before, of the first the one after. */
export function withoutPart({ lines, layout }: Arrangement, part: number): Arrangement {
  const parts = layout.parts.toSpliced(part - 1, 1)
  const into = (of: number) => (of < part ? of : Math.max(of - 1, Math.min(1, parts.length)))
  return { lines: lines.map((l) => ({ ...l, part: into(stand(l).part) })), layout: { ...layout, parts } }
}

/** A new pool of these items, moved together behind the first of them. */
export function withPool({ lines, layout }: Arrangement, items: number[], choose: number): Arrangement {
  const first = lines.findIndex((l) => items.includes(l.itemId))
  if (first < 0) return { lines, layout }
  const place = { part: stand(lines[first]!).part, pool: layout.pools.length + 1 }
  const pooled = lines.filter((l) => items.includes(l.itemId)).map((l) => ({ ...l, ...place }))
  // Before a pool that the first line stood in, not in the midst of it.
  const others = lines.filter((l) => !items.includes(l.itemId))
  let at = lines.slice(0, first).filter((l) => !items.includes(l.itemId)).length
  while (at > 0 && at < others.length && stand(others[at]!).pool && stand(others[at - 1]!).pool === stand(others[at]!).pool) at--
  return {
    lines: [...others.slice(0, at), ...pooled, ...others.slice(at)],
    layout: { ...layout, pools: [...layout.pools, { title: '', choose }] },
  }
}

/** Without a pool: its lines stay where they are, for every student. */
export function withoutPool({ lines, layout }: Arrangement, pool: number): Arrangement {
  const into = (of: number) => (of === pool ? 0 : of > pool ? of - 1 : of)
  return {
    lines: lines.map((l) => ({ ...l, pool: into(stand(l).pool) })),
    layout: { ...layout, pools: layout.pools.toSpliced(pool - 1, 1) },
  }
}

export type Entry =
  | { is: 'part'; key: string; number: number; part: Layout['parts'][number] }
  | { is: 'pool'; key: string; number: number; pool: Layout['pools'][number] }
  | { is: 'line'; key: string; at: number }

/** The lines with the heads of parts and pools between them, as the table shows them. */
export function entries(lines: Stand[], layout: Layout): Entry[] {
  const out: Entry[] = []
  let part = 0
  let pool = 0
  const partsUpTo = (to: number) => {
    while (part < to) {
      part++
      out.push({ is: 'part', key: `part-${part}`, number: part, part: layout.parts[part - 1]! })
    }
  }
  lines.forEach((l, at) => {
    partsUpTo(l.part)
    if (l.pool && l.pool !== pool) {
      out.push({ is: 'pool', key: `pool-${l.pool}`, number: l.pool, pool: layout.pools[l.pool - 1]! })
    }
    pool = l.pool
    out.push({ is: 'line', key: `line-${at}`, at })
  })
  partsUpTo(layout.parts.length)
  return out
}
