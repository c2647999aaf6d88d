import type { Schemas } from '@/contract/client'

/** How often a choice or target may still be joined; Infinity where there is no bound. */
export function left(c: Schemas['Choice'], pairs: string[], side: 0 | 1): number {
  if (!c.most) return Infinity
  return c.most - pairs.filter((p) => p.split(' ')[side] === c.id).length
}

/** What formatted text says, for labels and menus, which hold plain words. */
export function plainWords(html: string): string {
  const holder = document.createElement('template')
  holder.innerHTML = html
  return (holder.content.textContent ?? '').trim()
}

export const pairOf = (choice: string, target: string) => `${choice} ${target}`

/**
 * Joins a choice to a target. What no longer fits gives way: a choice that may be
 * joined once leaves its old target, and a full target lets its oldest go.
 */
export function joined(pairs: string[], choice: Schemas['Choice'], target: Schemas['Choice']): string[] {
  const pair = pairOf(choice.id, target.id)
  if (pairs.includes(pair)) return pairs
  let out = pairs
  for (const [c, side] of [
    [choice, 0],
    [target, 1],
  ] as const) {
    if (left(c, out, side) <= 0) {
      const oldest = out.find((p) => p.split(' ')[side] === c.id)
      out = out.filter((p) => p !== oldest)
    }
  }
  return [...out, pair]
}

export function parted(pairs: string[], choice: string, target: string): string[] {
  return pairs.filter((p) => p !== pairOf(choice, target))
}
