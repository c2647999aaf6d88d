import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, call, queries } from '@/contract/client'

/** An item with what its viewer may do with it. */
export function useItem(id: () => number, version: () => number | undefined = () => undefined) {
  const detail = useQuery({
    queryKey: ['item', computed(id), computed(version)],
    queryFn: () => call(api.GET('/items/{id}', { params: { path: { id: id() }, query: { version: version() } } })),
    staleTime: 60_000,
    placeholderData: keepPreviousData,
  })
  /** Whether an act is allowed, and why not. */
  const right = (act: string) => detail.data.value?.rights.find((r) => r.act === act)
  const may = (act: string) => right(act)?.may ?? false
  return { detail, right, may }
}

/** Everything that is shown of items is asked for again. */
export function refreshItems() {
  return Promise.all(
    ['items', 'item', 'item-uses', 'item-versions', 'item-reports', 'item-holds', 'tray', 'today'].map((k) =>
      queries.invalidateQueries({ queryKey: [k] }),
    ),
  )
}
