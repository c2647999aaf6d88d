import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { defineComponent, h, reactive } from 'vue'
import type { ItemDocument } from './document'
import RichText from './RichText.vue'
import { beginHelp, dropHelp, helpedWords, provideWordHelp, translateHelp } from './wordHelp'

const marked = (catalog: string, word: string) => `<span data-catalog-idref="${catalog}">${word}</span>`
const item = (): ItemDocument =>
  reactive({
    kind: 'single-choice',
    credit: 'all-or-nothing',
    declarations: [],
    body: [
      { html: `Where do ferries ${marked('w2', 'moor')}?` },
      {
        interaction: {
          type: 'choice',
          response: 'RESPONSE',
          choices: [
            { id: 'A', html: `at the ${marked('w1', 'jetty')}` },
            { id: 'B', html: `under the ${marked('spoken', 'bridge')}` },
          ],
        },
      },
    ],
    cards: [
      { catalog: 'w1', support: 'glossary-on-screen', html: 'a low wall in the water' },
      { catalog: 'w2', support: 'glossary-on-screen', html: 'to tie up' },
      { catalog: 'w2', support: 'keyword-translation', language: 'es', html: 'amarrar' },
      { catalog: 'spoken', support: 'spoken', html: 'brij' },
    ],
  })

describe('the words of an item that are explained', () => {
  it('stand in the order of the text, and what is only spoken is none', () => {
    expect(helpedWords(item()).map((w) => [w.word, w.cards.map((c) => c.html)])).toEqual([
      ['moor', ['to tie up', 'amarrar']],
      ['jetty', ['a low wall in the water']],
    ])
  })
  it('begin under a name that nothing else has, and are translated', () => {
    const doc = item()
    doc.cards!.push({ catalog: 'word-1', support: 'spoken', html: 'x' })
    expect(beginHelp(doc)).toBe('word-2')
    translateHelp(doc, 'word-2', 'so')
    expect(doc.cards!.slice(-2)).toEqual([
      { catalog: 'word-2', support: 'glossary-on-screen', html: '' },
      { catalog: 'word-2', support: 'keyword-translation', language: 'so', html: '' },
    ])
  })
  it('go with their marks, and leave what else goes with a place', () => {
    const doc = item()
    doc.cards!.push({ catalog: 'w1', support: 'spoken', html: 'jeti' })
    dropHelp(doc, 'w2')
    expect(doc.body[0]!.html).toBe('Where do ferries moor?')
    dropHelp(doc, 'w1')
    expect(doc.body[1]!.interaction!.choices![0]!.html, 'it is still spoken').toContain('data-catalog-idref="w1"')
    expect(doc.cards!.map((c) => c.catalog)).toEqual(['spoken', 'w1'])
    doc.cards = [{ catalog: 'w3', support: 'glossary-on-screen', html: 'x' }]
    dropHelp(doc, 'w3')
    expect(doc.cards).toBeUndefined()
  })
})

describe('a text that is written', () => {
  const show = (html: string, help = true) => {
    const dropped: string[] = []
    const text = reactive({ html })
    const Screen = defineComponent({
      setup() {
        if (help) provideWordHelp({ begin: () => 'word-1', drop: (c) => dropped.push(c) })
        return () =>
          h(RichText, { modelValue: text.html, label: 'Question', 'onUpdate:modelValue': (v: string) => (text.html = v) })
      },
    })
    const shown = mount(Screen, { attachTo: document.body })
    const box = () => shown.find('[role=textbox]').element as HTMLElement
    const tool = (name: string) => shown.find(`button[aria-label="${name}"]`)
    return { text, dropped, shown, box, tool }
  }
  it('keeps the marks that it came with, beside what is typed', async () => {
    const { box, tool, text } = show(`ferries ${marked('w2', 'moor')} here`)
    await flushPromises()
    box().focus()
    await flushPromises()
    await tool('List').trigger('click')
    expect(text.html).toContain(marked('w2', 'moor'))
  })
  it('has the cursor again as soon as a tool is pressed', async () => {
    const { box, tool } = show('ferries')
    await flushPromises()
    box().focus()
    await flushPromises()
    ;(tool('Bold').element as HTMLElement).focus()
    await tool('Bold').trigger('click')
    expect(document.activeElement, 'not a frame later, when somebody quick is elsewhere').toBe(box())
  })
  it('asks for a word before it is explained, and offers nothing where nothing is', async () => {
    const { box, tool, text, shown } = show('ferries')
    await flushPromises()
    box().focus()
    await flushPromises()
    await tool('Word help').trigger('click')
    expect(shown.text()).toContain('Select a word first')
    expect(text.html).toBe('ferries')
    const without = show('ferries', false)
    await flushPromises()
    without.box().focus()
    await flushPromises()
    expect(without.tool('Bold').exists()).toBe(true)
    expect(without.tool('Word help').exists()).toBe(false)
  })
})
