import { server } from '@/contract/testServer'
import { describe, expect, it } from 'vitest'
import { begin, eachSits, line, open, save, saved, saves, sit, start, wait } from './testSitting'

eachSits()

describe('before it is begun', () => {
  it('looking starts nothing, and Begin does', async () => {
    const working = sit.take
    sit.take = { ...sit.take, attemptId: 0, state: 'not begun', lines: [] }
    server.on(begin, () => ({ body: working }))
    const work = await open()
    expect(work.answers.value).toHaveLength(0)
    expect(server.calls(begin)).toHaveLength(0)
    await work.begin()
    expect(work.answers.value).toHaveLength(3)
  })
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
    sit.take.lines = [line(), line(5, '7')].map((l, i) => ({ ...l, line: [2, 6][i]! }))
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
    sit.take.lines[1]!.number = start.getTime() + 60_000 // a device whose clock is ahead
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

describe('a door that closes by itself', () => {
  it('is told in its last five minutes', async () => {
    sit.take.doorClosesAt = new Date(start.getTime() + 7 * 60_000).toISOString()
    const work = await open()
    expect(work.bell.value).toBeUndefined()
    await wait(2 * 60_000)
    expect(work.bell.value).toBe(5)
    await wait(4 * 60_000)
    expect(work.bell.value).toBe(1)
    await wait(61_000)
    expect(work.bell.value, 'the door tells the rest').toBeUndefined()
  })
})
