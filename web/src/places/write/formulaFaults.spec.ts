import { describe, expect, it } from 'vitest'
import { readTex } from './formula'

describe('a formula that cannot be read', () => {
  it.each([
    ['\\foo{1}', '\\foo is not a command that formulas know. Check its spelling.'],
    ['1}', 'There is a } too many.'],
    ['{', 'A closing } is missing.'],
    ['\\frac{1', 'A closing } is missing.'],
    ['\\sqrt[3{x}', 'A closing ] is missing.'],
    ['x^2^3', 'Two ^ follow each other. Put braces { } around what belongs together.'],
    ['x_1_2', 'Two _ follow each other. Put braces { } around what belongs together.'],
    ['x^', 'Something is missing at the end: what belongs after ^ or _.'],
    ['\\sqrt', '\\sqrt wants more than it has: fill in what is missing behind it.'],
    ['x^\\sqrt', 'Put braces { } around what begins with \\sqrt.'],
    ['\\left( x', '\\left and \\right belong together, and one of them is missing.'],
    ['x \\right)', '\\left and \\right belong together, and one of them is missing.'],
    ['\\left* x \\right)', '* cannot stand as a bracket. Use ( ) [ ] \\{ \\} or |.'],
    ['\\begin{matrix} 1 & 2', 'A \\begin is not ended by its \\end.'],
    ['\\end{matrix}', 'There is an \\end without its \\begin.'],
    ['\\begin{nope}1\\end{nope}', 'There is no \\begin{nope} in formulas.'],
    ['\\begin{matrix}1\\end{array}', '\\begin{matrix} is ended by \\end{array}; both must have the same name.'],
    ['a & b', '& cannot stand where it is.'],
    ['\\hline', '\\hline stands in tables only, within \\begin{array}.'],
    ['\\limits', '\\limits goes directly behind a sum or an integral.'],
    ['$x$', '$ cannot stand in a formula here. Words go into \\text{ }.'],
  ])('%s: %s', async (tex, words) => {
    expect((await readTex(tex, false)).problem).toBe(words)
  })

  it('is told in no words of a parser, whatever is cut off', async () => {
    const whole =
      '\\frac{x^{2}+\\sqrt[3]{y_{1}}}{\\left(\\begin{matrix}1&2\\\\3&4\\end{matrix}\\right)}+\\text{and}\\overline{ab}'
    const said = new Set<string>()
    for (let n = 1; n < whole.length; n++) said.add((await readTex(whole.slice(0, n), false)).problem)
    said.delete('')
    expect(said.size).toBeGreaterThan(3)
    for (const words of said)
      expect(words).not.toMatch(/EOF|position|token|argument|group|undefined|null|got '|control sequence/i)
  })
})
