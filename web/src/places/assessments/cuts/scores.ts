import type { Schemas } from '@/contract/client'

/** A bar of the picture: the scores from a raw score up to the next bar's, and the share of students there. */
export interface Bar {
  raw: number
  share: number
}

/** More bars than this cannot be told apart; then a bar is a whole point. */
const mostBars = 90

const hundredths = (n: number) => Math.round(n * 100)

/** The bars from 0 to the total, one for each score that a cut can be at, or for each whole point. */
export function bars(total: number, grain: number, scores: Schemas['ScoreShare'][]): Bar[] {
  const width = total / grain > mostBars ? 100 : hundredths(grain)
  const out: Bar[] = []
  for (let at = 0; at <= hundredths(total); at += width) out.push({ raw: at / 100, share: 0 })
  for (const s of scores) out[Math.floor(hundredths(s.raw) / width)]!.share += s.share
  return out
}

/** Where a raw score stands among bars, 0 to 1: at the left edge of its bar. */
export function across(raw: number, all: Bar[]): number {
  const width = all.length > 1 ? all[1]!.raw - all[0]!.raw : 1
  return Math.min(1, Math.max(0, raw / width / all.length))
}

/** The score that a place among bars stands for: the nearest that a cut can be at. */
export function scoreAt(share: number, all: Bar[], total: number, grain: number): number {
  const width = all.length > 1 ? all[1]!.raw - all[0]!.raw : 1
  return onGrain(share * all.length * width, total, grain)
}

/** The nearest score that the form can give, from 0 to its total. */
export function onGrain(raw: number, total: number, grain: number): number {
  const steps = Math.round(Math.min(total, Math.max(0, raw)) / grain)
  return Math.round(steps * hundredths(grain)) / 100
}

/** About a dozen places of the axis, at whole points. */
export function ticks(total: number): number[] {
  const step = [1, 2, 4, 5, 10, 20, 25, 50, 100, 200, 500, 1000].find((s) => total / s <= 12) ?? Math.ceil(total / 12)
  const out: number[] = []
  for (let at = 0; at <= total; at += step) out.push(at)
  return out
}
