import type { Schemas } from '@/contract/client'
import { capital } from '@/contract/format'

export type Setting = Schemas['Setting']
export type Settings = Schemas['Settings']
export type Place = Schemas['SettingsPlace']
export type Level = Schemas['SettingLevel']

/** The levels from the most general to the most particular. */
export const levels = ['district', 'purpose', 'assessment', 'distribution', 'school', 'section'] as const

/** What a level is called at the place that is looked at. */
export function levelName(level: Level, view: Pick<Settings, 'place' | 'purpose' | 'where'>): string {
  const { place, where } = view
  switch (level) {
    case 'district':
      return 'District'
    case 'purpose':
      return `Purpose, ${view.purpose}`
    case 'assessment':
      return 'This assessment'
    case 'distribution':
      return 'This distribution'
    case 'school':
      return where.find((w) => w.schoolId === place.school)?.school ?? 'School'
    case 'section':
      return `Section ${where.find((w) => w.sectionId === place.section)?.section ?? ''}`.trim()
    case 'student':
      return 'The student'
    default:
      return 'Nobody'
  }
}

/** The same within a sentence. */
export function levelSaid(level: Level, view: Pick<Settings, 'place' | 'purpose' | 'where'>): string {
  if (level === 'district') return 'the district'
  if (level === 'purpose') return `the purpose ${view.purpose}`
  return levelName(level, view).replace(/^(This|The|Section)/, (w) => w.toLowerCase())
}

/** A place as it stands in an address, and back. */
export function placeIn(query: Record<string, unknown>, assessment?: number): Place {
  const number = (name: string) => (Number(query[name]) > 0 ? { [name]: Number(query[name]) } : {})
  return { ...(assessment ? { assessment } : {}), ...number('distribution'), ...number('school'), ...number('section') }
}

export interface Spot {
  value: string
  label: string
  place: Place
}

/** Where one can look at an assessment's settings: all of it, a school, a section. */
export function spots(view: Settings, assessment: number): Spot[] {
  const out: Spot[] = [{ value: '', label: 'The whole assessment', place: { assessment } }]
  const schools = new Map(view.where.map((w) => [w.schoolId, w.school]))
  for (const [school, name] of schools) {
    out.push({ value: `school=${school}`, label: name, place: { assessment, school } })
    for (const w of view.where.filter((x) => x.schoolId === school))
      out.push({
        value: `section=${w.sectionId}`,
        label: `${name}, ${w.section}`,
        place: { assessment, section: w.sectionId },
      })
  }
  return out
}

/** How many differ, in words. */
export const differing = (n: number) => (n === 1 ? '1 differs' : `${n} differ`)

/** What is in force and why, in a sentence. */
export function whyInForce(s: Setting, view: Settings): string {
  const value = capital(s.words)
  if (!s.from) return `${value}. Nobody has set it, so the usual way holds.`
  const keeps = s.lockedAt === s.from ? ' and keeps it locked' : ''
  return `${value}, because ${levelSaid(s.from, view)} says so${keeps}.`
}

export interface Group {
  name: string
  settings: Setting[]
  common: boolean
}

/** The settings as a screen shows them: those asked about most first, the rest by their groups. */
export function grouped(all: Setting[]): Group[] {
  const out: Group[] = [{ name: 'Asked about most', common: true, settings: all.filter((s) => s.common) }]
  for (const s of all.filter((x) => !x.common)) {
    const last = out.find((g) => g.name === s.group)
    if (last) last.settings.push(s)
    else out.push({ name: s.group, common: false, settings: [s] })
  }
  return out
}

/** Whether a setting is meant by some words. */
export function means(s: Setting, words: string): boolean {
  const text = `${s.name} ${s.does} ${s.words} ${s.group}`.toLowerCase()
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((w) => text.includes(w))
}
