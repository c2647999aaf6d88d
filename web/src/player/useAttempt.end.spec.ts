import { Line, server } from '@/contract/testServer'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { eachSits, handIn, late, open, save, saved, sit, start, wait, waitingHere, type Sent } from './testSitting'

eachSits()

describe('the end', () => {
  it('hands in only what is on disk', async () => {
    const work = await open()
    server.on(handIn, () => ({ body: { ...sit.take, state: 'handed in', lines: [] } }))
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
    sit.take.stopped = why
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    expect(work.stopped.value).toBe(why)
    work.answer(1, { RESPONSE: ['C'] })
    expect(work.answers.value[0]!.response).toEqual({ RESPONSE: ['B'] })

    sit.take.stopped = ''
    server.on(save, saved)
    Line.open.forEach((l) => l.dispatchEvent(new Event('changed')))
    await wait(300)
    expect(work.stopped.value).toBe('')
    await wait(300)
    expect(work.saved.value).toMatch(/^Saved/)
  })

  it('is reckoned by the server’s clock', async () => {
    sit.take.now = new Date(start.getTime() + 600_000).toISOString() // this device is ten minutes slow
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
    server.on(handIn, () => ({ body: { ...sit.take, state: 'handed in', lines: [] } }))
    server.on(save, () => 'no network')
    work.answer(1, { RESPONSE: ['B'] })
    expect(await work.handIn()).toBe(false)
    expect(work.handingIn.value).toBe(true)
    sit.leave()

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
    sit.take = { ...sit.take, state: 'handed in', lines: [] }
    server.on(save, () => ({ status: 409, body: { status: 409, detail: 'This was handed in.' } }))
    await wait(3_100)
    expect(work.take.value?.state).toBe('handed in')
    expect(work.late.value).toBe(2)
    expect(work.offered.value, 'the teacher could not be reached either').toBe(0)
    expect(localStorage.getItem('pine-ledger-attempt-12')).toContain('"4"')
    sit.leave()

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
