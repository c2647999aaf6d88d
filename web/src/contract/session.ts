import { computed } from 'vue'
import { useQuery } from '@tanstack/vue-query'
import { forgetContent } from '@/kept/caches'
import { awayOf } from '@/kept/outbox'
import { api, call, queries, type Schemas } from './client'

export type Session = Schemas['Session']
export type Right = Session['rights'][number]

const key = ['session']

/** Reads who is signed in, from memory when known. */
export function loadSession(): Promise<Session> {
  return queries.fetchQuery({ queryKey: key, queryFn: readSession, staleTime: 60_000 })
}

const remembered = 'pine-ledger-session'
function remember(session: Session) {
  try {
    if (session.rights.includes('student')) sessionStorage.setItem(remembered, JSON.stringify(session))
    else sessionStorage.removeItem(remembered)
  } catch {
    // The browser's store is full or shut: a reload then asks for the network.
  }
}
/** Without a network a student's tab goes on as whose it was. */
async function readSession(): Promise<Session> {
  try {
    const session = await call(api.GET('/session'))
    remember(session)
    return session
  } catch (e) {
    const before = sessionStorage.getItem(remembered)
    if (before && awayOf(e) === 'network') return JSON.parse(before) as Session
    throw e
  }
}

export function setSession(session: Session) {
  queries.clear()
  queries.setQueryData(key, session)
  // Whoever signs in after a session that ran out must not find the work that this tab remembers of another.
  const names = Array.from({ length: sessionStorage.length }, (_, i) => sessionStorage.key(i) ?? '')
  for (const name of names) if (/^pine-ledger-(take|answers)-/.test(name)) sessionStorage.removeItem(name)
  remember(session)
}

export async function signOut() {
  await call(api.DELETE('/session'))
  queries.clear()
  sessionStorage.clear() // what a child chose in this tab is not the next one's
  forgetContent() // nor are the pictures of the items
}

export function useSession() {
  const query = useQuery({ queryKey: key, queryFn: readSession, staleTime: 60_000 })
  const session = computed(() => query.data.value)
  const may = (right: Right) => session.value?.rights.includes(right) ?? false
  return { session, may }
}

/** The place where a person begins. */
export function home(session: Session): string {
  return session.rights.includes('student') ? '/desk' : '/today'
}
