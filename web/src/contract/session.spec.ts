import { expect, it } from 'vitest'
import { setSession, type Session } from './session'

it('forgets what the tab remembers of another student when somebody signs in', () => {
  sessionStorage.setItem('pine-ledger-take-3', '{}')
  sessionStorage.setItem('pine-ledger-answers-3', '[]')
  sessionStorage.setItem('language', 'es')
  setSession({ signedIn: true, personId: 9, name: 'Mei Sato', rights: ['student'] } as unknown as Session)
  expect(sessionStorage.getItem('pine-ledger-take-3')).toBeNull()
  expect(sessionStorage.getItem('pine-ledger-answers-3')).toBeNull()
  expect(sessionStorage.getItem('language'), 'what they chose to read in stays').toBe('es')
  expect(sessionStorage.getItem('pine-ledger-session')).toContain('Mei Sato')
})
