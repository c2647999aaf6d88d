/** A stretch of an element's text, counted in its characters. */
export interface Stretch {
  from: number
  to: number
}

function textNodes(el: Element): Text[] {
  const walker = document.createTreeWalker(el, NodeFilter.SHOW_TEXT)
  const out: Text[] = []
  while (walker.nextNode()) out.push(walker.currentNode as Text)
  return out
}

export const textOf = (el: Element) =>
  textNodes(el)
    .map((n) => n.data)
    .join('')

/** Where in an element's text a place of the page is; nothing where it lies outside. */
function offsetOf(el: Element, node: Node, offset: number): number | undefined {
  if (!el.contains(node)) return undefined
  const before = document.createRange()
  before.setStart(el, 0)
  before.setEnd(node, offset)
  return before.toString().length
}

/** The part of a selection that lies in an element. */
export function stretchOf(el: Element, range: Range): Stretch | undefined {
  const whole = document.createRange()
  whole.selectNodeContents(el)
  if (range.compareBoundaryPoints(Range.END_TO_START, whole) >= 0 || range.compareBoundaryPoints(Range.START_TO_END, whole) <= 0)
    return undefined
  const from = offsetOf(el, range.startContainer, range.startOffset) ?? 0
  const to = offsetOf(el, range.endContainer, range.endOffset) ?? textOf(el).length
  return from < to ? { from, to } : undefined
}

/** The place of the page that a stretch of an element's text is. */
export function rangeOf(el: Element, { from, to }: Stretch): Range | undefined {
  const range = document.createRange()
  let at = 0
  let begun = false
  for (const node of textNodes(el)) {
    const end = at + node.data.length
    if (!begun && from < end) {
      range.setStart(node, Math.max(0, from - at))
      begun = true
    }
    if (begun && to <= end) {
      range.setEnd(node, to - at)
      return range
    }
    at = end
  }
  return undefined
}

/** Adds a stretch to others; those that touch become one. */
export function joined(all: Stretch[], added: Stretch): Stretch[] {
  const apart = all.filter((s) => s.to < added.from || s.from > added.to)
  const near = all.filter((s) => !apart.includes(s))
  const one = { from: Math.min(added.from, ...near.map((s) => s.from)), to: Math.max(added.to, ...near.map((s) => s.to)) }
  return [...apart, one].toSorted((a, b) => a.from - b.from)
}

/** The sentences of an element's text. */
export function sentencesOf(el: Element): Stretch[] {
  const text = textOf(el)
  const parts = new Intl.Segmenter(el.closest('[lang]')?.getAttribute('lang') || 'en', { granularity: 'sentence' })
  return [...parts.segment(text)]
    .map(({ index, segment }) => {
      const from = index + (segment.length - segment.trimStart().length)
      return { from, to: index + segment.trimEnd().length }
    })
    .filter((s) => s.to > s.from)
}

/** Marks places of the page by a name that the styles know. A browser that cannot marks nothing. */
export function paint(name: string, ranges: Range[]) {
  const all = (CSS as unknown as { highlights?: Map<string, unknown> }).highlights
  if (!all || typeof Highlight === 'undefined') return
  if (ranges.length) all.set(name, new Highlight(...ranges))
  else all.delete(name)
}
