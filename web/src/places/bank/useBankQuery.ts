import { computed } from 'vue'
import { useRoute, useRouter, type LocationQuery } from 'vue-router'

export const facetNames = ['subject', 'grade', 'kind', 'depth', 'language', 'bank'] as const
export type FacetName = (typeof facetNames)[number]

export type Sort = 'newest' | 'difficulty' | 'uses'

export interface BankQuery {
  words: string
  standard: number | undefined
  sort: Sort
  facets: Record<FacetName, string[]>
}

const sorts: Sort[] = ['newest', 'difficulty', 'uses']

/** Reads a search from the address. */
export function readQuery(query: LocationQuery): BankQuery {
  const list = (v: LocationQuery[string] | undefined) => (v === undefined ? [] : [v].flat()).filter((s): s is string => !!s)
  return {
    words: list(query.words)[0] ?? '',
    standard: Number(list(query.standard)[0]) || undefined,
    sort: sorts.find((s) => s === list(query.sort)[0]) ?? 'newest',
    facets: Object.fromEntries(facetNames.map((f) => [f, list(query[f])])) as BankQuery['facets'],
  }
}

/** Writes a search into an address; what is not restricted is left out. */
export function writeQuery(q: BankQuery): Record<string, string | string[]> {
  const out: Record<string, string | string[]> = {}
  if (q.words) out.words = q.words
  if (q.standard) out.standard = String(q.standard)
  if (q.sort !== 'newest') out.sort = q.sort
  for (const f of facetNames) if (q.facets[f].length) out[f] = q.facets[f]
  return out
}

/** The search of the bank, which lives in the address: it can be shared and the back button undoes it. */
export function useBankQuery() {
  const route = useRoute()
  const router = useRouter()
  const query = computed(() => readQuery(route.query))

  function change(part: Partial<BankQuery>, replace = false) {
    const to = { query: writeQuery({ ...query.value, ...part }) }
    void (replace ? router.replace(to) : router.push(to))
  }
  function toggle(facet: FacetName, value: string) {
    const now = query.value.facets[facet]
    change({ facets: { ...query.value.facets, [facet]: now.includes(value) ? now.filter((v) => v !== value) : [...now, value] } })
  }
  return { query, change, toggle }
}
