import type { Schemas } from '@/contract/client'
import { day } from '@/contract/format'

/** Who locked a band set and, where it was kept, when: "Ines Okafor of the district on Tue, Oct 13, 2026". */
export function whoLocked(set: Pick<Schemas['BandSet'], 'lockedBy' | 'lockedAt'>): string {
  return `${set.lockedBy} of the district${set.lockedAt ? ` on ${day(set.lockedAt)}` : ''}`
}

/** Whose a band set is: "the district", a school, or a person. */
export function whoseName(set: Pick<Schemas['BandSet'], 'whose' | 'of'>): string {
  return set.whose === 'district' ? 'the district' : set.of
}
