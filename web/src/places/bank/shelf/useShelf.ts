import { keepPreviousData, useInfiniteQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import { api, call } from '@/contract/client'

/** The media shelf, page by page. */
export function useShelf(words: Ref<string>, unused: Ref<boolean>) {
  const settled = refDebounced(words, 180)
  const shelf = useInfiniteQuery({
    queryKey: ['shelf', settled, unused],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      call(
        api.GET('/shelf', {
          params: { query: { words: settled.value, unused: unused.value || undefined, before: pageParam || undefined } },
        }),
      ),
    getNextPageParam: (last) => last.next,
    placeholderData: keepPreviousData,
  })
  const files = computed(() => shelf.data.value?.pages.flatMap((p) => p.files) ?? [])
  return { shelf, files, settled }
}
