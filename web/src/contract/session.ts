import { computed } from 'vue'
import { useQuery } from '@tanstack/vue-query'
import { api, call, queries, type Schemas } from './client'

export type Session = Schemas['Session']
export type Right = Session['rights'][number]

const key = ['session']

/** Reads who is signed in, from memory when known. */
export function loadSession(): Promise<Session> {
  return queries.fetchQuery({ queryKey: key, queryFn: () => call(api.GET('/session')), staleTime: 60_000 })
}

export function setSession(session: Session) {
  queries.clear()
  queries.setQueryData(key, session)
}

export async function signOut() {
  await call(api.DELETE('/session'))
  queries.clear()
  sessionStorage.clear() // what a child chose in this tab is not the next one's
}

export function useSession() {
  const query = useQuery({ queryKey: key, queryFn: () => call(api.GET('/session')), staleTime: 60_000 })
  const session = computed(() => query.data.value)
  const may = (right: Right) => session.value?.rights.includes(right) ?? false
  return { session, may }
}

/** The place where a person begins. */
export function home(session: Session): string {
  return session.rights.includes('student') ? '/desk' : '/today'
}
