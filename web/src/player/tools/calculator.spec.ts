import { describe, expect, it } from 'vitest'
import { keyTyped, off, pressed, type Key } from './calculator'

/** What the display shows after keys, parted by blanks where they are longer than one. */
function shows(keys: string): string {
  return [...keys].filter((k) => k !== ' ').reduce((c, k) => pressed(c, k as Key), off).shows
}

describe('the calculator', () => {
  it.each([
    ['12+30=', '42'],
    ['0.1+0.2=', '0.3'],
    ['2+3×4=', '20'],
    ['7−9=', '-2'],
    ['10÷4=', '2.5'],
    ['2÷3=', '0.66666666667'],
    ['5+=', '10'],
    ['5+−3=', '2'],
    ['9√', '3'],
    ['2√', '1.41421356237'],
    ['8±+10=', '2'],
    ['123⌫+1=', '13'],
    ['1⌫', '0'],
    ['..5', '0.5'],
    ['007', '7'],
    ['4+4=5', '5'],
    ['9C', '0'],
    ['1÷8=÷8=', '0.015625'],
  ])('%s shows %s', (keys, want) => expect(shows(keys)).toBe(want))

  it('says what cannot be done, and goes on with the next number', () => {
    expect(shows('5÷0=')).toBe('Cannot divide by 0')
    expect(shows('5÷0=+')).toBe('Cannot divide by 0')
    expect(shows('5÷0=7')).toBe('7')
    expect(shows('4±√')).toBe('No square root below 0')
    expect(shows('999999999999×999999999999=')).toBe('Too large')
  })

  it('holds no more digits than the display has', () => {
    expect(shows('1234567890123')).toBe('123456789012')
  })

  it('knows the keys of a keyboard', () => {
    expect(['7', '*', '/', 'Enter', 'Backspace', '-', 'a'].map(keyTyped)).toEqual(['7', '×', '÷', '=', '⌫', '−', undefined])
  })
})
