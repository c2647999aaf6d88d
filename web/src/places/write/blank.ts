import blanks from './blank.gen.json'
import type { Declaration, DocumentPlace } from './document'

/** The kinds that one of several parts can have. */
export const partKinds = blanks.map((b) => b.kind)

/** A place to answer with nothing in it yet, as the server begins one. */
export function blankPart(kind: string, response: string): { place: DocumentPlace; key: Declaration } {
  const { place, key } = structuredClone(blanks.find((b) => b.kind === kind)!) as { place: DocumentPlace; key: Declaration }
  return { place: { ...place, response }, key: { ...key, response } }
}
