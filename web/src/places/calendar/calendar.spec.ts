import { describe, expect, it } from 'vitest'
import { daysOffSaid, lanesOf, monday, monthStart, placeOf, weeksOf, type Window } from './calendar'

const window = (from: string, to: string) => ({ from, to, title: 'Short' }) as Window

describe('the weeks of a calendar', () => {
  it('begin on Mondays, also that of the week in which a month begins', () => {
    expect(monday('2027-01-01')).toBe('2026-12-28')
    expect(monday('2026-12-28')).toBe('2026-12-28')
    expect(monday('2027-01-03')).toBe('2026-12-28')
    expect(weeksOf('2027-01-01', '2027-01-18')).toEqual(['2026-12-28', '2027-01-04', '2027-01-11', '2027-01-18'])
    expect(monthStart('2026-12-30', 2)).toBe('2027-02-01')
    expect(monthStart('2026-01-30', -1)).toBe('2025-12-01')
  })

  it('have a place for each school day, and weekends at their end', () => {
    const weeks = ['2027-01-04', '2027-01-11']
    expect(placeOf('2027-01-04', weeks)).toBe(0)
    expect(placeOf('2027-01-08', weeks, true)).toBe(0.5)
    expect(placeOf('2027-01-09', weeks, true)).toBe(0.5)
    expect(placeOf('2027-01-13', weeks)).toBeCloseTo(0.7)
    expect([placeOf('2026-12-01', weeks), placeOf('2027-03-01', weeks)]).toEqual([0, 1])
  })

  it('keep windows off one another', () => {
    const [a, b, c] = [window('2027-01-04', '2027-01-08'), window('2027-01-06', '2027-01-29'), window('2027-01-25', '2027-01-26')]
    const lanes = (weeks: number) => [a, b, c].map((w) => lanesOf([c, b, a], weeks).get(w))
    expect(lanes(18)).toEqual([0, 1, 0])
    a.title = 'A title that is long'
    expect(lanes(42), 'nor what is written over them').toEqual([0, 1, 2])
  })

  it('say days without school in runs', () => {
    const day = (d: string, name: string) => ({ day: d, name, ofSchool: false })
    expect(
      daysOffSaid([
        day('2026-12-24', 'Break'),
        day('2026-12-25', 'Break'),
        day('2026-12-28', 'Break'),
        day('2027-01-12', 'Snow'),
        day('2027-02-01', ''),
      ]),
    ).toEqual(['Dec 24 to Dec 28, Break', 'Jan 12, Snow', 'Feb 1'])
  })
})
