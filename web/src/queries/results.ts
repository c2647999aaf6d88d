import { queryOptions } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, call } from '@/contract/client'

/** What has results that one may read. */
export const results = queryOptions({ queryKey: ['results'], queryFn: () => call(api.GET('/results')) })

/** A distribution by band and by the standards below one; the topmost for ''. */
export const byBand = (distribution: MaybeRefOrGetter<number>, parent: MaybeRefOrGetter<string> = '') =>
  queryOptions({
    queryKey: ['by-band', distribution, parent],
    queryFn: () =>
      call(
        api.GET('/results/{id}/bands', {
          params: { path: { id: toValue(distribution) }, query: { parent: toValue(parent) || undefined } },
        }),
      ),
  })
