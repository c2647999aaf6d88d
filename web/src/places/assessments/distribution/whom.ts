import type { Schemas } from '@/contract/client'
import { plural } from '@/contract/format'

export type Entry = Schemas['WhomEntry']
export type Wave = Schemas['WaveInput']
export type WaveShown = Schemas['WaveShown']
export type Distribution = Schemas['Distribution']

export const noEntry = (): Entry => ({ out: false, schools: [], grades: [], courses: [], sections: [], groups: [], students: [] })
export const noWave = (): Wave => ({ name: '', opens: '', closes: '', schools: [], sections: [] })

/** What an entry is about. */
export type About = 'rule' | 'sections' | 'group' | 'students'
export const aboutOf = (e: Entry): About =>
  e.groups.length ? 'group' : e.students.length ? 'students' : e.sections.length ? 'sections' : 'rule'

/** What can be chosen of some sections, each once, in their order. */
export function choices(sections: Schemas['Section'][]) {
  const once = <T, K>(list: T[], key: (t: T) => K) => [...new Map(list.map((t) => [key(t), t])).values()]
  return {
    schools: once(
      sections.map((s) => ({ id: s.schoolId, name: s.school })),
      (s) => s.id,
    ),
    grades: [...new Set(sections.map((s) => s.grade))],
    courses: once(
      sections.map((s) => ({ id: s.courseId, name: s.course })),
      (c) => c.id,
    ),
  }
}

/** The days of some waves, as 2026-11-30: of weekends only those on which a wave begins or ends. */
export function daysOf(waves: WaveShown[]): string[] {
  const ends = new Set(waves.flatMap((w) => [w.wave.opens.slice(0, 10), w.wave.closes.slice(0, 10)]))
  const days = new Set<string>()
  for (const { wave } of waves)
    for (let d = wave.opens.slice(0, 10), n = 0; d && d <= wave.closes.slice(0, 10) && n < mostDays; d = later(d, 1), n++)
      days.add(d)
  return [...days].filter((d) => !['Sat', 'Sun'].includes(weekday(d)) || ends.has(d)).toSorted()
}
/** Bounds what is drawn of one wave: a year. */
const mostDays = 366

/** A date so many days later. */
export function later(date: string, days: number): string {
  const at = new Date(`${date}T12:00:00Z`)
  at.setUTCDate(at.getUTCDate() + days)
  return at.toISOString().slice(0, 10)
}

/** A wall-clock time as a datetime-local field has it, so many days later. */
export const shifted = (local: string, days: number) => (local ? `${later(local.slice(0, 10), days)}${local.slice(10)}` : local)

/** Said as Americans do: Tue, Oct 13, 2026, 9:40 am. */
export function local(text: string): string {
  return text
    ? new Date(`${text}Z`)
        .toLocaleString('en-US', {
          timeZone: 'UTC',
          weekday: 'short',
          month: 'short',
          day: 'numeric',
          year: 'numeric',
          hour: 'numeric',
          minute: '2-digit',
        })
        .replace(/ ([AP])M/, (_, l: string) => ` ${l.toLowerCase()}m`)
    : 'not set'
}

/** The parts of a date over a column: its weekday and its day. */
export const weekday = (date: string) =>
  new Date(`${date}T12:00:00Z`).toLocaleString('en-US', { timeZone: 'UTC', weekday: 'short' })
export const shortDay = (date: string) =>
  new Date(`${date}T12:00:00Z`).toLocaleString('en-US', { timeZone: 'UTC', month: 'short', day: 'numeric' })

/** Whose a wave is: its schools and single sections, or all that no other wave names. */
export function whoseWave(w: WaveShown, several: boolean): string {
  const n = w.wave.sections.length
  const named = [...w.schoolNames, ...(n ? [plural(n, 'single section')] : [])]
  return named.join(', ') || (several ? 'all others' : 'everyone')
}
