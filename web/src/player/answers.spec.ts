import { describe, expect, it } from 'vitest'
import { batches, isAnswered, merged, nextNumber, timeLeft, unsentOf } from './answers'
import { letter } from '@/item/letter'

const shown = { kind: 'number', body: [] }
const line = (number: number, value: string) => ({
  shown,
  line: 1,
  part: 0,
  passage: '',
  marked: false,
  number,
  response: { RESPONSE: [value] },
})

describe('answers on a device', () => {
  it('take what was not sent yet over what the server has', () => {
    const [a] = merged([line(5, 'old')], { 1: { response: { RESPONSE: ['new'] }, marked: true, number: 9 } })
    expect(a).toEqual({ response: { RESPONSE: ['new'] }, marked: true, number: 9, kept: 5 })
    expect(unsentOf([a!])).toEqual({ 1: { response: { RESPONSE: ['new'] }, marked: true, number: 9 } })
  })

  it('leave a newer answer from another device alone', () => {
    const [a] = merged([line(12, 'theirs')], { 1: { response: { RESPONSE: ['mine'] }, marked: false, number: 9 } })
    expect(a!.response).toEqual({ RESPONSE: ['theirs'] })
    expect(unsentOf([a!])).toEqual({})
  })

  it('know an emptied box from an answer', () => {
    const of = (response: Record<string, string[]>) => isAnswered({ response, marked: false, number: 1, kept: 1 })
    expect(of({})).toBe(false)
    expect(of({ RESPONSE: [' '] })).toBe(false)
    expect(of({ RESPONSE: ['0'] })).toBe(true)
  })

  it('number every change later than the one before, whatever the clock does', () => {
    expect(nextNumber(10, 500)).toBe(500)
    expect(nextNumber(500, 499)).toBe(501)
  })
})

describe('the clock', () => {
  it.each([
    [34 * 60_000, '34 min left'],
    [60_000, '1 min left'],
    [59_001, '60 s left'],
    [0, 'Time is over'],
    [3 * 3_600_000, '3 h 0 min left'],
    [3 * 24 * 3_600_000, '3 days left'],
  ])('%i ms', (ms, text) => expect(timeLeft(ms)).toBe(text))
})

describe('letters of choices', () => {
  it('go on after Z', () => expect([0, 25, 26, 27, 52].map(letter)).toEqual(['A', 'Z', 'AA', 'AB', 'BA']))
})

it('sends long essays in several turns, each answer once', () => {
  const essay = (n: number) => ({ response: { RESPONSE: ['é'.repeat(n)] }, marked: false, number: 1 })
  expect(batches({})).toEqual([])
  expect(batches({ 1: essay(10), 2: essay(20), 7: essay(5) })).toEqual([[1, 2, 7]])
  expect(batches({ 1: essay(300_000), 2: essay(100_000), 3: essay(200_000), 4: essay(1) })).toEqual([
    [1, 2],
    [3, 4],
  ])
  expect(batches({ 1: essay(900_000), 2: essay(1) }), 'one that is too long by itself goes alone').toEqual([[1], [2]])
})
