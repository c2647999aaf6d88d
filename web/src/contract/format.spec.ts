import { describe, expect, it } from 'vitest'
import { queries } from './client'
import {
  capital,
  clockTime,
  day,
  gradeName,
  gradesName,
  kindName,
  languageName,
  moment,
  plural,
  pValue,
  runs,
  tenths,
  windowOf,
} from './format'

const inZone = (timeZone: string) => queries.setQueryData(['session'], { timeZone })

describe('dates', () => {
  it('are shown in the zone of the district, not of the device', () => {
    inZone('America/Denver')
    expect(moment('2026-10-13T15:40:00Z')).toBe('Tue, Oct 13, 2026, 9:40 am')
    expect(clockTime('2026-10-13T23:05:00Z')).toBe('5:05 pm')
    inZone('Pacific/Auckland')
    expect(day('2026-10-13T15:40:00Z')).toBe('Wed, Oct 14, 2026')
  })

  it('follow the clock when it is turned back in autumn', () => {
    inZone('America/Los_Angeles')
    expect(clockTime('2026-11-01T08:30:00Z')).toBe('1:30 am')
    expect(clockTime('2026-11-01T09:30:00Z')).toBe('1:30 am')
    expect(clockTime('2026-11-01T10:30:00Z')).toBe('2:30 am')
  })

  it('leave the year of a window to its end', () => {
    inZone('UTC')
    expect(windowOf('2026-12-30T08:00:00Z', '2027-01-08T16:00:00Z')).toBe('Wed, Dec 30 – Fri, Jan 8, 2027')
    expect(windowOf('2026-12-30T08:00:00Z', '2026-12-30T10:30:00Z')).toBe('Wed, Dec 30, 2026, 8:00 am – 10:30 am')
  })
})

describe('figures', () => {
  it.each([
    [633, '63.3'],
    [0, '0.0'],
    [1000, '100.0'],
    [-1, '–'],
    [undefined, '–'],
  ])('%s tenths of a percent are %s', (n, text) => expect(tenths(n)).toBe(text))

  it.each([
    [712, '.71'],
    [50, '.05'],
    [1000, '1.00'],
    [0, '.00'],
    [undefined, '–'],
  ])('a p-value of %s thousandths is %s', (n, text) => expect(pValue(n)).toBe(text))

  it('count with their noun', () => {
    expect(plural(1, 'line')).toBe('1 line')
    expect(plural(0, 'line')).toBe('0 lines')
    expect(plural(2934, 'student')).toBe('2,934 students')
  })
})

describe('names', () => {
  it('of grades', () => {
    expect(gradeName('KG')).toBe('K')
    expect(gradeName('06')).toBe('6')
    expect(gradeName('10')).toBe('10')
    expect(gradesName(['06'])).toBe('grade 6')
    expect(gradesName(['03', '04'])).toBe('grades 3, 4')
  })

  it('of kinds and languages, and codes that are not known yet as they are', () => {
    expect(kindName('number')).toBe('typed number')
    expect(kindName('hotspot')).toBe('hotspot')
    expect(languageName('es')).toBe('Spanish')
    expect(languageName('tl')).toBe('tl')
    expect(capital('mathematics')).toBe('Mathematics')
    expect(capital('')).toBe('')
  })
})

describe('runs of numbers', () => {
  it.each([
    [[], ''],
    [[4], '4'],
    [[1, 2], '1, 2'],
    [[1, 2, 3, 6, 8, 9, 10], '1–3, 6, 8–10'],
  ])('%j', (numbers, said) => expect(runs(numbers)).toBe(said))
})
