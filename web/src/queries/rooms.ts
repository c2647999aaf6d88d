import { queryOptions } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, call } from '@/contract/client'

/** What waits for whoever is signed in. */
export const today = queryOptions({ queryKey: ['today'], queryFn: () => call(api.GET('/today')) })

/** A sitting as whoever watches it sees it. */
export const room = (sitting: MaybeRefOrGetter<number>) =>
  queryOptions({
    queryKey: ['room', sitting],
    queryFn: () => call(api.GET('/sittings/{id}', { params: { path: { id: toValue(sitting) } } })),
  })
