import { stepped, type Arrangement, type Stand } from './layout'
import { moved, type LineInput } from './lines'

/** The passage of an item's line, 0 for none. */
export type PassageOf = (item: number) => number

const stand = (l: LineInput): Stand => ({ part: l.part ?? 0, pool: l.pool ?? 0 })
const sameStand = (a: LineInput, b: LineInput) => stand(a).part === stand(b).part && stand(a).pool === stand(b).pool

/** Whether two neighbors belong to the set of one passage. */
export function oneSet(a: LineInput | undefined, b: LineInput | undefined, passageOf: PassageOf): boolean {
  return !!a && !!b && passageOf(a.itemId) > 0 && passageOf(a.itemId) === passageOf(b.itemId) && sameStand(a, b)
}

/** The lines of the set that a line stands in, from the first to behind the last; a line without a passage is a set by itself. */
export function setAt(lines: LineInput[], at: number, passageOf: PassageOf): [from: number, to: number] {
  let from = at
  let to = at + 1
  while (oneSet(lines[from - 1], lines[from], passageOf)) from--
  while (oneSet(lines[to - 1], lines[to], passageOf)) to++
  return [from, to]
}

/** One step of a line up or down: within its passage's set alone, out of it only with the whole set, past sets of others whole. */
export function steppedSet(
  now: Arrangement,
  at: number,
  by: 1 | -1,
  passageOf: PassageOf,
): { lines: LineInput[]; at: number } | undefined {
  const { lines } = now
  const line = lines[at]
  if (!line) return undefined
  const [from, to] = setAt(lines, at, passageOf)
  if (at + by >= from && at + by < to) return stepped(now, at, by)
  const edge = by < 0 ? from : to - 1
  const next = lines[edge + by]
  if (next && sameStand(next, line)) {
    const [first, behind] = setAt(lines, edge + by, passageOf)
    const set = lines.slice(from, to)
    const others = lines.slice(first, behind)
    const swapped = by < 0 ? [...set, ...others] : [...others, ...set]
    return { lines: lines.toSpliced(Math.min(from, first), swapped.length, ...swapped), at: at + by * others.length }
  }
  const one = stepped(now, edge, by)
  if (!one) return undefined
  const there = stand(one.lines[edge]!)
  return { lines: lines.map((l, i) => (i >= from && i < to ? { ...l, ...there } : l)), at }
}

/** A line dragged to a place: with its whole set where it leaves it, and not into the midst of another set. */
export function movedSet(lines: LineInput[], from: number, to: number, there: Stand, passageOf: PassageOf): LineInput[] {
  if (!lines[from]) return lines
  const [first, behind] = setAt(lines, from, passageOf)
  const set = lines.slice(first, behind)
  const dropped = moved(lines, from, to, there)
  if (set.length > 1 && to >= first && to < behind && sameStand({ ...lines[from]!, ...there }, lines[from]!)) return dropped
  const others = lines.filter((l) => !set.includes(l))
  const ids = new Set(set.map((l) => l.itemId))
  let at = dropped.slice(0, to).filter((l) => !ids.has(l.itemId)).length
  while (oneSet(others[at - 1], others[at], passageOf)) at++
  return others.toSpliced(at, 0, ...set.map((l) => ({ ...l, ...there })))
}

/** A line taken out of its set on purpose: behind the lines that follow the set, else before those ahead of it. */
export function splitOff(lines: LineInput[], item: number, passageOf: PassageOf): LineInput[] {
  const at = lines.findIndex((l) => l.itemId === item)
  if (at < 0) return lines
  const [from, behind] = setAt(lines, at, passageOf)
  if (behind - from < 2) return lines
  const line = lines[at]!
  const out = lines.toSpliced(at, 1)
  if (lines[behind]) {
    const [, after] = setAt(lines, behind, passageOf)
    return out.toSpliced(after - 1, 0, { ...line, ...stand(lines[behind]) })
  }
  if (!lines[from - 1]) return lines
  const [before] = setAt(lines, from - 1, passageOf)
  return out.toSpliced(before, 0, { ...line, ...stand(lines[before]!) })
}
