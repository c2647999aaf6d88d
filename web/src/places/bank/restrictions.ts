import { gradeName, kindName, languageName } from '@/contract/format'
import { facetNames, type BankQuery, type FacetName } from './useBankQuery'

const eases: Record<string, string> = { hard: 'hard, below .40', easy: 'easy, from .70 on' }
const valueNames: Partial<Record<FacetName, (v: string) => string>> = {
  kind: kindName,
  grade: (v) => `grade ${gradeName(v)}`,
  depth: (v) => `depth ${v}`,
  language: languageName,
  ease: (v) => eases[v] ?? v,
}

/** A value of a facet as one reads it. */
export const facetValue = (facet: FacetName, value: string) => valueNames[facet]?.(value) ?? value

export interface Restriction {
  label: string
  /** What lifts it, and leaves the others. */
  without: Partial<BankQuery>
}

/** Everything that restricts a search but its words, which stand in their field. */
export function restrictions(q: BankQuery, me: number | undefined): Restriction[] {
  const out: Restriction[] = []
  const add = (holds: unknown, label: string, without: Partial<BankQuery>) => holds && out.push({ label, without })
  add(q.standard, 'the chosen standard', { standard: undefined })
  add(q.unaligned, 'aligned to nothing', { unaligned: false })
  for (const f of facetNames)
    for (const v of q.facets[f])
      add(true, facetValue(f, v), { facets: { ...q.facets, [f]: q.facets[f].filter((other) => other !== v) } })
  for (const t of q.tags) add(true, `tag ${t}`, { tags: q.tags.filter((other) => other !== t) })
  add(q.passage, 'with one passage', { passage: undefined })
  add(q.owner, q.owner === me ? 'my items' : 'of one owner', { owner: undefined })
  add(q.usesFrom, `on ${q.usesFrom} or more forms`, { usesFrom: undefined })
  add(q.usesTo !== undefined, q.usesTo ? `on ${q.usesTo} or fewer forms` : 'never used', { usesTo: undefined })
  add(q.usedSince, `used since ${q.usedSince}`, { usedSince: '' })
  add(q.notUsedSince, `not used since ${q.notUsedSince}`, { notUsedSince: '' })
  return out
}
