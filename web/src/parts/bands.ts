/** The look of a band: one hue from lichen to deep pine, each step with a pattern, so that color is never alone. */
export function bandStyle(at: number, of: number): Record<string, string> {
  const share = of > 1 ? at / (of - 1) : 0
  return { '--share': `${Math.round(share * 100)}%` }
}

const patterns = ['plain', 'slanted', 'upright', 'crossed', 'level']

export function bandClass(at: number, of: number): string {
  return at === of - 1 ? 'band solid' : `band ${patterns[at % patterns.length]}`
}
