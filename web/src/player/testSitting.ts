import { server } from '@/contract/testServer'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, vi } from 'vitest'
import { defineComponent } from 'vue'
import { queries, type Schemas } from '@/contract/client'
import { usual } from './how'
import { useAttempt } from './useAttempt'

/** A student's work against a server whose answers a test may change; the clock stands until a test moves it. */
export type Sent = { answers: { line: number; number: number; response: Record<string, string[]>; marked: boolean }[] }

export const save = 'PUT /api/my/attempts/12/answers'
export const look = 'GET /api/my/sittings/3/attempt'
export const begin = 'POST /api/my/sittings/3/attempt'
export const handIn = 'POST /api/my/attempts/12/hand-in'
export const late = 'PUT /api/my/attempts/12/late-answers'
export const start = new Date('2026-10-13T16:00:00Z')

/** What the server has of the attempt, and the page's end. */
export const sit = {} as { take: Schemas['Take']; leave: () => void }

export function line(number = 0, value?: string): Schemas['Take']['lines'][number] {
  return {
    line: 0,
    part: 0,
    shown: { kind: 'number', body: [] },
    passage: '',
    marked: false,
    number,
    response: value ? { RESPONSE: [value] } : {},
  }
}

export async function open() {
  let work!: ReturnType<typeof useAttempt>
  const Screen = defineComponent({
    setup() {
      work = useAttempt(3)
      return () => null
    },
  })
  const screen = mount(Screen)
  sit.leave = () => screen.unmount()
  await work.load()
  return work
}

export const wait = async (ms: number) => {
  await vi.advanceTimersByTimeAsync(ms)
  await flushPromises()
}
export const saves = () => server.calls(save).map((a) => (a.body as Sent).answers)
/** What waits in the browser's store; the name of the device stays. */
export const waitingHere = () =>
  Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i)).filter((k) => k !== 'pine-ledger-device')
export const saved = () => ({ body: { savedAt: new Date().toISOString(), refused: [] } })

/** Each test of a file begins with a fresh page and ends with none. */
export function eachSits() {
  beforeEach(() => {
    sessionStorage.clear()
    vi.useFakeTimers({ now: start })
    queries.setQueryData(['session'], { timeZone: 'UTC' })
    sit.take = {
      attemptId: 12,
      student: 'Mei Sato',
      studentId: 9,
      how: usual,
      try: 1,
      mayRetake: false,
      count: 3,
      minutes: 60,
      leftSeconds: 3_600,
      title: 'Fall',
      instructions: '',
      state: 'working',
      now: start.toISOString(),
      end: new Date(start.getTime() + 3_600_000).toISOString(),
      limited: true,
      stopped: '',
      stoppedBy: '',
      lines: [line(), line(5, '7'), line()].map((l, i) => ({ ...l, line: i + 1 })),
      parts: [],
      passages: [],
    }
    server.on(look, () => ({ body: sit.take }))
    server.on(begin, () => ({ body: sit.take }))
    server.on(save, saved)
  })
  afterEach(() => {
    sit.leave()
    vi.useRealTimers()
  })
}
