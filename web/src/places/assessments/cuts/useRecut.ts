import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type MaybeRefOrGetter, toValue } from 'vue'
import { api, call, type Schemas } from '@/contract/client'
import { download } from '@/contract/download'

/** How the cuts of a sealed form became what they are. */
export function useCutsHistory(assessment: MaybeRefOrGetter<number>, sealed: MaybeRefOrGetter<boolean>) {
  return useQuery({
    queryKey: ['cuts-of-record', computed(() => toValue(assessment))],
    queryFn: () => call(api.GET('/assessments/{id}/cuts-of-record', { params: { path: { id: toValue(assessment) } } })),
    enabled: computed(() => toValue(sealed)),
  })
}

/** Other cuts for results: who would move, and the change itself with its reason. */
export function useRecut(assessment: number, bands: Schemas['Band'][], from: number) {
  const queries = useQueryClient()
  const params = { path: { id: assessment } }
  const moves = useQuery({
    queryKey: ['cuts-of-record', assessment, 'weigh', bands, from],
    queryFn: () => call(api.POST('/assessments/{id}/cuts-of-record/weigh', { params, body: { bands } })),
    retry: false,
    gcTime: 0, // who moves is asked anew each time
  })
  const change = useMutation({
    mutationFn: (reason: string) => call(api.POST('/assessments/{id}/cuts-of-record', { params, body: { bands, reason, from } })),
    onSuccess: (now) => {
      queries.setQueryData(['cuts-of-record', assessment], now)
      // Bands stand on many pages: each is read anew.
      void queries.invalidateQueries()
    },
  })
  /** Who moves, all of them, as a file; asked for here and not by a link, since the cuts go with it. */
  const save = useMutation({
    mutationFn: () => call(api.POST('/assessments/{id}/cuts-of-record/moved.csv', { params, body: { bands }, parseAs: 'blob' })),
    onSuccess: (file) => download(file as unknown as Blob, 'Students whose band would change.csv'),
  })
  return { moves, change, save }
}
