import { Line, server } from '@/contract/testServer'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent } from 'vue'
import { queries, type Schemas } from '@/contract/client'
import { useAttempt } from './useAttempt'

type Sent = { answers: { line: number; number: number; response: Record<string, string[]>; marked: boolean }[] }

const save = 'PUT /api/my/attempts/12/answers'
const look = 'GET /api/my/sittings/3/attempt'
const begin = 'POST /api/my/sittings/3/attempt'
const handIn = 'POST /api/my/attempts/12/hand-in'
const late = 'PUT /api/my/attempts/12/late-answers'
const start = new Date('2026-10-13T16:00:00Z')

let take: Schemas['Take']
let leave: () => void

function line(number = 0, value?: string): Schemas['Take']['lines'][number] {
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

async function open() {
  let work!: ReturnType<typeof useAttempt>
  const Screen = defineComponent({
    setup() {
      work = useAttempt(3)
      return () => null
    },
  })
  const screen = mount(Screen)
  leave = () => screen.unmount()
  await work.load()
  return work
}

const wait = async (ms: number) => {
  await vi.advanceTimersByTimeAsync(ms)
  await flushPromises()
}
const saves = () => server.calls(save).map((a) => (a.body as Sent).answers)
/** What waits in the browser's store; the name of the device stays. */
const waitingHere = () =>
  Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i)).filter((k) => k !== 'pine-ledger-device')
const saved = () => ({ body: { savedAt: new Date().toISOString(), refused: [] } })

