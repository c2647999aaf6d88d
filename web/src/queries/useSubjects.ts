import { queryOptions, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { api, call } from '@/contract/client'
import { capital } from '@/contract/format'

/** What the district teaches, by its rosters and frameworks. */
export const subjectsQuery = queryOptions({
  queryKey: ['subjects'],
  queryFn: () => call(api.GET('/subjects')),
  staleTime: 60_000,
})

/** Subjects to choose from, and the one that is chosen, on the list or not. */
export function useSubjects(chosen: MaybeRefOrGetter<string | undefined> = '') {
  const query = useQuery(subjectsQuery)
  return computed(() =>
    [...new Set([...(query.data.value ?? []), toValue(chosen) ?? ''])]
      .filter(Boolean)
      .map((value) => ({ value, label: capital(value) })),
  )
}
