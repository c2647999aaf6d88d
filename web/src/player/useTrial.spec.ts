import { beforeEach, describe, expect, it } from 'vitest'
import { server } from '@/contract/testServer'
import { useTrial } from './useTrial'

const line = { shown: { kind: 'number', body: [] }, passage: '', response: {}, marked: false, number: 0 }

describe('trying an assessment', () => {
  beforeEach(() => {
    server.reset()
    server.on('GET /api/assessments/7/preview', () => ({
      body: { attemptId: 0, title: 'Tide quiz', state: 'working', stopped: '', lines: [line, line], passages: [] },
    }))
  })

  it('answers and hands in like a student, and sends nothing', async () => {
    const trial = useTrial(7, () => 7)
    await trial.load()
    trial.answer(2, { RESPONSE: ['12'] })
    trial.mark(1, true)
    expect(trial.answered.value).toEqual([false, true])
    expect(trial.answers.value[0]!.marked).toBe(true)
    await trial.handIn()
    expect(trial.take.value?.state).toBe('handed in')
    expect(server.calls('PUT /api/my/attempts/0/answers')).toHaveLength(0)
  })

  it('says what keeps it from being shown', async () => {
    server.on('GET /api/assessments/7/preview', () => ({ status: 404, body: { status: 404, detail: 'There is no such thing.' } }))
    const trial = useTrial(7, () => 7)
    await trial.load()
    expect(trial.error.value?.message).toBe('There is no such thing.')
  })
})
