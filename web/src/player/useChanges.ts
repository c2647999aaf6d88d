import { onScopeDispose, toValue, watch, type MaybeRefOrGetter } from 'vue'

/**
 * Is told by the server when one of some sittings has changed, and asks again after
 * the line was down. Nothing is polled.
 */
export function useChanges(sittings: MaybeRefOrGetter<number[]>, changed: () => void) {
  const sources = new Map<number, EventSource>()
  function listen(id: number) {
    const source = new EventSource(`/events/sittings/${id}`)
    let down = false
    source.addEventListener('changed', changed)
    source.addEventListener('error', () => (down = true))
    source.addEventListener('open', () => {
      if (down) changed()
      down = false
    })
    sources.set(id, source)
  }
  watch(
    () => toValue(sittings),
    (ids) => {
      for (const id of ids) if (!sources.has(id)) listen(id)
      for (const [id, source] of sources)
        if (!ids.includes(id)) {
          source.close()
          sources.delete(id)
        }
    },
    { immediate: true },
  )
  onScopeDispose(() => sources.forEach((s) => s.close()))
}
