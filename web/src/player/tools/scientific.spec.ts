import { describe, expect, it } from 'vitest'
import { worked, writes } from './scientific'

describe('the scientific calculator', () => {
  it.each([
    ['2+3×4', '14'],
    ['(2+3)×4', '20'],
    ['0.1+0.2', '0.3'],
    ['7−10', '-3'],
    ['−2^2', '-4'],
    ['(−2)^2', '4'],
    ['2^−2', '0.25'],
    ['2^3^2', '512'],
    ['2^0.5', '1.41421356237'],
    ['√(16)', '4'],
    ['√16+9', '13'],
    ['10÷4', '2.5'],
    ['1÷3', '0.33333333333'],
    ['50%', '0.5'],
    ['200×15%', '30'],
    ['sin(30)', '0.5'],
    ['sin(180)', '0'],
    ['cos(90)', '0'],
    ['cos(60)', '0.5'],
    ['tan(45)', '1'],
    ['log(1000)', '3'],
    ['ln(1)', '0'],
    ['π×2', '6.28318530718'],
    ['.5+.5', '1'],
    ['2 + 2', '4'],
  ])('works out %s as %s', (line, value) => {
    expect(worked(line)).toBe(value)
  })

  it.each([
    ['2+', 'This line is not complete'],
    ['(2', 'This line is not complete'],
    ['2)', 'This line is not complete'],
    ['2 3', 'This line is not complete'],
    ['', 'This line is not complete'],
    ['alert(1)', 'This line is not complete'],
    ['4÷0', 'Cannot divide by 0'],
    ['0^−1', 'Cannot divide by 0'],
    ['√(−4)', 'No square root below 0'],
    ['tan(90)', 'There is no such value'],
    ['log(0)', 'There is no such value'],
    ['9^400', 'Too large'],
  ])('says why %s has no value', (line, why) => {
    expect(worked(line)).toBe(why)
  })

  it('writes what the keyboard has for each sign', () => {
    expect(['-', '*', '/', ',', '7', '(', '^', 'a', 'Tab'].map(writes)).toEqual(['−', '×', '÷', '.', '7', '(', '^', '', ''])
  })
})
