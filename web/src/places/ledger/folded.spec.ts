import { expect, it } from 'vitest'
import type { Schemas } from '@/contract/client'
import { folded } from './folded'

it('sign-ins that follow each other are one run, where they are many', () => {
  const entries = [
    'person.sign-in',
    'person.wrong-try',
    'person.sign-in',
    'assessment.seal',
    'person.sign-in',
    'person.sign-in',
    'distribution.send',
  ].map((act, i) => ({ act, number: 9 - i }) as Schemas['LedgerEntry'])
  expect(folded(entries, 3).map((run) => run.map((e) => e.number))).toEqual([[9, 8, 7], [6], [5], [4], [3]])
  expect(folded([], 3)).toEqual([])
})
