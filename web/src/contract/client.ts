import { QueryClient } from '@tanstack/vue-query'
import createClient from 'openapi-fetch'
import type { components, paths } from './api-schema'

export type Schemas = components['schemas']

/** The contract's operations, typed. */
export const api = createClient<paths>({ baseUrl: '/api', querySerializer: { array: { style: 'form', explode: true } } })

/** What the server refused, in words that a person can act on. */
export class ProblemError extends Error {
  readonly status: number
  readonly fields: Schemas['FieldProblem'][]

  constructor(problem: Partial<Schemas['Problem']>) {
    super(problem.detail ?? 'The server could not be reached. What you typed is still here; try again.')
    this.status = problem.status ?? 0
    this.fields = problem.errors ?? []
  }

  /** What is wrong with one field, '' when nothing is. */
  of(pointer: string): string {
    return this.fields.find((f) => f.pointer === pointer)?.message ?? ''
  }
}

/** Gives the data of a call, or throws a ProblemError. */
export async function call<T>(request: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result
  try {
    result = await request
  } catch {
    throw new ProblemError({})
  }
  if (!result.response.ok) {
    // What stands between here and the server may answer without a problem's body.
    const problem = typeof result.error === 'object' && result.error ? (result.error as Partial<Schemas['Problem']>) : {}
    throw new ProblemError({ status: result.response.status, ...problem })
  }
  return result.data as T
}

// The server may be on this very machine or in the building: what a browser thinks of the network
// beyond does not decide whether it is asked. What is not reached says so.
const networkMode = 'always'

export const queries = new QueryClient({
  defaultOptions: {
    mutations: { networkMode },
    queries: {
      networkMode,
      staleTime: 5_000,
      refetchOnWindowFocus: true,
      retry: (failures, error) => failures < 2 && error instanceof ProblemError && error.status === 0,
    },
  },
})
