import { describe, expect, it } from 'vitest'
import { contrasts, noSupports, prints, supportsIn, supportsQuery, type Supports } from './supports'

describe('supports in an address', () => {
  const every: Supports[] = prints.flatMap((print) =>
    contrasts.flatMap((contrast) => [true, false].map((calculator) => ({ print, contrast, calculator, spaced: !calculator }))),
  )
  it.each(every)('come back as they were: %j', (supports) => {
    expect(supportsIn(supportsQuery(supports))).toEqual(supports)
  })

  it('take no room where there are none, and nothing strange', () => {
    expect(supportsQuery(noSupports)).toEqual({})
    expect(supportsIn({ print: '40', contrast: 'pink', calculator: 'yes' })).toEqual(noSupports)
  })
})
