import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, call, queries } from '@/contract/client'

const key = ['tray']

/** The items picked so far. */
export function useTray() {
  const tray = useQuery({ queryKey: key, queryFn: () => call(api.GET('/tray')) })
  const items = computed(() => tray.data.value ?? [])
  const pick = useMutation({
    mutationFn: (ids: number[]) => call(api.POST('/tray', { body: { items: ids } })),
    onSuccess: (now) => queries.setQueryData(key, now),
  })
  const putBack = useMutation({
    mutationFn: (ids: number[]) => call(api.DELETE('/tray', { params: { query: { items: ids } } })),
    onSuccess: (now) => queries.setQueryData(key, now),
  })
  const has = (id: number) => items.value.some((i) => i.id === id)
  const toggle = (id: number) => (has(id) ? putBack.mutate([id]) : pick.mutate([id]))
  const error = computed(() => pick.error.value ?? putBack.error.value)
  return { items, has, toggle, pick, putBack, error }
}
