import { queryOptions } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, call } from '@/contract/client'

/** What waits for whoever is signed in. */
export const today = queryOptions({ queryKey: ['today'], queryFn: () => call(api.GET('/today')) })

/** What devices brought to a sitting after the hand-in. */
export const late = (sitting: MaybeRefOrGetter<number>) =>
  queryOptions({
    queryKey: ['late', sitting],
    queryFn: () => call(api.GET('/sittings/{id}/late-answers', { params: { path: { id: toValue(sitting) } } })),
  })

/** A sitting as whoever watches it sees it. */
export const room = (sitting: MaybeRefOrGetter<number>) =>
  queryOptions({
    queryKey: ['room', sitting],
    queryFn: () => call(api.GET('/sittings/{id}', { params: { path: { id: toValue(sitting) } } })),
  })

/** Who sees to a sitting in the place of its teachers. */
export const substitutes = (sitting: number) =>
  queryOptions({
    queryKey: ['substitutes', sitting],
    queryFn: () => call(api.GET('/sittings/{id}/substitutes', { params: { path: { id: sitting } } })),
  })
