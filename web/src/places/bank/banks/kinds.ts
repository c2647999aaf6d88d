import type { Schemas } from '@/contract/client'

/** Whose a bank of a kind is. */
export const kindOf: Record<Schemas['BankKind'], string> = {
  district: 'the district’s',
  school: 'a school’s',
  group: 'a group’s',
  own: 'one’s own',
  given: 'bought or given, read only',
}
