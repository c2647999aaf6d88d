import { queryOptions } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, call } from '@/contract/client'
import type { paths } from '@/contract/api-schema'

type Search = NonNullable<paths['/assessments']['get']['parameters']['query']>

/** Assessments that one may see, by a search; all of them without one. */
export const assessments = (search: MaybeRefOrGetter<Search> = {}) =>
  queryOptions({
    queryKey: ['assessments', search],
    queryFn: () => call(api.GET('/assessments', { params: { query: toValue(search) } })),
  })

/** The district's band sets. */
export const bandSets = queryOptions({ queryKey: ['band-sets'], queryFn: () => call(api.GET('/band-sets')) })

/** The same, those first that fit an assessment. */
export const bandSetsFor = (assessment: MaybeRefOrGetter<number>) =>
  queryOptions({
    queryKey: ['band-sets', 'for', assessment],
    queryFn: () => call(api.GET('/band-sets', { params: { query: { assessment: toValue(assessment) } } })),
  })

/** What the state publishes of its tests. */
export const officialTables = queryOptions({ queryKey: ['official-tables'], queryFn: () => call(api.GET('/official-tables')) })

/** One of them, with the cuts of another beside its own where one is named. */
export const officialTable = (id: MaybeRefOrGetter<number>, beside: MaybeRefOrGetter<number | undefined>) =>
  queryOptions({
    queryKey: ['official-tables', id, beside],
    queryFn: () =>
      call(api.GET('/official-tables/{id}', { params: { path: { id: toValue(id) }, query: { beside: toValue(beside) } } })),
  })

/** What assessments are for, in the district's order. */
export const purposes = queryOptions({ queryKey: ['purposes'], queryFn: () => call(api.GET('/purposes')), staleTime: 60_000 })
