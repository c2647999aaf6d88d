import { queryOptions } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, call } from '@/contract/client'

/** The banks that one may look into. */
export const banks = queryOptions({ queryKey: ['banks'], queryFn: () => call(api.GET('/banks')), staleTime: 60_000 })

/** The tags that one may see, with how many items carry each. */
export const tags = queryOptions({ queryKey: ['tags'], queryFn: () => call(api.GET('/tags')) })

/** The frameworks of standards. */
export const frameworks = queryOptions({
  queryKey: ['frameworks'],
  queryFn: () => call(api.GET('/frameworks')),
  staleTime: 300_000,
})

/** Passages with words in title or text; '' for all. */
export const passages = (words: MaybeRefOrGetter<string> = '') =>
  queryOptions({
    queryKey: ['passages', words],
    queryFn: () => call(api.GET('/passages', { params: { query: { words: toValue(words) } } })),
  })
