import type { Schemas } from '@/contract/client'

export type Calendar = Schemas['Calendar']
export type Window = Schemas['CalendarWindow']
export type Clash = Schemas['CalendarClash']

const dayMs = 86_400_000
const at = (date: string) => Date.parse(`${date}T00:00:00Z`)
const iso = (ms: number) => new Date(ms).toISOString().slice(0, 10)

/** The Monday of a date's week. */
export function monday(date: string): string {
  const ms = at(date)
  return iso(ms - ((new Date(ms).getUTCDay() + 6) % 7) * dayMs)
}
export const addDays = (date: string, days: number) => iso(at(date) + days * dayMs)

/** The Mondays of the weeks from one to another day. */
export function weeksOf(from: string, to: string): string[] {
  const out: string[] = []
  for (let week = monday(from); week <= to; week = addDays(week, 7)) out.push(week)
  return out
}

/** Where a day lies over the school days of some weeks, Monday to Friday: 0 for the first Monday, 1 for the last Friday's end. */
export function placeOf(date: string, weeks: string[], end = false): number {
  const first = weeks[0]
  if (!first) return 0
  const days = Math.round((at(date) - at(first)) / dayMs)
  const week = Math.floor(days / 7)
  const weekday = Math.min(days - week * 7 + (end ? 1 : 0), 5)
  return Math.max(0, Math.min(1, (week + weekday / 5) / weeks.length))
}

/** How many days of a calendar of so many weeks a title is about as wide as; all weeks together are about a thousand pixels. */
const daysUnder = (title: string, weeks: number) => Math.ceil((title.length * 6.4 * weeks * 7) / 1000)

/** Windows side by side get lanes of their own, so that none covers another. */
export function lanesOf(windows: Window[], weeks: number): Map<Window, number> {
  const lanes = new Map<Window, number>()
  const ends: string[] = []
  for (const w of windows.toSorted((a, b) => a.from.localeCompare(b.from))) {
    // What is written over a short bar takes more room than the bar.
    const lane = ends.findIndex((end) => end < w.from)
    const into = lane < 0 ? ends.length : lane
    const written = addDays(w.from, daysUnder(w.title, weeks))
    ends[into] = w.to > written ? w.to : written
    lanes.set(w, into)
  }
  return lanes
}

export const stateWords = { over: 'closed', out: 'out', planned: 'planned, not sent' } as const
export const monthOf = (date: string) =>
  new Date(`${date}T12:00:00Z`).toLocaleString('en-US', { timeZone: 'UTC', month: 'short' })
export const dayOf = (date: string) =>
  new Date(`${date}T12:00:00Z`).toLocaleString('en-US', { timeZone: 'UTC', weekday: 'short', month: 'short', day: 'numeric' })

/** Days without school, those that follow one another by one name together: Dec 21 to Jan 1, Winter break. */
export function daysOffSaid(days: { day: string; name: string }[]): string[] {
  const runs: { from: string; to: string; name: string }[] = []
  for (const d of days) {
    const last = runs.at(-1)
    // A weekend between two of them does not part them.
    if (last?.name === d.name && addDays(last.to, 4) > d.day) last.to = d.day
    else runs.push({ from: d.day, to: d.day, name: d.name })
  }
  const short = (date: string) => dayOf(date).replace(/^\w+, /, '')
  return runs.map((r) => `${short(r.from)}${r.to > r.from ? ` to ${short(r.to)}` : ''}${r.name ? `, ${r.name}` : ''}`)
}

/** The first day of a month so many months from a date's. */
export function monthStart(date: string, months: number): string {
  const d = new Date(`${date.slice(0, 7)}-01T12:00:00Z`)
  d.setUTCMonth(d.getUTCMonth() + months)
  return d.toISOString().slice(0, 10)
}
