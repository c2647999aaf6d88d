import { computed, ref } from 'vue'

/** Items marked for one act on several; a range reaches from the last mark. */
export function useMarked(shown: () => number[]) {
  const marked = ref(new Set<number>())
  let last: number | undefined

  function mark(id: number, range = false) {
    const ids = shown()
    const [from, to] = [ids.indexOf(last ?? id), ids.indexOf(id)]
    const on = !marked.value.has(id)
    const reach = range && from >= 0 && to >= 0 ? ids.slice(Math.min(from, to), Math.max(from, to) + 1) : [id]
    for (const one of reach) {
      if (on) marked.value.add(one)
      else marked.value.delete(one)
    }
    last = id
  }
  function set(ids: number[]) {
    marked.value = new Set(ids)
  }
  return { marked, ids: computed(() => [...marked.value]), mark, set, clear: () => set([]) }
}
