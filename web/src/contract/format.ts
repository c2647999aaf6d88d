import { queries } from './client'
import type { Session } from './session'

/** Dates are shown in the district's zone: Tue, Oct 13, 2026, 9:40 am. */
function zone(): string {
  return queries.getQueryData<Session>(['session'])?.timeZone ?? 'UTC'
}

/** The district's zone as people name it: Pacific Time. */
export function zoneName(): string {
  const parts = new Intl.DateTimeFormat('en-US', { timeZone: zone(), timeZoneName: 'longGeneric' }).formatToParts(new Date())
  return parts.find((p) => p.type === 'timeZoneName')?.value ?? zone()
}

function formatted(iso: string, options: Intl.DateTimeFormatOptions, language = 'en'): string {
  return new Intl.DateTimeFormat(`${language}-US`, { timeZone: zone(), ...options })
    .format(new Date(iso))
    .replace(/\s?([AP])M\b/, (_, letter: string) => ` ${letter.toLowerCase()}m`)
}

export function day(iso: string, language?: string): string {
  return formatted(iso, { weekday: 'short', month: 'short', day: 'numeric', year: 'numeric' }, language)
}

/** The date on the district’s calendar, as fields of dates take it: 2026-10-13. */
export function dateOf(at: string | Date): string {
  return new Date(at).toLocaleDateString('sv-SE', { timeZone: zone() })
}

export function moment(iso: string): string {
  return formatted(iso, { weekday: 'short', month: 'short', day: 'numeric', year: 'numeric', hour: 'numeric', minute: '2-digit' })
}

export function clockTime(iso: string): string {
  return formatted(iso, { hour: 'numeric', minute: '2-digit' })
}

/** A time of today as 9:40 am, of another day with that day: Tue, Oct 13, 9:40 am. */
export function timeOrDay(iso: string, now = new Date()): string {
  if (day(iso) === day(now.toISOString())) return clockTime(iso)
  return formatted(iso, { weekday: 'short', month: 'short', day: 'numeric', hour: 'numeric', minute: '2-digit' })
}

/** The window of a distribution, without the year when both ends share it; within a day with its hours. */
export function windowOf(opens: string, closes: string): string {
  if (day(opens) === day(closes)) return `${day(opens)}, ${clockTime(opens)} – ${clockTime(closes)}`
  return `${formatted(opens, { weekday: 'short', month: 'short', day: 'numeric' })} – ${day(closes)}`
}

/** 633 tenths of a percent are 63.3; '–' where nothing was scored. */
export function tenths(n: number | undefined): string {
  return n === undefined || n < 0 ? '–' : (n / 10).toFixed(1)
}

/** A p-value in thousandths: .71 */
export function pValue(thousandths: number | undefined): string {
  if (thousandths === undefined || thousandths < 0) return '–'
  return thousandths === 1000 ? '1.00' : `.${String(Math.round(thousandths / 10)).padStart(2, '0')}`
}

export function gradeName(code: string): string {
  return code === 'KG' ? 'K' : code.replace(/^0/, '')
}

export function gradesName(codes: string[]): string {
  const names = codes.map(gradeName)
  return names.length === 1 ? `grade ${names[0]}` : `grades ${names.join(', ')}`
}

/** The kinds of item by their names. */
export const kindNames: Record<string, string> = {
  'single-choice': 'single choice',
  'multiple-choice': 'multiple choice',
  'true-false': 'true or false',
  order: 'put in order',
  match: 'match pairs',
  sort: 'sort into groups',
  'box-table': 'table of boxes',
  'select-text': 'select in a text',
  menus: 'menus in a sentence',
  text: 'typed word',
  number: 'typed number',
  'number-line': 'point on a number line',
  spot: 'spot on a picture',
  parts: 'several parts',
  'short-written': 'short written',
  'extended-written': 'extended written',
  examiner: 'recorded by an examiner',
}

export function kindName(kind: string): string {
  return kindNames[kind] ?? kind
}

const languages: Record<string, string> = { en: 'English', es: 'Spanish' }

export function languageName(code: string): string {
  return languages[code] ?? code
}

const ownNames: Record<string, string> = { en: 'English', es: 'Español' }

/** A language as those who speak it call it. */
export function languageInItself(code: string): string {
  return ownNames[code] ?? code
}

export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1)
}

/** Whole numbers that rise, with runs drawn together: "1, 2, 6–9". */
export function runs(numbers: number[]): string {
  const out: [number, number][] = []
  for (const n of numbers) {
    const last = out.at(-1)
    if (last && n === last[1] + 1) last[1] = n
    else out.push([n, n])
  }
  return out.map(([from, to]) => (from === to ? `${from}` : to === from + 1 ? `${from}, ${to}` : `${from}–${to}`)).join(', ')
}

export function plural(n: number, noun: string): string {
  return `${n.toLocaleString('en-US')} ${noun}${n === 1 ? '' : 's'}`
}
