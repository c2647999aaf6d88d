import type { Schemas } from '@/contract/client'
import { t } from '@/words'

export type Response = Record<string, string[]>

/** What a device knows of one line. number rises with every change. */
export interface LineAnswer {
  response: Response
  marked: boolean
  number: number
  /** It was left for good, where the settings have that: it stays as it is. */
  done?: boolean
}

/** Puts what this device has not sent yet over what the server has. */
export function merged(lines: Schemas['Take']['lines'], unsent: Record<number, LineAnswer>): LineAnswer[] {
  return lines.map(
    ({ response, marked, number, done }, i) => unsent[i + 1] ?? { response, marked, number, ...(done && { done }) },
  )
}

export function isAnswered(a: LineAnswer): boolean {
  return Object.values(a.response).some((values) => values.some((v) => v.trim() !== ''))
}

/** The number of the next change: later than any before, and later than another device's earlier ones, by the server's clock. */
export function nextNumber(last: number, serverNow: number): number {
  return Math.max(last + 1, serverNow)
}

/** Minutes left in words; seconds only in the last minute. */
export function timeLeft(ms: number): string {
  if (ms <= 0) return t('time.over')
  if (ms < 60_000) return t('time.seconds', { n: Math.ceil(ms / 1000) })
  const minutes = Math.ceil(ms / 60_000)
  if (minutes >= 24 * 60) return t('time.days', { n: Math.floor(minutes / (24 * 60)) }, Math.floor(minutes / (24 * 60)))
  return minutes > 90 ? t('time.hours', { h: Math.floor(minutes / 60), m: minutes % 60 }) : t('time.minutes', { n: minutes })
}
