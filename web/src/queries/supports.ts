import { queryOptions } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, call } from '@/contract/client'

/** The catalog of accommodations; it changes with the program alone. */
export const catalog = queryOptions({ queryKey: ['supports'], queryFn: () => call(api.GET('/supports')), staleTime: Infinity })

/** What a student has. */
export const profile = (student: MaybeRefOrGetter<number>) =>
  queryOptions({
    queryKey: ['profile', student],
    queryFn: () => call(api.GET('/students/{id}/profile', { params: { path: { id: toValue(student) } } })),
    staleTime: 30_000, // each look is in the ledger
  })
