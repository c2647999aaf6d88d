import { t } from '@/words'

/** A piece of what is read aloud: words of a text node, or words that stand for a picture or a formula. */
interface Piece {
  words: string
  /** The text that the words are; nothing where they stand for something else. */
  node?: Text
  el: Element
}

/** Signs that are said in words, by their key in the catalogs. */
const signs: Record<string, string> = {
  '+': 'plus',
  '−': 'minus',
  '-': 'minus',
  '×': 'times',
  '·': 'times',
  '÷': 'dividedBy',
  '=': 'equals',
  '<': 'less',
  '>': 'greater',
  '≤': 'atMost',
  '≥': 'atLeast',
  '%': 'percent',
  π: 'pi',
}

/** A formula in words, by its MathML. */
export function spokenMath(el: Element): string {
  const said = el.getAttribute('alttext') || el.getAttribute('aria-label')
  if (said) return said
  const parts = [...el.children].filter((c) => !['annotation', 'annotation-xml'].includes(c.localName))
  const words = parts.map(spokenMath)
  switch (el.localName) {
    case 'mfrac':
      return t('math.over', { a: words[0]!, b: words[1]! })
    case 'msup':
      return words[1] === '2' ? t('math.squared', { a: words[0]! }) : t('math.power', { a: words[0]!, b: words[1]! })
    case 'msub':
      return t('math.sub', { a: words[0]!, b: words[1]! })
    case 'msqrt':
      return t('math.root', { a: words.join(' ') })
    case 'mroot':
      return t('math.nthRoot', { a: words[0]!, b: words[1]! })
  }
  if (parts.length) return words.filter(Boolean).join(' ')
  const text = el.textContent?.trim() ?? ''
  return signs[text] ? t(`math.${signs[text]}`) : text
}

function piecesOf(el: Element, formulas: boolean): Piece[] {
  const out: Piece[] = []
  const walk = (node: Node) => {
    if (node instanceof Text) {
      if (node.data.trim()) out.push({ words: node.data, node, el })
    } else if (node instanceof Element) {
      if (node.localName === 'math') {
        if (formulas) out.push({ words: ` ${spokenMath(node)} `, el: node })
      } else if (node.localName === 'img') {
        const alt = node.getAttribute('alt')?.trim()
        if (alt) out.push({ words: ` ${alt}. `, el: node })
      } else if (
        node.getAttribute('aria-hidden') !== 'true' &&
        !['button', 'select', 'script', 'style', 'svg'].includes(node.localName)
      )
        node.childNodes.forEach(walk)
    }
  }
  walk(el)
  return out
}

/** What is read aloud of one element, with where each word stands on the page. */
export interface Reading {
  text: string
  language: string
  el: Element
  /** The word that begins at a place of the text. */
  word: (at: number, length: number) => Range | Element
}

export function readingOf(el: Element, formulas: boolean): Reading | undefined {
  const pieces = piecesOf(el, formulas)
  const text = pieces.map((p) => p.words).join(' ')
  if (!text.trim()) return undefined
  return {
    text,
    el,
    language: el.closest('[lang]')?.getAttribute('lang') || 'en',
    word(at, length) {
      let begin = 0
      for (const p of pieces) {
        if (at < begin + p.words.length + 1) {
          if (!p.node) return p.el
          const from = Math.min(Math.max(0, at - begin), p.node.data.length)
          const range = document.createRange()
          range.setStart(p.node, from)
          range.setEnd(p.node, Math.min(p.node.data.length, from + length))
          return range
        }
        begin += p.words.length + 1
      }
      return el
    },
  }
}
