import type { Schemas } from '@/contract/client'

type Entry = Schemas['LedgerEntry']

const coming = (e: Entry) => ['person.sign-in', 'person.wrong-try'].includes(e.act)

/** Entries in runs: sign-ins and wrong tries that follow each other together where they are many, every other one by itself. */
export function folded(entries: Entry[], fewest: number): Entry[][] {
  const runs: Entry[][] = []
  for (const e of entries) {
    const last = runs.at(-1)
    if (last && coming(e) && coming(last[0]!)) last.push(e)
    else runs.push([e])
  }
  return runs.flatMap((run) => (run.length >= fewest ? [run] : run.map((e) => [e])))
}
