import { queryOptions } from '@tanstack/vue-query'
import { api, call } from '@/contract/client'

/** Panels of judges that one may look at, and those that one judges in. */
export const panels = queryOptions({ queryKey: ['panels'], queryFn: () => call(api.GET('/panels')) })

/** A panel as its chair sees it. */
export const panel = (id: number) =>
  queryOptions({ queryKey: ['panels', id], queryFn: () => call(api.GET('/panels/{id}', { params: { path: { id } } })) })

/** What a judge is asked: it stays the same in all rounds. */
export const asked = (id: number) =>
  queryOptions({
    queryKey: ['panels', id, 'asked'],
    queryFn: () => call(api.GET('/panels/{id}/asked', { params: { path: { id } } })),
    staleTime: Infinity,
  })

/** What a judge gave so far, and what came of rounds whose feedback is open. */
export const work = (id: number) =>
  queryOptions({
    queryKey: ['panels', id, 'work'],
    queryFn: () => call(api.GET('/panels/{id}/given', { params: { path: { id } } })),
  })
