import type { Schemas } from '@/contract/client'
import { kindNames } from '@/contract/format'

type Row = Schemas['DrawRow']

/** What a row asks for, as it is planned: 4, 4–6, 8 pt. */
export const planned = (r: Row) => `${r.min}${r.max > r.min ? `–${r.max}` : ''}${r.byPoints ? ' pt' : ''}`

/** A row's name, with its kinds in words where it was named after them. */
export const rowName = (r: Row) =>
  r.title
    .split(', ')
    .map((part) => (kindNames as Record<string, string>)[part] ?? part)
    .join(', ')
