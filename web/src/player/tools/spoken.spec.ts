import { beforeEach, describe, expect, it } from 'vitest'
import { readingOf, spokenMath } from './spoken'

const math = (inner: string) => {
  document.body.innerHTML = `<math>${inner}</math>`
  return spokenMath(document.querySelector('math')!)
}

describe('what is read aloud', () => {
  beforeEach(() => (document.body.innerHTML = ''))

  it.each([
    ['<mfrac><mn>3</mn><mn>4</mn></mfrac>', '3 over 4'],
    ['<msup><mi>x</mi><mn>2</mn></msup>', 'x squared'],
    ['<msup><mi>x</mi><mn>5</mn></msup>', 'x to the power 5'],
    ['<msqrt><mn>9</mn></msqrt>', 'the square root of 9'],
    ['<mroot><mn>8</mn><mn>3</mn></mroot>', 'the root 3 of 8'],
    ['<mi>x</mi><mo>−</mo><mn>6</mn><mo>=</mo><mn>11</mn>', 'x minus 6 equals 11'],
    ['<semantics><mrow><mn>2</mn><mo>×</mo><mn>3</mn></mrow><annotation>2\\times 3</annotation></semantics>', '2 times 3'],
  ])('says a formula in words: %s', (inner, words) => {
    expect(math(inner)).toBe(words)
  })

  it('takes the words of a picture, and leaves buttons out', () => {
    document.body.innerHTML =
      '<div lang="es"><p>Mira <img alt="un faro">.</p><math><mn>2</mn></math><button>Quitar</button></div>'
    const el = document.querySelector('div')!
    expect(readingOf(el, true)!.text.replace(/\s+/g, ' ')).toBe('Mira un faro. . 2 ')
    expect(readingOf(el, false)!.text).not.toContain('2')
    expect(readingOf(el, true)!.language).toBe('es')
  })

  it('knows the place of each word on the page', () => {
    document.body.innerHTML = '<p>Two <em>gulls</em> rest <img alt="a pier"></p>'
    const reading = readingOf(document.querySelector('p')!, true)!
    const at = (word: string) => reading.word(reading.text.indexOf(word), word.length)
    expect(String(at('gulls'))).toBe('gulls')
    expect(String(at('rest'))).toBe('rest')
    expect((at('pier') as Element).localName).toBe('img')
  })

  it('is nothing where there is nothing to say', () => {
    document.body.innerHTML = '<p><img></p>'
    expect(readingOf(document.querySelector('p')!, true)).toBeUndefined()
  })
})
