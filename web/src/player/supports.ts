import type { How } from './how'

/** How a student's screen differs from the common one. */
export interface Supports {
  /** How much larger everything that is read is. */
  print: number
  /** Other colors; '' for the common ones. */
  contrast: (typeof contrasts)[number]
  /** Letters, words and lines stand farther apart. */
  spaced: boolean
  /** A calculator, also where a part has none. */
  calculator: boolean
}

export const prints = [1, 1.25, 1.5, 2, 3, 4]
export const contrasts = ['', 'light-on-dark', 'dark-on-yellow', 'dark-on-blue'] as const
export const noSupports: Supports = { print: 1, contrast: '', spaced: false, calculator: false }

type Query = Record<string, unknown>

/** Reads supports from an address; what it does not know is left as on the common screen. */
export function supportsIn(query: Query): Supports {
  return {
    print: prints.find((p) => String(p) === query.print) ?? 1,
    contrast: contrasts.find((c) => c === query.contrast) ?? '',
    spaced: query.spaced === '1',
    calculator: query.calculator === '1',
  }
}

/** Supports as they stand in an address, without what is as on the common screen. */
export function supportsQuery({ print, contrast, spaced, calculator }: Supports): Record<string, string> {
  return {
    ...(print !== 1 && { print: String(print) }),
    ...(contrast && { contrast }),
    ...(spaced && { spaced: '1' }),
    ...(calculator && { calculator: '1' }),
  }
}

/** How a screen is before its student changes it: as their supports say. */
export function beginsWith({ begins }: How): Supports {
  return {
    ...noSupports,
    print: prints.find((p) => String(p) === begins.print) ?? 1,
    contrast: contrasts.find((c) => c === begins.colors) ?? '',
    spaced: begins.easyType,
  }
}
