import { vi } from 'vitest'

/** What a test's server was asked. */
export interface Asked {
  method: string
  path: string
  query: string
  ifMatch: string | null
  body: unknown
}

type Answer = { status?: number; body?: unknown } | 'no network'

/**
 * Stands in for the server in unit tests: answers by method and path, and remembers
 * what it was asked. Import it before anything that imports the client.
 */
export const server = {
  asked: [] as Asked[],
  answers: new Map<string, (asked: Asked) => Answer | Promise<Answer>>(),
  on(call: string, answer: (asked: Asked) => Answer | Promise<Answer>) {
    this.answers.set(call, answer)
  },
  reset() {
    this.asked.length = 0
    this.answers.clear()
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
  const answer = await server.answers.get(`${asked.method} ${asked.path}`)?.(asked)
  if (answer === 'no network') throw new TypeError('Failed to fetch')
  if (!answer) throw new Error(`the test's server has no answer to ${asked.method} ${asked.path}`)
  const { status = 200, body } = answer
  return new Response(body === undefined ? null : JSON.stringify(body), {
    status,
    headers: { 'Content-Type': status < 400 ? 'application/json' : 'application/problem+json' },
  })
})
