import type { Schemas } from '@/contract/client'

/** What a standard is to the other one, as one reads it. */
export const linkNames: Record<Schemas['StandardLink']['kind'], string> = {
  exactMatchOf: 'the same as',
  isRelatedTo: 'related to',
  isPartOf: 'wider than its part',
  replacedBy: 'another edition of',
}
