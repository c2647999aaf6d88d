import { queryOptions, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, call, type Schemas } from '@/contract/client'

/** The catalog of accommodations; it changes with the program alone. */
export const catalog = queryOptions({ queryKey: ['supports'], queryFn: () => call(api.GET('/supports')), staleTime: Infinity })

/** What a student has. */
export const profile = (student: MaybeRefOrGetter<number>) =>
  queryOptions({
    queryKey: ['profile', student],
    queryFn: () => call(api.GET('/students/{id}/profile', { params: { path: { id: toValue(student) } } })),
    staleTime: 30_000, // each look is in the ledger
  })

/** What sections need of people and paper in the next days. */
export const ahead = (days: MaybeRefOrGetter<number>) =>
  queryOptions({
    queryKey: ['supports-ahead', days],
    queryFn: () => call(api.GET('/supports/ahead', { params: { query: { days: toValue(days) } } })),
  })

/** On what grounds the district gives supports, and what they would break. */
export const district = queryOptions({ queryKey: ['support-district'], queryFn: () => call(api.GET('/supports/district')) })

/** Says a support that somebody is given by its name, with how much of it; asks for the catalog once something is to be said. */
export function useSaid(needed: () => boolean) {
  const all = useQuery({ ...catalog, enabled: computed(needed) })
  const nameOf = (key: string) => all.data.value?.find((s) => s.key === key)?.name ?? key
  const said = (s: Schemas['GivenSupport']) => (s.words ? `${nameOf(s.key)}: ${s.words}` : nameOf(s.key))
  return { nameOf, said }
}
