import { none } from './useJudging'

/** A share as people type it, in whole percent: "45", "45%", "0.45", ".4"; nothing is none given, anything else undefined. */
export function readShare(text: string): number | undefined {
  const s = text.trim().replace(',', '.')
  if (s === '') return none
  const fraction = /^0?\.\d{1,2}$/.test(s)
  if (!fraction && !/^\d{1,3}\s*%?$/.test(s)) return undefined
  const percent = fraction ? Math.round(Number(s) * 100) : parseInt(s, 10)
  return percent <= 100 ? percent : undefined
}
