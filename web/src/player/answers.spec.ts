import { describe, expect, it } from 'vitest'
import { isAnswered, merged, nextNumber, timeLeft } from './answers'
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
    const mine = { response: { RESPONSE: ['new'] }, marked: true, number: 9 }
    expect(merged([line(5, 'old'), line(6, 'there')], { 1: mine })).toEqual([
      mine,
      { response: { RESPONSE: ['there'] }, marked: false, number: 6 },
    ])
  })

  it('know an emptied box from an answer', () => {
    const of = (response: Record<string, string[]>) => isAnswered({ response, marked: false, number: 1 })
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
