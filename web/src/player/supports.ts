/** How a student's screen differs from the common one. */
export interface Supports {
  /** How much larger everything that is read is. */
  print: number
  /** Other colors; '' for the common ones. */
  contrast: '' | 'light-on-dark' | 'dark-on-yellow'
  /** A calculator, also where a part has none. */
  calculator: boolean
}

export const noSupports: Supports = { print: 1, contrast: '', calculator: false }
export const prints = [1, 1.5, 2, 3]
export const contrasts = ['', 'light-on-dark', 'dark-on-yellow'] as const

type Query = Record<string, unknown>

/** Reads supports from an address; what it does not know is left as on the common screen. */
export function supportsIn(query: Query): Supports {
  return {
    print: prints.find((p) => String(p) === query.print) ?? 1,
    contrast: contrasts.find((c) => c === query.contrast) ?? '',
    calculator: query.calculator === '1',
  }
}

/** Supports as they stand in an address, without what is as on the common screen. */
export function supportsQuery({ print, contrast, calculator }: Supports): Record<string, string> {
  return {
    ...(print !== 1 && { print: String(print) }),
    ...(contrast && { contrast }),
    ...(calculator && { calculator: '1' }),
  }
}
