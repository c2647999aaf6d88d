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
/** Without a network a student's tab goes on as whose it was. */
async function readSession(): Promise<Session> {
  try {
    const session = await call(api.GET('/session'))
    if (session.rights.includes('student')) sessionStorage.setItem(remembered, JSON.stringify(session))
    else sessionStorage.removeItem(remembered)
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
