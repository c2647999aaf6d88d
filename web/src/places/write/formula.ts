import { mergeAttributes, Node } from '@tiptap/core'
import { formulaFault } from './formulaFaults'

const ns = 'http://www.w3.org/1998/Math/MathML'

/** Formulas of a text: one piece each, kept as MathML with the TeX they were typed as. */
export const Formula = Node.create({
  name: 'formula',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes() {
    return { mathml: { default: '', rendered: false, parseHTML: (el) => el.outerHTML } }
  },
  parseHTML() {
    return [{ tag: 'math' }]
  },
  renderHTML({ node }) {
    const holder = document.createElement('template')
    holder.innerHTML = String(node.attrs.mathml)
    return (
      (holder.content.firstElementChild as HTMLElement | null) ?? (document.createElementNS(ns, 'math') as unknown as HTMLElement)
    )
  },
})

/** Sound of a text. */
export const Sound = Node.create({
  name: 'sound',
  group: 'block',
  atom: true,
  addAttributes() {
    return { src: { default: null } }
  },
  parseHTML() {
    return [{ tag: 'audio[src]' }]
  },
  renderHTML({ HTMLAttributes }) {
    return ['audio', mergeAttributes(HTMLAttributes, { controls: '' })]
  },
})

/** The TeX of a formula, '' where it was not typed as TeX. */
export function texOf(mathml: string): string {
  const holder = document.createElement('template')
  holder.innerHTML = mathml
  return holder.content.querySelector('annotation[encoding="application/x-tex"]')?.textContent ?? ''
}

/** MathML of a formula in TeX, or why it is none. */
export async function readTex(tex: string, block: boolean): Promise<{ mathml: string; problem: string }> {
  const { default: temml } = await import('temml')
  try {
    const mathml = temml.renderToString(tex, { displayMode: block, annotate: true, throwOnError: true, xml: false })
    return { mathml, problem: '' }
  } catch (e) {
    return { mathml: '', problem: formulaFault((e as Error).message) }
  }
}
