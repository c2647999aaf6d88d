import { vi } from 'vitest'
import type { components, paths } from './api-schema'

/** What a test's server was asked. */
export interface Asked {
  method: string
  path: string
  query: string
  ifMatch: string | null
  body: unknown
}

/** Whether a path, part by part, is one of the contract's; what stands there in braces is anything. */
type Fits<Path, Of> = Path extends `${infer A}/${infer Rest}`
  ? Of extends `${infer B}/${infer OfRest}`
    ? B extends `{${string}}`
      ? Fits<Rest, OfRest>
      : A extends B
        ? Fits<Rest, OfRest>
        : false
    : false
  : Of extends `${string}/${string}`
    ? false
    : Of extends `{${string}}`
      ? true
      : Path extends Of
        ? true
        : false
type PathOf<Path> = { [P in keyof paths]: Fits<Path, `/api${P}`> extends true ? P : never }[keyof paths]

/** The operation of a call as a test writes it: a method, a space, a path. */
type OperationOf<Call> = Call extends `${infer M} ${infer Path}`
  ? paths[PathOf<Path>][Lowercase<M> & keyof paths[PathOf<Path>]]
  : never

/** A stub may leave out what its test does not look at. What it has is as the contract says. */
type Stub<T> = T extends (infer E)[] ? Stub<E>[] : T extends object ? { [K in keyof T]?: Stub<T[K]> } : T

type Content<R> = R extends { content: infer C } ? C[keyof C] : never
type Success<Operation> = Operation extends { responses: infer R } ? Content<R[keyof R & (200 | 201 | 202)]> : never
type Problem = components['schemas']['Problem']

type Answer<Call> = { status?: number; body?: Stub<Success<OperationOf<Call>>> | Stub<Problem> } | 'no network'

/**
 * Stands in for the server in unit tests: answers by method and path, and remembers
 * what it was asked. It is there before anything imports the client, see testSetup.ts.
 */
export const server = {
  asked: [] as Asked[],
  answers: new Map<string, (asked: Asked) => unknown>(),
  on<Call extends string>(
    call: [OperationOf<Call>] extends [never] ? never : Call,
    answer: (asked: Asked) => Answer<Call> | Promise<Answer<Call>>,
  ) {
    this.answers.set(call, answer)
  },
  reset() {
    this.asked.length = 0
    this.answers.clear()
    Line.open = []
  },
  calls(call: string) {
    return this.asked.filter((a) => `${a.method} ${a.path}` === call)
  },
}

/** The lines on which a test's server tells of changes. */
export class Line extends EventTarget {
  static open: Line[] = []
  constructor(readonly url: string) {
    super()
    Line.open.push(this)
  }
  close() {
    Line.open = Line.open.filter((l) => l !== this)
  }
}
vi.stubGlobal('EventSource', Line)

vi.stubGlobal('fetch', async (request: Request) => {
  const url = new URL(request.url, 'http://localhost')
  const text = await request.text()
  const asked: Asked = {
    method: request.method,
    path: url.pathname,
    query: url.search,
    ifMatch: request.headers.get('If-Match'),
    body: text ? (JSON.parse(text) as unknown) : undefined,
  }
  server.asked.push(asked)
  const answer = (await server.answers.get(`${asked.method} ${asked.path}`)?.(asked)) as
    { status?: number; body?: unknown } | 'no network' | undefined
  if (answer === 'no network') throw new TypeError('Failed to fetch')
  if (!answer) throw new Error(`the test's server has no answer to ${asked.method} ${asked.path}`)
  const { status = 200, body } = answer
  return new Response(body === undefined ? null : JSON.stringify(body), {
    status,
    headers: { 'Content-Type': status < 400 ? 'application/json' : 'application/problem+json' },
  })
})
