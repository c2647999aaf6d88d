import type { Schemas } from '@/contract/client'

export type Support = Schemas['Support']
export type Entry = Schemas['ProfileEntry']

/** Who provides it, in words. */
export const provider = { program: 'by itself', person: 'a person gives it', paper: 'on paper' } as const

/** A date as Americans write it; '' for none. */
export const dayName = (day: string) =>
  day &&
  new Date(`${day}T12:00:00Z`).toLocaleDateString('en-US', { timeZone: 'UTC', month: 'short', day: 'numeric', year: 'numeric' })

/** From when to when, as it stands beside an entry. */
export function span(e: { from: string; to: string }) {
  if (e.from && e.to) return `${dayName(e.from)} to ${dayName(e.to)}`
  if (e.to) return `until ${dayName(e.to)}`
  return e.from ? `since ${dayName(e.from)}` : ''
}

/** What a support begins with where nothing was typed yet. */
export function beginning(support: Support): unknown {
  switch (support.kind.type) {
    case 'flag':
      return true
    case 'factor':
      return '1.5'
    case 'number':
      return Math.max(support.kind.least ?? 1, support.key === 'extraMinutes' ? 10 : (support.kind.least ?? 1))
    case 'language':
    case 'choice':
      return support.kind.options?.[0]?.value ?? ''
    case 'picks':
      return support.kind.options?.map((o) => o.value).filter((v) => v !== 'passages') ?? []
    case 'other':
      return { name: '', said: '' }
  }
  return ''
}

/** Supports by their groups, in the catalog's order. */
export function grouped(all: Support[]): [group: string, supports: Support[]][] {
  const out = new Map<string, Support[]>()
  for (const s of all) out.set(s.group, [...(out.get(s.group) ?? []), s])
  return [...out]
}
