import type { Declaration, DocumentChoice, DocumentPlace } from './document'
import { nextId } from './document'

/**
 * A text with brackets is how authors write menus and what can be selected, as they do
 * in tables of items: "The [tide] [rose]." and "The tide [rises|falls]."
 */
const escape = (s: string) => s.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')
function plain(html: string): string {
  const holder = document.createElement('template')
  holder.innerHTML = html.replace(/<br>/g, '\n')
  return holder.content.textContent ?? ''
}
const asHtml = (s: string) => escape(s).replace(/\n/g, '<br>')

interface Piece {
  text: string
  inside: boolean
}

export function pieces(text: string): Piece[] {
  const out: Piece[] = []
  for (const [i, part] of text.split('[').entries()) {
    const at = i ? part.indexOf(']') : -1
    if (i && at < 0) {
      out.push({ text: '[' + part, inside: false }) // not closed yet: still text
      continue
    }
    if (i) out.push({ text: part.slice(0, at), inside: true })
    const rest = part.slice(at + 1)
    if (rest) out.push({ text: rest, inside: false })
  }
  return out
}

/** What can be selected, back into a text with brackets. */
export function selectionText(choices: DocumentChoice[]): string {
  return choices.map((c) => (c.plain ? plain(c.html) : `[${plain(c.html)}]`)).join('')
}

/** Reads a text of what can be selected; ids stay with their words where they can. */
export function readSelection(text: string, place: DocumentPlace, key: Declaration) {
  const before = (place.choices ?? []).filter((c) => !c.plain)
  const used: DocumentChoice[] = []
  place.choices = pieces(text).map((p) => {
    if (!p.inside) return { id: '', html: asHtml(p.text), plain: true }
    const same = before.find((c) => c.html === asHtml(p.text) && !used.some((u) => u.id === c.id))
    const choice = { id: same?.id ?? nextId([...before, ...used]), html: asHtml(p.text) }
    used.push(choice)
    return choice
  })
  key.correct = (key.correct ?? []).filter((id) => used.some((c) => c.id === id))
}

/** Menus in a sentence, back into a text with brackets. */
export function menuText(place: DocumentPlace): string {
  return (place.targets ?? [])
    .map((t) => {
      if (t.plain) return plain(t.html)
      const words = (place.choices ?? []).filter((c) => !c.in || c.in === t.id).map((c) => plain(c.html))
      return `[${words.join('|')}]`
    })
    .join('')
}

/** Reads a sentence with menus; a menu keeps its key while its right word stays in it. */
export function readMenus(text: string, place: DocumentPlace, key: Declaration) {
  const rightWords = new Map<string, string>()
  for (const pair of key.correct ?? []) {
    const [choice = '', gap = ''] = pair.split(' ')
    const word = place.choices?.find((c) => c.id === choice)
    if (word) rightWords.set(gap, word.html)
  }
  const targets: DocumentChoice[] = []
  const choices: DocumentChoice[] = []
  const correct: string[] = []
  let n = 0
  for (const p of pieces(text)) {
    if (!p.inside) {
      targets.push({ id: '', html: asHtml(p.text), plain: true })
      continue
    }
    const gap = `G${++n}`
    targets.push({ id: gap, html: '', most: 1 })
    for (const word of p.text.split('|')) {
      const choice = { id: nextId(choices), html: asHtml(word), most: 1, in: gap }
      choices.push(choice)
      if (rightWords.get(gap) === choice.html) correct.push(`${choice.id} ${gap}`)
    }
  }
  place.targets = targets
  place.choices = choices
  key.correct = correct
}
