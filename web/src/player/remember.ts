import type { Schemas } from '@/contract/client'
import { forgetContent } from '@/kept/caches'
import type { LineAnswer } from './answers'

/**
 * What a tab remembers of the work in it, so that a reload without a network shows it again. It goes
 * with the tab, with the hand-in and with signing out.
 */
interface Remembered {
  take: Schemas['Take']
  ahead: number // how far the server's clock was ahead, in ms
}
const takeName = (sitting: number) => `pine-ledger-take-${sitting}`
const answersName = (sitting: number) => `pine-ledger-answers-${sitting}`

function put(name: string, value: unknown) {
  try {
    sessionStorage.setItem(name, JSON.stringify(value))
  } catch {
    // The browser's store is full or shut: a reload then asks for the network.
  }
}
function get<T>(name: string): T | undefined {
  try {
    return (JSON.parse(sessionStorage.getItem(name) ?? 'null') as T | null) ?? undefined
  } catch {
    return undefined
  }
}

export const rememberTake = (sitting: number, what: Remembered) => put(takeName(sitting), what)
export const rememberAnswers = (sitting: number, answers: LineAnswer[]) => put(answersName(sitting), answers)

/** The work of a sitting as this tab last had it, its answers in their lines. */
export function remembered(sitting: number): Remembered | undefined {
  const kept = get<Remembered>(takeName(sitting))
  if (!kept) return undefined
  const answers = get<LineAnswer[]>(answersName(sitting)) ?? []
  return { ...kept, take: { ...kept.take, lines: kept.take.lines.map((l, i) => ({ ...l, ...answers[i] })) } }
}

export function forget(sitting: number) {
  sessionStorage.removeItem(takeName(sitting))
  sessionStorage.removeItem(answersName(sitting))
  forgetContent()
}
