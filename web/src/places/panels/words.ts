import type { Schemas } from '@/contract/client'

/** What the ways of judging are called. */
export const methods: Record<Schemas['PanelMethod'], { name: string; what: string }> = {
  angoff: {
    name: 'Ratings (modified Angoff)',
    what: 'For each cut and line judges say what share of its points a student just at the cut would earn.',
  },
  orderedItems: {
    name: 'Ordered items',
    what: 'Judges go through the items from the easiest to the hardest and mark, for each cut, the last one that a student just at the cut would still get.',
  },
}

/** What a panel judges. */
export const formOf = (edition: number) => (edition ? `edition ${edition}` : 'the lines of a draft')

/** A value of a judge, in points or logits. */
export const valued = (v: number, method: Schemas['PanelMethod']) => v.toFixed(method === 'angoff' ? 1 : 2)
export const unitOf = (method: Schemas['PanelMethod']) => (method === 'angoff' ? 'points' : 'logits')
