import { onScopeDispose, toValue, watch, type MaybeRefOrGetter } from 'vue'

const closed = 2 // of an EventSource that will not try again
const again = 5_000 // ms

/**
 * Is told by the server when one of some things has changed, such as `sittings/7` or `panels/3`, and asks again
 * after the line was down. Nothing is polled. A browser holds few lines to one place: name few.
 */
export function useChanges(things: MaybeRefOrGetter<string[]>, changed: () => void) {
  const sources = new Map<string, EventSource>()
  let ended = false
  function listen(thing: string, down = false) {
    const source = new EventSource(`/events/${thing}`)
    source.addEventListener('changed', changed)
    source.addEventListener('error', () => {
      down = true
      if (source.readyState !== closed) return
      // A browser tries again by itself where the line broke, and never where it was refused, as while a server starts.
      setTimeout(() => !ended && sources.get(thing) === source && listen(thing, true), again)
    })
    source.addEventListener('open', () => {
      if (down) changed()
      down = false
    })
    sources.set(thing, source)
  }
  watch(
    () => toValue(things),
    (named) => {
      for (const thing of named) if (!sources.has(thing)) listen(thing)
      for (const [thing, source] of sources)
        if (!named.includes(thing)) {
          source.close()
          sources.delete(thing)
        }
    },
    { immediate: true },
  )
  onScopeDispose(() => {
    ended = true
    sources.forEach((s) => s.close())
  })
}
