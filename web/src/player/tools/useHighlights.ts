import { nextTick, onScopeDispose, watch } from 'vue'
import type { Asides } from '../useAsides'
import { joined, paint, rangeOf, textOf, type Stretch } from './ranges'

/** What can be highlighted, and where it is kept: what hangs on a passage is kept with the passage's first line. */
export interface Region {
  el: Element
  line: number
  /** Names the text; another language is another text. */
  name: string
}
type Kept = Record<string, Stretch[]>

/** Highlights of a page: they show while the text does, whether the tool is open or not. */
export function useHighlights(asides: Asides, regions: () => Region[], shows: () => unknown) {
  const of = (r: Region): Stretch[] => asides.get<Kept>('highlights', r.line, {})[r.name] ?? []
  const set = (r: Region, all: Stretch[]) =>
    asides.put('highlights', r.line, { ...asides.get<Kept>('highlights', r.line, {}), [r.name]: all })

  const draw = () =>
    paint(
      'pine-mark',
      regions().flatMap((r) => of(r).flatMap((s) => rangeOf(r.el, s) ?? [])),
    )
  watch(
    shows,
    async () => {
      await nextTick()
      draw()
    },
    { immediate: true, deep: true },
  )
  onScopeDispose(() => paint('pine-mark', []))

  return {
    regions,
    of,
    add(r: Region, s: Stretch) {
      set(r, joined(of(r), s))
      draw()
    },
    remove(r: Region, s: Stretch) {
      set(
        r,
        of(r).filter((o) => o.from !== s.from || o.to !== s.to),
      )
      draw()
    },
    words: (r: Region, s: Stretch) => textOf(r.el).slice(s.from, s.to).trim(),
  }
}
export type Highlights = ReturnType<typeof useHighlights>
