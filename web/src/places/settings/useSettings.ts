import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, ref, toValue, type MaybeRefOrGetter } from 'vue'
import { api, call, queries, type Schemas } from '@/contract/client'
import { clockTime } from '@/contract/format'
import type { Place, Setting } from './settings'

/** What one is about to change. */
export interface Change {
  key: string
  /** undefined: the place says nothing any more. */
  value: unknown
  lock: Schemas['SettingLock']
}

const keyOf = (place: Place) => ['settings', place]

/** How things are given at a place: read, changed all at once, and taken back as one. */
export function useSettings(place: MaybeRefOrGetter<Place>) {
  const query = useQuery({
    queryKey: computed(() => keyOf(toValue(place))),
    queryFn: () => call(api.GET('/settings', { params: { query: toValue(place) } })),
    placeholderData: (before) => before,
  })
  const view = computed(() => query.data.value)
  const savedAt = ref('')
  /** What the last change wrote, while it can be taken back. */
  const undoable = ref<{ place: Place; rows: Schemas['SettingsRow'][] }>()

  const body = (changes: Change[], keep: number[]) => ({
    place: toValue(place),
    keep,
    changes: changes.map(({ key, value, lock }) => {
      const here = view.value?.settings.find((s) => s.key === key)?.here
      return { key, lock, ...(value !== undefined && { value }), ...(here && { was: here.value }) }
    }),
  })
  function kept(now: Schemas['Settings']) {
    queries.setQueryData(keyOf(toValue(place)), now)
    void queries.invalidateQueries({ queryKey: ['settings'], refetchType: 'active' })
    void queries.invalidateQueries({ queryKey: ['distribution'] })
    void queries.invalidateQueries({ queryKey: ['sheet'] })
    savedAt.value = clockTime(new Date().toISOString())
  }
  const put = useMutation({
    mutationFn: ({ changes, keep = [] }: { changes: Change[]; keep?: number[] }) =>
      call(api.PUT('/settings', { body: body(changes, keep) })),
    onSuccess: (now) => {
      undoable.value = now.undo.length ? { place: toValue(place), rows: now.undo } : undefined
      kept(now)
    },
    onError: () => void query.refetch(),
  })
  const undo = useMutation({
    mutationFn: () => call(api.POST('/settings/undo', { body: undoable.value! })),
    onSuccess: (now) => {
      undoable.value = undefined
      kept(now)
    },
    onError: () => (undoable.value = undefined),
  })
  const look = useMutation({
    mutationFn: (changes: Change[]) => call(api.POST('/settings/look', { body: body(changes, []) })),
  })
  const byKey = (key: string): Setting | undefined => view.value?.settings.find((s) => s.key === key)
  return { query, view, byKey, put, undo, undoable, look, savedAt }
}

export type OpenSettings = ReturnType<typeof useSettings>
