import type { Schemas } from '@/contract/client'

/** Says what a caution of the core means, in a sentence. */
export function cautionText(c: Schemas['Caution'], cuts: Schemas['Cuts']): string {
  const start = cuts.starts.find((s) => s.name === c.bands.at(-1))
  switch (c.kind) {
    case 'sameRaw':
      return `They begin at the same raw score, ${start?.raw}, so no student can be in the lower of them.`
    case 'aboveTotal':
      return `No score reaches it: the form is worth ${cuts.total} points.`
    case 'unreachable':
      return `${start?.raw} is no score of this form, whose scores move in steps of ${cuts.grain}.`
    case 'otherTotal':
      return `Its raw cut was set for a form with another total than ${cuts.total}. Confirm it or set it again.`
    case 'order':
      return 'The second begins below the first.'
  }
}
