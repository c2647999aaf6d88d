import { queryOptions } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, call } from '@/contract/client'

/** The schools that one may see. */
export const schools = queryOptions({ queryKey: ['schools'], queryFn: () => call(api.GET('/schools')), staleTime: 60_000 })

/** The students of a section. */
export const studentsOf = (section: MaybeRefOrGetter<number>) =>
  queryOptions({
    queryKey: ['students', section],
    queryFn: () => call(api.GET('/sections/{id}/students', { params: { path: { id: toValue(section) } } })),
  })
