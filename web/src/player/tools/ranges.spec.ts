import { beforeEach, describe, expect, it } from 'vitest'
import { joined, rangeOf, sentencesOf, stretchOf, textOf } from './ranges'

let el: HTMLElement
beforeEach(() => {
  document.body.innerHTML = '<p>before</p><div lang="en"><p>The <em>Curlew</em> sailed. Was it late?</p><p>No.</p></div>'
  el = document.querySelector('div')!
})
const range = (from: [Node, number], to: [Node, number]) => {
  const r = document.createRange()
  r.setStart(...from)
  r.setEnd(...to)
  return r
}

describe('stretches of text', () => {
  it('are found again where they were selected, over marks and paragraphs', () => {
    const first = el.querySelector('p')!.firstChild!
    const em = el.querySelector('em')!.firstChild!
    const s = stretchOf(el, range([first, 0], [em, 6]))
    expect(s).toEqual({ from: 0, to: 10 })
    expect(rangeOf(el, s!)!.toString()).toBe('The Curlew')
    expect(rangeOf(el, { from: 4, to: 17 })!.toString()).toBe('Curlew sailed')
    expect(rangeOf(el, { from: 4, to: 900 })).toBeUndefined()
  })

  it('are the part of a selection that lies in the text', () => {
    const outside = document.querySelector('p')!.firstChild!
    const em = el.querySelector('em')!.firstChild!
    expect(stretchOf(el, range([outside, 0], [em, 3]))).toEqual({ from: 0, to: 7 })
    expect(stretchOf(el, range([outside, 0], [outside, 3]))).toBeUndefined()
  })

  it('that touch become one', () => {
    expect(joined([{ from: 0, to: 5 }], { from: 5, to: 8 })).toEqual([{ from: 0, to: 8 }])
    expect(joined([{ from: 10, to: 12 }], { from: 0, to: 4 })).toEqual([
      { from: 0, to: 4 },
      { from: 10, to: 12 },
    ])
    expect(
      joined(
        [
          { from: 0, to: 3 },
          { from: 6, to: 9 },
        ],
        { from: 2, to: 7 },
      ),
    ).toEqual([{ from: 0, to: 9 }])
  })

  it('are sentences for who goes by keys', () => {
    const text = textOf(el)
    expect(sentencesOf(el).map((s) => text.slice(s.from, s.to))).toEqual(['The Curlew sailed.', 'Was it late?', 'No.'])
  })
})
