import { server } from '@/contract/testServer'
import { describe, expect, it, vi } from 'vitest'
import { eachSits, line, look, open, save, saved, saves, sit, start, wait, waitingHere } from './testSitting'

eachSits()

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
    sit.leave()

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
    sit.leave()
    sit.take.lines[1] = line(start.getTime() + 3_600_000, 'theirs')
    server.on(save, saved)
    const work = await open()
    await wait(300)
    expect(work.answers.value[1]!.response).toEqual({ RESPONSE: ['theirs'] })
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
    sit.leave()
    server.on(save, () => 'no network')
    server.on(look, () => 'no network')
    vi.setSystemTime(new Date(start.getTime() + 60_000))

    const later = await open()
    expect(later.error.value).toBeUndefined()
    expect(later.answers.value[0]!.response).toEqual({ RESPONSE: ['B'] })
    expect(later.answers.value[1]!.marked).toBe(true)
    expect(later.left.value).toBe(Date.parse(sit.take.end) - start.getTime() - 60_000)
    later.answer(3, { RESPONSE: ['7'] })
    server.on(save, saved)
    server.on(look, () => ({ body: sit.take }))
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
    sit.leave()
    sessionStorage.clear()
    server.on(look, () => 'no network')
    const other = await open()
    expect(other.take.value).toBeUndefined()
    expect(other.error.value).toBeDefined()
    sit.leave()
    for (const now of [{ state: 'handed in' as const }, { stopped: 'Your teacher has closed the door.' }]) {
      server.on(look, () => ({ body: sit.take }))
      await open()
      sit.leave()
      server.on(look, () => ({ body: { ...sit.take, lines: [], ...now } }))
      await open()
      sit.leave()
      server.on(look, () => 'no network')
      expect((await open()).take.value, 'nor behind a shut door').toBeUndefined()
      sit.leave()
    }
  })
})
