import { server } from './testServer'
import { describe, expect, it } from 'vitest'
import { api, call, ProblemError } from './client'

describe('a call of the contract', () => {
  it('gives the data of the answer', async () => {
    server.on('GET /api/tray', () => ({ body: [{ id: 7 }] }))
    expect(await call(api.GET('/tray'))).toEqual([{ id: 7 }])
  })

  it('writes lists into the address one by one', async () => {
    server.on('DELETE /api/tray', () => ({ body: [] }))
    await call(api.DELETE('/tray', { params: { query: { items: [3, 9] } } }))
    expect(server.asked[0]!.query).toBe('?items=3&items=9')
  })

  it('throws what the server refused, field by field', async () => {
    server.on('POST /api/tray', () => ({
      status: 422,
      body: { status: 422, detail: 'Two things are wrong.', errors: [{ pointer: '/items/0', message: 'There is no item 5.' }] },
    }))
    const error = await call(api.POST('/tray', { body: { items: [5] } })).catch((e: unknown) => e)
    expect(error).toBeInstanceOf(ProblemError)
    const problem = error as ProblemError
    expect(problem.message).toBe('Two things are wrong.')
    expect(problem.status).toBe(422)
    expect(problem.of('/items/0')).toBe('There is no item 5.')
    expect(problem.of('/items/1')).toBe('')
  })

  it('says so when there is no server', async () => {
    server.on('GET /api/tray', () => 'no network')
    const problem = (await call(api.GET('/tray')).catch((e: unknown) => e)) as ProblemError
    expect(problem.status).toBe(0)
    expect(problem.message).toContain('could not be reached')
  })

  it('keeps the status of an answer without a body', async () => {
    server.on('GET /api/tray', () => ({ status: 502 }))
    const problem = (await call(api.GET('/tray')).catch((e: unknown) => e)) as ProblemError
    expect(problem.status).toBe(502)
  })
})
