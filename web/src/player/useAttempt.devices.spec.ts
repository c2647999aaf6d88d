import { server } from '@/contract/testServer'
import { describe, expect, it } from 'vitest'
import { eachSits, look, open, save, saved, sit, start, wait } from './testSitting'

eachSits()

describe('a second device', () => {
  it('that comes later says so', async () => {
    sit.take = { ...sit.take, elsewhere: { at: '2026-10-13T15:58:00Z' } }
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
    sit.take = {
      ...sit.take,
      lines: sit.take.lines.map((l, i) =>
        i === 1 ? { ...l, number: start.getTime() + 30_000, response: { RESPONSE: ['C'] } } : l,
      ),
    }
    await wait(40_000)
    work.answer(1, { RESPONSE: ['B'] })
    await wait(300)
    expect(work.elsewhere.value).toEqual({ at: '2026-10-13T16:00:30Z', later: false })
    expect(work.answers.value[1]!.response).toEqual({ RESPONSE: ['C'] })
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
