import { Mark, mergeAttributes } from '@tiptap/core'
import { inject, provide } from 'vue'
import type { ItemDocument } from './document'

/** A word of a text that a card of the item goes with, as QTI 3 marks it. */
export const MarkedWord = Mark.create({
  name: 'markedWord',
  inclusive: false,
  addAttributes() {
    return {
      catalog: {
        default: '',
        parseHTML: (el) => el.getAttribute('data-catalog-idref'),
        renderHTML: (attributes) => ({ 'data-catalog-idref': String(attributes.catalog) }),
      },
    }
  },
  parseHTML() {
    return [{ tag: 'span[data-catalog-idref]' }]
  },
  renderHTML({ HTMLAttributes }) {
    return ['span', mergeAttributes(HTMLAttributes), 0]
  },
})

/** Supports of cards that explain a word, as QTI 3 names them. */
const inItsLanguage = 'glossary-on-screen'
const translated = 'keyword-translation'

type Card = NonNullable<ItemDocument['cards']>[number]

/** A word with what explains it. */
export interface HelpedWord {
  catalog: string
  word: string
  cards: Card[]
}

/** The texts of an item in the order of its body, each as a place that is changed in place. */
function textsOf(doc: ItemDocument): { html?: string }[] {
  return doc.body.flatMap((b) => [b, ...(b.interaction?.choices ?? []), ...(b.interaction?.targets ?? [])])
}

function parsed(html: string): HTMLTemplateElement {
  const holder = document.createElement('template')
  holder.innerHTML = html
  return holder
}

const isHelp = (c: Card) => c.support === inItsLanguage || c.support === translated

/** The marked words of an item that have help, in the order of the text. */
export function helpedWords(doc: ItemDocument): HelpedWord[] {
  const found = new Map<string, HelpedWord>()
  for (const { html } of textsOf(doc)) {
    if (!html?.includes('data-catalog-idref')) continue
    for (const el of parsed(html).content.querySelectorAll('[data-catalog-idref]')) {
      const catalog = el.getAttribute('data-catalog-idref')!
      const cards = (doc.cards ?? []).filter((c) => c.catalog === catalog && isHelp(c))
      if (cards.length && !found.has(catalog)) found.set(catalog, { catalog, word: el.textContent.trim(), cards })
    }
  }
  return [...found.values()]
}

/** Begins the help for a word; gives the catalog that its mark names. */
export function beginHelp(doc: ItemDocument): string {
  const taken = new Set([...(doc.cards ?? []).map((c) => c.catalog), ...helpedWords(doc).map((w) => w.catalog)])
  let n = 1
  while (taken.has(`word-${n}`)) n++
  doc.cards = [...(doc.cards ?? []), { catalog: `word-${n}`, support: inItsLanguage, html: '' }]
  return `word-${n}`
}

/** Adds the help for a word in another language. */
export function translateHelp(doc: ItemDocument, catalog: string, language: string) {
  doc.cards = [...(doc.cards ?? []), { catalog, support: translated, language, html: '' }]
}

/** Takes the help for a word away, and its mark, where nothing else goes with it. */
export function dropHelp(doc: ItemDocument, catalog: string) {
  const left = (doc.cards ?? []).filter((c) => c.catalog !== catalog || !isHelp(c))
  doc.cards = left.length ? left : undefined
  if (left.some((c) => c.catalog === catalog)) return
  for (const text of textsOf(doc)) {
    if (!text.html?.includes('data-catalog-idref')) continue
    const holder = parsed(text.html)
    const marks = [...holder.content.querySelectorAll('span[data-catalog-idref]')].filter(
      (el) => el.getAttribute('data-catalog-idref') === catalog,
    )
    if (!marks.length) continue
    for (const el of marks) el.replaceWith(...el.childNodes)
    text.html = holder.innerHTML
  }
}

const key = Symbol('word help')
export interface WordHelp {
  begin: () => string
  drop: (catalog: string) => void
}
/** Lets the texts below mark words that are to be explained. */
export const provideWordHelp = (help: WordHelp) => provide(key, help)
export const useWordHelp = () => inject<WordHelp | undefined>(key, undefined)
