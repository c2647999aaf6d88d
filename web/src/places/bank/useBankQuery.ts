import { computed } from 'vue'
import { useRoute, useRouter, type LocationQuery } from 'vue-router'
import type { paths } from '@/contract/api-schema'

export const facetNames = ['subject', 'grade', 'course', 'kind', 'ease', 'depth', 'language', 'bank'] as const
export type FacetName = (typeof facetNames)[number]

export const sorts = {
  newest: 'newest first',
  difficulty: 'hardest first',
  easiest: 'easiest first',
  uses: 'most used first',
  lastUse: 'last used first',
  unused: 'longest unused first',
} as const
export type Sort = keyof typeof sorts

/** Searches by number, in the address as they are in the contract. */
const numbers = ['standard', 'passage', 'owner', 'usesFrom', 'usesTo'] as const
const dates = ['usedSince', 'notUsedSince'] as const

export interface BankQuery {
  words: string
  standard: number | undefined
  passage: number | undefined
  owner: number | undefined
  usesFrom: number | undefined
  usesTo: number | undefined
  usedSince: string
  notUsedSince: string
  unaligned: boolean
  unlinked: boolean
  tags: string[]
  sort: Sort
  facets: Record<FacetName, string[]>
}

const list = (v: LocationQuery[string] | undefined) => (v === undefined ? [] : [v].flat()).filter((s): s is string => !!s)

/** Reads a search from the address. */
export function readQuery(query: LocationQuery): BankQuery {
  const number = (name: string) => {
    const typed = list(query[name])[0]
    const n = Number(typed)
    return typed !== undefined && Number.isInteger(n) && n >= 0 ? n : undefined
  }
  const date = (name: string) => (/^\d{4}-\d{2}-\d{2}$/.test(list(query[name])[0] ?? '') ? list(query[name])[0]! : '')
  return {
    words: list(query.words)[0] ?? '',
    standard: number('standard') || undefined,
    passage: number('passage') || undefined,
    owner: number('owner') || undefined,
    usesFrom: number('usesFrom'),
    usesTo: number('usesTo'),
    usedSince: date('usedSince'),
    notUsedSince: date('notUsedSince'),
    unaligned: list(query.unaligned)[0] === 'true',
    unlinked: list(query.unlinked)[0] === 'true',
    tags: list(query.tag),
    sort: (Object.keys(sorts) as Sort[]).find((s) => s === list(query.sort)[0]) ?? 'newest',
    facets: Object.fromEntries(facetNames.map((f) => [f, list(query[f])])) as BankQuery['facets'],
  }
}

/** Writes a search into an address; what is not restricted is left out. */
export function writeQuery(q: BankQuery): Record<string, string | string[]> {
  const out: Record<string, string | string[]> = {}
  if (q.words) out.words = q.words
  for (const n of numbers) if (q[n] !== undefined) out[n] = String(q[n])
  for (const d of dates) if (q[d]) out[d] = q[d]
  if (q.unaligned) out.unaligned = 'true'
  if (q.unlinked) out.unlinked = 'true'
  if (q.tags.length) out.tag = q.tags
  if (q.sort !== 'newest') out.sort = q.sort
  for (const f of facetNames) if (q.facets[f].length) out[f] = q.facets[f]
  return out
}

type SearchParams = NonNullable<paths['/items']['get']['parameters']['query']>

/** A search as the contract asks for it. */
export function searchParams(q: BankQuery): SearchParams {
  const { facets, tags, words, usedSince, notUsedSince, unaligned, unlinked, ...rest } = q
  return {
    ...rest,
    ...facets,
    depth: facets.depth.map(Number),
    words: words || undefined,
    usedSince: usedSince || undefined,
    notUsedSince: notUsedSince || undefined,
    unaligned: unaligned || undefined,
    unlinked: unlinked || undefined,
    tag: tags,
  }
}

/** Everything that narrows a search, taken away. */
export const nothing: Omit<BankQuery, 'sort'> = {
  words: '',
  standard: undefined,
  passage: undefined,
  owner: undefined,
  usesFrom: undefined,
  usesTo: undefined,
  usedSince: '',
  notUsedSince: '',
  unaligned: false,
  unlinked: false,
  tags: [],
  facets: Object.fromEntries(facetNames.map((f) => [f, [] as string[]])) as BankQuery['facets'],
}

/** The search of the bank, which lives in the address: it can be shared and the back button undoes it. */
export function useBankQuery() {
  const route = useRoute()
  const router = useRouter()
  const query = computed(() => readQuery(route.query))
  const narrowed = computed(() => Object.keys(writeQuery({ ...query.value, sort: 'newest' })).length > 0)
  /** The search as the addresses of exports have it. */
  const search = computed(() => {
    const params = new URLSearchParams()
    for (const [name, value] of Object.entries(writeQuery(query.value))) for (const v of [value].flat()) params.append(name, v)
    return params.toString()
  })

  function change(part: Partial<BankQuery>, replace = false) {
    const to = { query: writeQuery({ ...query.value, ...part }) }
    return replace ? router.replace(to) : router.push(to)
  }
  const flipped = (now: string[], value: string) => (now.includes(value) ? now.filter((v) => v !== value) : [...now, value])
  function toggle(facet: FacetName, value: string) {
    void change({ facets: { ...query.value.facets, [facet]: flipped(query.value.facets[facet], value) } })
  }
  function toggleTag(name: string) {
    void change({ tags: flipped(query.value.tags, name) })
  }
  return { query, narrowed, search, change, toggle, toggleTag }
}