beforeEach(() => {
  sessionStorage.clear()
  vi.useFakeTimers({ now: start })
  queries.setQueryData(['session'], { timeZone: 'UTC' })
  take = {
    attemptId: 12,
    student: 'Mei Sato',
    studentId: 9,
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
  server.on(look, () => ({ body: take }))
  server.on(begin, () => ({ body: take }))
  server.on(save, saved)
})
afterEach(() => {
  leave()
  vi.useRealTimers()
})

describe('an answer', () => {
  it('is sent soon, and counts as saved only when the server has said so', async () => {
    const work = await open()
    let acknowledge!: () => void
    server.on(save, () => new Promise((done) => (acknowledge = () => done(saved()))))
    work.answer(1, { RESPONSE: ['B'] })
    expect(work.saved.value).toBe('Saving…')
    await wait(300)
    expect(saves()).toHaveLength(1)
    expect(work.saved.value).toBe('Saving…')
    acknowledge()
    await wait(0)
    expect(work.saved.value).toBe('Saved 4:00 pm')
    expect(work.answered.value).toEqual([true, true, false])
  })

  it('travels with those that changed while the last one was on its way', async () => {
    const work = await open()
    work.answer(1, { RESPONSE: ['B'] })
    work.answer(1, { RESPONSE: ['C'] })
    work.mark(3, true)
    await wait(300)
    expect(saves()).toHaveLength(1)
    expect(saves()[0]).toMatchObject([
      { line: 1, response: { RESPONSE: ['C'] }, marked: false },
      { line: 3, response: {}, marked: true },
    ])
  })

  it('of a drawn line goes under its number on the form, and comes back to its place', async () => {
    take.lines = [line(), line(5, '7')].map((l, i) => ({ ...l, line: [2, 6][i]! }))
    const work = await open()
    work.answer(2, { RESPONSE: ['B'] })
    await wait(300)
    expect(saves()[0]).toMatchObject([{ line: 6, response: { RESPONSE: ['B'] } }])
    expect(work.answers.value.map((a) => a.response)).toEqual([{}, { RESPONSE: ['B'] }])
    expect(work.saved.value).toContain('Saved')
  })

  it('goes in turns where all at once would be too much, and each turn counts', async () => {
    const work = await open()
    const essay = 'x'.repeat(700_000)
    work.answer(1, { RESPONSE: [essay] })
    work.answer(2, { RESPONSE: [essay] })
    let turn = 0
    server.on(save, () => (++turn === 1 ? saved() : 'no network'))
    await wait(300)
    expect(saves().map((list) => list.map((a) => a.line))).toEqual([[1], [2]])
    expect(work.saved.value).not.toContain('Saved')
    server.on(save, saved)
    await wait(3_100)
    expect(
      saves()
        .at(-1)!
        .map((a) => a.line),
      'what was taken is not sent again',
    ).toEqual([2])
    expect(work.saved.value).toContain('Saved')
  })

  it('has a higher number than any before, from this device or another', async () => {
    take.lines[1]!.number = start.getTime() + 60_000 // a device whose clock is ahead
    const work = await open()
    work.answer(2, { RESPONSE: ['8'] })
    work.answer(3, { RESPONSE: ['9'] })
    await wait(300)
    const [two, three] = saves()[0]!
    expect(two!.number).toBe(start.getTime() + 60_001)
    expect(three!.number).toBeGreaterThan(two!.number)
  })

  it('changed while it is being sent is sent again', async () => {
    const work = await open()
    let acknowledge!: () => void
    server.on(save, () => new Promise((done) => (acknowledge = () => done(saved()))))
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    work.answer(1, { RESPONSE: ['D'] })
    server.on(save, saved)
    acknowledge()
    await wait(600)
    expect(saves().at(-1)).toMatchObject([{ line: 1, response: { RESPONSE: ['D'] } }])
    expect(work.saved.value).toMatch(/^Saved/)
  })
})

describe('without a network', () => {
  it('answers wait on the device and go when there is one', async () => {
    const work = await open()
    server.on(save, () => 'no network')
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    expect(work.saved.value).toBe('Not saved yet, will send when the network is back')
    work.answer(3, { RESPONSE: ['4'] })
    server.on(save, saved)
    window.dispatchEvent(new Event('online'))
    await wait(300)
    expect(
      saves()
        .at(-1)!
        .map((a) => a.line),
    ).toEqual([1, 3])
    expect(work.saved.value).toMatch(/^Saved/)
  })

  it('it is tried again by itself', async () => {
    const work = await open()
    server.on(save, () => 'no network')
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    server.on(save, saved)
    await wait(3_000)
    expect(work.saved.value).toMatch(/^Saved/)
  })

  it('a reload keeps what was not sent, and puts it over what the server has', async () => {
    const before = await open()
    server.on(save, () => 'no network')
    before.answer(1, { RESPONSE: ['B'] })
    before.answer(2, { RESPONSE: ['9'] })
    await wait(300)
    leave()

    server.on(save, saved)
    const work = await open()
    expect(work.answers.value.map((a) => a.response)).toEqual([{ RESPONSE: ['B'] }, { RESPONSE: ['9'] }, {}])
    await wait(300)
    expect(
      saves()
        .at(-1)!
        .map((a) => a.line),
    ).toEqual([1, 2])
    expect(waitingHere()).toHaveLength(0)
  })

  it('a newer answer from another device is not written over', async () => {
    const before = await open()
    server.on(save, () => 'no network')
    before.answer(2, { RESPONSE: ['mine'] })
    await wait(300)
    leave()
    take.lines[1] = line(start.getTime() + 3_600_000, 'theirs')
    server.on(save, saved)
    const work = await open()
    await wait(300)
    expect(work.answers.value[1]!.response).toEqual({ RESPONSE: ['theirs'] })
  })
})

describe('the end', () => {
  it('hands in only what is on disk', async () => {
    const work = await open()
    server.on(handIn, () => ({ body: { ...take, state: 'handed in', lines: [] } }))
    server.on(save, () => 'no network')
    work.answer(1, { RESPONSE: ['B'] })
    expect(await work.handIn()).toBe(false)
    expect(server.calls(handIn)).toHaveLength(0)
    server.on(save, saved)
    expect(await work.handIn()).toBe(true)
    expect(work.take.value?.state).toBe('handed in')
  })

  it('of the sitting stops the work and shows why, until the door opens again', async () => {
    const work = await open()
    const why = 'Your teacher has paused this sitting; your answers are kept.'
    server.on(save, () => ({ status: 409, body: { status: 409, detail: why } }))
    take.stopped = why
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    expect(work.stopped.value).toBe(why)
    work.answer(1, { RESPONSE: ['C'] })
    expect(work.answers.value[0]!.response).toEqual({ RESPONSE: ['B'] })

    take.stopped = ''
    server.on(save, saved)
    Line.open.forEach((l) => l.dispatchEvent(new Event('changed')))
    await wait(300)
    expect(work.stopped.value).toBe('')
    await wait(300)
    expect(work.saved.value).toMatch(/^Saved/)
  })

  it('is reckoned by the server’s clock', async () => {
    take.now = new Date(start.getTime() + 600_000).toISOString() // this device is ten minutes slow
    const work = await open()
    expect(work.left.value).toBe(3_000_000)
    await wait(60_000)
    expect(work.left.value).toBe(2_940_000)
  })

  it('of a session is said, and what was answered stays here', async () => {
    const work = await open()
    server.on(save, () => ({ status: 401, body: { status: 401, detail: 'Sign in again; nothing is lost.' } }))
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    expect(work.error.value?.message).toBe(
      'You are signed out. Your answers are kept on this device. Sign in again to send them.',
    )
    expect(work.saved.value).toBe('Not saved: sign in again to send it')
    expect(waitingHere()).toHaveLength(1)
  })

  it('comes by itself where it was asked for without a network', async () => {
    const work = await open()
    server.on(handIn, () => ({ body: { ...take, state: 'handed in', lines: [] } }))
    server.on(save, () => 'no network')
    work.answer(1, { RESPONSE: ['B'] })
    expect(await work.handIn()).toBe(false)
    expect(work.handingIn.value).toBe(true)
    leave()

    const later = await open() // a reload meanwhile forgets nothing
    expect(later.handingIn.value).toBe(true)
    await wait(3_100)
    expect(server.calls(handIn)).toHaveLength(0)
    server.on(save, saved)
    await wait(6_500)
    expect(later.take.value?.state).toBe('handed in')
    expect(later.late.value).toBe(0)
    expect(waitingHere()).toHaveLength(0)
  })

  it('can be put off while it waits', async () => {
    const work = await open()
    server.on(save, () => 'no network')
    work.answer(1, { RESPONSE: ['B'] })
    await work.handIn()
    work.stayOn()
    server.on(save, saved)
    await wait(7_000)
    expect(server.calls(handIn)).toHaveLength(0)
    expect(work.saved.value).toMatch(/^Saved/)
  })

  it('keeps on the device what did not get through before it', async () => {
    const work = await open()
    server.on(save, () => 'no network')
    work.answer(1, { RESPONSE: ['B'] })
    work.answer(3, { RESPONSE: ['4'] })
    await wait(300)
    take = { ...take, state: 'handed in', lines: [] }
    server.on(save, () => ({ status: 409, body: { status: 409, detail: 'This was handed in.' } }))
    await wait(3_100)
    expect(work.take.value?.state).toBe('handed in')
    expect(work.late.value).toBe(2)
    expect(work.offered.value, 'the teacher could not be reached either').toBe(0)
    expect(localStorage.getItem('pine-ledger-attempt-12')).toContain('"4"')
    leave()

    server.on(late, () => ({ body: { waiting: 2 } }))
    const again = await open() // over a reload too
    await flushPromises()
    expect(again.late.value).toBe(2)
    expect(again.offered.value).toBe(2)
    const offered = (server.calls(late).at(-1)!.body as Sent).answers
    expect(offered.map((o) => [o.line, o.response.RESPONSE])).toEqual([
      [1, ['B']],
      [3, ['4']],
    ])
    expect(waitingHere(), 'what the teacher has does not stay on the device').toHaveLength(0)
  })
})

it('sends what an earlier release left on the device without its line', async () => {
  localStorage.setItem(
    'pine-ledger-attempt-12',
    JSON.stringify({ 2: { response: { RESPONSE: ['C'] }, marked: false, number: start.getTime() } }),
  )
  server.on(save, saved)
  await open()
  await wait(300)
  expect(saves().at(-1)).toEqual([{ line: 2, number: start.getTime(), response: { RESPONSE: ['C'] }, marked: false }])
})

describe('a reload without a network', () => {
  it('shows the work as this tab last had it, and goes on', async () => {
    const work = await open()
    server.on(save, saved)
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    work.mark(2, true)
    leave()
    server.on(save, () => 'no network')
    server.on(look, () => 'no network')
    vi.setSystemTime(new Date(start.getTime() + 60_000))

    const later = await open()
    expect(later.error.value).toBeUndefined()
    expect(later.answers.value[0]!.response).toEqual({ RESPONSE: ['B'] })
    expect(later.answers.value[1]!.marked).toBe(true)
    expect(later.left.value).toBe(Date.parse(take.end) - start.getTime() - 60_000)
    later.answer(3, { RESPONSE: ['7'] })
    server.on(save, saved)
    server.on(look, () => ({ body: take }))
    const before = server.calls(look).length
    window.dispatchEvent(new Event('online'))
    await wait(4_000)
    expect(
      saves()
        .at(-1)!
        .some((a) => a.line === 3),
    ).toBe(true)
    expect(server.calls(look).length, 'what the server has is asked for again').toBeGreaterThan(before)
  })

  it('shows nothing of what another tab had, or of what was handed in', async () => {
    await open()
    leave()
    sessionStorage.clear()
    server.on(look, () => 'no network')
    const other = await open()
    expect(other.take.value).toBeUndefined()
    expect(other.error.value).toBeDefined()
    leave()
    for (const now of [{ state: 'handed in' as const }, { stopped: 'Your teacher has closed the door.' }]) {
      server.on(look, () => ({ body: take }))
      await open()
      leave()
      server.on(look, () => ({ body: { ...take, lines: [], ...now } }))
      await open()
      leave()
      server.on(look, () => 'no network')
      expect((await open()).take.value, 'nor behind a shut door').toBeUndefined()
      leave()
    }
  })
})

describe('a second device', () => {
  it('that comes later says so', async () => {
    take = { ...take, elsewhere: { at: '2026-10-13T15:58:00Z' } }
    const work = await open()
    expect(work.elsewhere.value).toEqual({ at: '2026-10-13T15:58:00Z', later: true })
    server.on(save, () => ({ body: { ...saved().body, elsewhere: { at: '2026-10-13T15:58:00Z' } } }))
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    expect(server.calls(look), 'the same news is no news').toHaveLength(1)
  })

  it('is told to the one that was there before, which then shows what was answered there', async () => {
    const work = await open()
    server.on(save, () => ({ body: { ...saved().body, elsewhere: { at: '2026-10-13T16:00:30Z' } } }))
    take = {
      ...take,
      lines: take.lines.map((l, i) => (i === 1 ? { ...l, number: start.getTime() + 30_000, response: { RESPONSE: ['C'] } } : l)),
    }
    await wait(40_000)
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    expect(work.elsewhere.value).toEqual({ at: '2026-10-13T16:00:30Z', later: false })
    expect(work.answers.value[1]!.response).toEqual({ RESPONSE: ['C'] })
  })
})

describe('a save that is refused is no missing network', () => {
  it.each([
    [
      403,
      'You cannot change this work here any more. Your answers are kept on this device. Please tell your teacher.',
      'Not saved',
    ],
    [
      404,
      'You cannot change this work here any more. Your answers are kept on this device. Please tell your teacher.',
      'Not saved',
    ],
    [422, 'One answer could not be saved. Change it, or tell your teacher.', 'Not saved'],
    [500, undefined, 'Not saved yet, will try again in a moment'],
    [429, undefined, 'Not saved yet, will try again in a moment'],
  ])('%i', async (status, says, state) => {
    const work = await open()
    server.on(save, () => ({ status, body: { status, detail: 'x' } }))
    server.on('GET /api/session', () => ({ body: { signedIn: true, personId: 9, name: 'Mei Sato' } }))
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    expect(work.error.value?.message).toBe(says)
    expect(work.saved.value).toBe(state)
    server.on(save, saved)
    work.answer(1, { RESPONSE: ['C'] })
    await wait(300)
    expect(work.saved.value).toMatch(/^Saved/)
  })
})

describe('a device that changes hands', () => {
  it('says that somebody else has signed in, and keeps what is not saved', async () => {
    const work = await open()
    server.on(save, () => ({ status: 404, body: { title: 'Not here', detail: 'There is no such thing.' } }))
    server.on('GET /api/session', () => ({ body: { signedIn: true, personId: 10, name: 'Mei Sato' } }))
    work.answer(1, { RESPONSE: ['4'] })
    await wait(300)
    expect(work.error.value?.message).toMatch(/^Somebody else has signed in on this device/)
    expect(work.saved.value).toBe('Not saved: sign in again to send it')
    expect(localStorage.getItem('pine-ledger-attempt-12')).toContain('"4"')
  })
})

describe('before it is begun', () => {
  it('looking starts nothing, and Begin does', async () => {
    const working = take
    take = { ...take, attemptId: 0, state: 'not begun', lines: [] }
    server.on(begin, () => ({ body: working }))
    const work = await open()
    expect(work.answers.value).toHaveLength(0)
    expect(server.calls(begin)).toHaveLength(0)
    await work.begin()
    expect(work.answers.value).toHaveLength(3)
  })
})

describe('an answer that is none to its line', () => {
  it('is set aside and said, and holds up no other', async () => {
    const work = await open()
    server.on(save, () => ({
      body: { savedAt: start.toISOString(), refused: [{ line: 1, message: 'Line 1: it is not offered.' }] },
    }))
    work.answer(1, { RESPONSE: ['Z'] })
    work.answer(3, { RESPONSE: ['5'] })
    await wait(300)
    expect(work.error.value?.message).toBe('Item 1 could not be saved as it is. Change it, or tell your teacher.')
    await wait(5_000)
    expect(saves()).toHaveLength(1)
  })
})
