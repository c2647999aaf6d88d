import type { Schemas } from '@/contract/client'

export type Response = Record<string, string[]>

/** What a device knows of one line. number rises with every change; kept is the highest that the server has on disk. */
export interface LineAnswer {
  response: Response
  marked: boolean
  number: number
  kept: number
}

export type Unsent = Record<number, Pick<LineAnswer, 'response' | 'marked' | 'number'>>

/** Puts what this device had not sent yet over what the server has; a newer answer from another device stays. */
export function merged(lines: Schemas['Take']['lines'], unsent: Unsent): LineAnswer[] {
  return lines.map((l, i) => {
    const mine = unsent[i + 1]
    if (mine && mine.number > l.number) return { ...mine, kept: l.number }
    return { response: l.response, marked: l.marked, number: l.number, kept: l.number }
  })
}

export function isAnswered(a: LineAnswer): boolean {
  return Object.values(a.response).some((values) => values.some((v) => v.trim() !== ''))
}

export function unsentOf(answers: LineAnswer[]): Unsent {
  const out: Unsent = {}
  answers.forEach((a, i) => {
    if (a.number > a.kept) out[i + 1] = { response: a.response, marked: a.marked, number: a.number }
  })
  return out
}

/** The most that one sending holds, in bytes; the server takes two million. */
const mostSent = 1_000_000

/** Lines to send together: long essays of a day without a network go in several turns. */
export function batches(unsent: Unsent): number[][] {
  const out: number[][] = []
  let size = Infinity
  for (const [line, answer] of Object.entries(unsent)) {
    const bytes = new TextEncoder().encode(JSON.stringify(answer)).length + 20
    if (size + bytes > mostSent) {
      out.push([])
      size = 0
    }
    out.at(-1)!.push(Number(line))
    size += bytes
  }
  return out
}

/** The number of the next change: later than any before, and later than another device's earlier ones, by the server's clock. */
export function nextNumber(last: number, serverNow: number): number {
  return Math.max(last + 1, serverNow)
}

/** Minutes left in words; seconds only in the last minute. */
export function timeLeft(ms: number): string {
  if (ms <= 0) return 'Time is over'
  if (ms < 60_000) return `${Math.ceil(ms / 1000)} s left`
  const minutes = Math.ceil(ms / 60_000)
  if (minutes >= 24 * 60) return `${Math.floor(minutes / (24 * 60))} days left`
  return minutes > 90 ? `${Math.floor(minutes / 60)} h ${minutes % 60} min left` : `${minutes} min left`
}
