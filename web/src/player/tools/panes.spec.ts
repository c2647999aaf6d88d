/* eslint-disable vue/one-component-per-file -- small pages around what is tried */
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h, ref } from 'vue'
import { usual } from '../how'
import { noSupports } from '../supports'
import type { Asides } from '../useAsides'
import AloudPane from './AloudPane.vue'
import CalculatorPad from './CalculatorPad.vue'
import Dictionary from './Dictionary.vue'
import Glossary from './Glossary.vue'
import HighlighterPane from './HighlighterPane.vue'
import Mask from './Mask.vue'
import Measure from './Measure.vue'
import ScratchPad from './ScratchPad.vue'
import ScreenPane from './ScreenPane.vue'
import TimesTable from './TimesTable.vue'
import { useHighlights } from './useHighlights'
import { stepMs, useSwitch } from './useSwitch'

const click = async (w: VueWrapper, name: string) => {
  const found = w.findAll('button').find((b) => b.text() === name || b.attributes('aria-label') === name)
  if (!found) throw new Error(`no button ${name}`)
  await found.trigger('click')
}
/** Asides that a page alone remembers. */
function here(): Asides {
  const kept = ref<Record<string, unknown>>({})
  return {
    open: () => undefined,
    get: (tool, line, none) => (kept.value[`${tool} ${line}`] ?? none) as typeof none,
    put: (tool, line, value) => (kept.value = { ...kept.value, [`${tool} ${line}`]: value }),
    any: ref(false) as unknown as Asides['any'],
  }
}
beforeEach(() => {
  document.body.innerHTML = ''
  sessionStorage.clear()
  Element.prototype.scrollIntoView = () => undefined
})

describe('a pane', () => {
  it('takes the focus, and Escape closes it', async () => {
    const pane = mount(TimesTable, { attachTo: document.body })
    expect(document.activeElement?.getAttribute('aria-label')).toBe('Times table')
    expect(pane.findAll('tbody tr')[11]!.text()).toContain('144')
    await pane.find('aside').trigger('keydown', { key: 'Escape' })
    expect(pane.emitted('close')).toHaveLength(1)
  })
})

describe('the scientific calculator', () => {
  it('reads a line by keys and remembers it', async () => {
    const pad = mount(CalculatorPad, { props: { kind: 'scientific' }, attachTo: document.body })
    for (const key of ['(', '1', '+', '2', ')', '*', '3', 'Enter']) await pad.find('aside').trigger('keydown', { key })
    expect(pad.find('output').text()).toBe('9')
    expect(pad.find('[role="log"]').text()).toBe('(1+2)×3 = 9')
    await click(pad, 'Square root')
    expect(pad.find('output').text(), 'a function begins a new line').toBe('√(')
    await click(pad, '4')
    await pad.find('aside').trigger('keydown', { key: 'Backspace' })
    expect(pad.find('output').text()).toBe('√(')
    await pad.find('aside').trigger('keydown', { key: 'Backspace' })
    expect(pad.find('output').text()).toBe('0')
    await pad.find('aside').trigger('keydown', { key: 'Enter' })
    expect(pad.findAll('[role="log"] p'), 'nothing is worked out of nothing').toHaveLength(1)
  })
})

describe('the dictionary', () => {
  it('finds what begins with the letters first', async () => {
    const pane = mount(Dictionary)
    await pane.find('input').setValue('tide')
    expect(pane.find('dd').text()).toBe('the rise and fall of the sea, twice a day')
    await pane.find('input').setValue('zzz')
    expect(pane.text()).toContain('does not have it')
  })
})

describe('word help', () => {
  it('explains a word in each language', () => {
    const glossary = [
      { word: 'ratio', language: 'en', html: '<p>how many of one</p>' },
      { word: 'ratio', language: 'es', html: '<p>cuántos de uno</p>' },
    ]
    const pane = mount(Glossary, { props: { shown: { kind: 'number', body: [], glossary } } })
    expect(pane.findAll('dt')).toHaveLength(1)
    expect(pane.findAll('dd').map((d) => d.attributes('lang'))).toEqual(['en', 'es'])
  })
})

describe('the screen', () => {
  it('grows to 400% and back, and changes colors and spacing', async () => {
    const tools = { ...usual.tools, zoom: true, colors: true, easyType: true }
    const pane = mount(ScreenPane, { props: { tools, supports: { ...noSupports, print: 3 } } })
    await click(pane, 'Larger')
    expect(pane.emitted('supports')!.at(-1)).toEqual([{ print: 4 }])
    await pane.setProps({ supports: { ...noSupports, print: 4 } })
    expect(pane.find('[aria-label="Larger"]').attributes('disabled')).toBeDefined()
    await pane.find('input[value="dark-on-blue"]').setValue(true)
    await pane.find('input[type="checkbox"]').setValue(true)
    expect(pane.emitted('supports')!.slice(1)).toEqual([[{ contrast: 'dark-on-blue' }], [{ spaced: true }]])
  })
})

describe('the scratch pad', () => {
  it('keeps what is written and drawn', async () => {
    const asides = here()
    const pad = mount(ScratchPad, { props: { asides }, attachTo: document.body })
    await pad.find('textarea').setValue('12 + 3')
    expect(asides.get('notes', 0, '')).toBe('12 + 3')
    const svg = pad.find('svg[role="application"]')
    svg.element.getBoundingClientRect = () => ({ left: 0, top: 0, width: 300, height: 260 }) as DOMRect
    await svg.trigger('pointerdown', { clientX: 10, clientY: 20 })
    await svg.trigger('pointermove', { clientX: 30, clientY: 40 })
    await svg.trigger('pointerup')
    expect(asides.get('drawing', 0, [])).toEqual([[10, 20, 30, 40]])
    expect(svg.attributes('aria-label')).toContain('1 line')
    await click(pad, 'Undo the last line')
    expect(asides.get('drawing', 0, [])).toEqual([])
  })

  it('is drawn on by keys', async () => {
    const asides = here()
    const pad = mount(ScratchPad, { props: { asides }, attachTo: document.body })
    const svg = pad.find('svg[role="application"]')
    const press = (key: string, more = {}) => svg.trigger('keydown', { key, ...more })
    await press('ArrowRight')
    await press(' ')
    expect(pad.find('[role="status"]').text()).toBe('The pen is down.')
    await press('ArrowDown')
    await press('ArrowLeft', { shiftKey: true })
    await press(' ')
    expect(asides.get('drawing', 0, [])).toEqual([[160, 130, 160, 140, 158, 140]])
    for (let n = 0; n < 40; n++) await press('ArrowUp')
    await press('Enter')
    await press('ArrowUp')
    await svg.trigger('blur')
    expect(asides.get<number[][]>('drawing', 0, [])[1], 'no farther than the edge; leaving lifts the pen').toEqual([
      158, 0, 158, 0,
    ])
    await press('Backspace')
    expect(asides.get('drawing', 0, [])).toHaveLength(1)
  })
})

describe('what lies over the page', () => {
  it('moves, turns and grows by keys', async () => {
    const ruler = mount(Measure, { props: { kind: 'protractor', print: 1 } })
    const style = () => (ruler.element as HTMLElement).style
    const left = parseInt(style().left)
    await ruler.trigger('keydown', { key: 'ArrowRight' })
    expect(parseInt(style().left)).toBe(left + 8)
    await ruler.trigger('keydown', { key: 'ArrowLeft', shiftKey: true })
    expect(parseInt(style().left)).toBe(left - 32)
    await ruler.trigger('keydown', { key: ']' })
    await ruler.trigger('keydown', { key: '}' })
    expect(style().transform).toBe('rotate(16deg)')
    expect(ruler.find('output').text()).toBe('Turned by 16 degrees')
    await ruler.trigger('keydown', { key: 'Escape' })
    expect(ruler.emitted('close')).toHaveLength(1)

    const mask = mount(Mask)
    const width = parseInt((mask.element as HTMLElement).style.width)
    await mask.trigger('keydown', { key: 'ArrowRight', altKey: true })
    expect(parseInt((mask.element as HTMLElement).style.width)).toBe(width + 8)
    await mask.trigger('pointerdown', { clientX: 0, clientY: 0 })
    document.dispatchEvent(new MouseEvent('pointermove', { clientX: 50, clientY: 0 }))
    await flushPromises()
    const at = (mask.element as HTMLElement).style.left
    document.dispatchEvent(new MouseEvent('pointerup'))
    document.dispatchEvent(new MouseEvent('pointermove', { clientX: 90, clientY: 0 }))
    await flushPromises()
    expect((mask.element as HTMLElement).style.left, 'once let go it stays').toBe(at)
  })
})

describe('reading aloud', () => {
  it('goes from text to text by the voice of the device, as far as it may', async () => {
    vi.useFakeTimers()
    sessionStorage.setItem('pine-ledger-voice', 'stand-in')
    document.body.innerHTML = '<main><div data-read="questions">Two gulls</div><div data-read="choices">one pier</div></main>'
    document.querySelectorAll('[data-read]').forEach((el) => Object.defineProperty(el, 'offsetParent', { value: document.body }))
    const page = () => document.querySelector<HTMLElement>('main')
    const pane = mount(AloudPane, { props: { parts: ['questions'], page }, attachTo: document.body })
    await click(pane, 'Read')
    const heard = [pane.find('.saying').text()]
    for (let i = 0; i < 3; i++) {
      await vi.advanceTimersByTimeAsync(40)
      heard.push(pane.find('.saying').text())
    }
    expect(heard.join(' ').trim(), 'choices are not read here').toBe('Two gulls')
    expect(pane.text()).toContain('Read')
    await pane.setProps({ parts: ['choices', 'questions'] })
    await click(pane, 'Read')
    await click(pane, 'Pause')
    await vi.advanceTimersByTimeAsync(500)
    expect(pane.find('.saying').text()).toBe('Two')
    await click(pane, 'Go on')
    await vi.advanceTimersByTimeAsync(60)
    expect(pane.find('.saying').text()).not.toBe('Two')
    await click(pane, 'Stop')
    expect(pane.find('.saying').text()).toBe('')
    vi.useRealTimers()
  })

  it('says that the device has no voice', async () => {
    const pane = mount(AloudPane, { props: { parts: ['questions'], page: () => null } })
    await flushPromises()
    expect(pane.find('[role="alert"]').text()).toContain('This device has no voice')
  })
})

describe('the highlighter', () => {
  it('marks a sentence by keys, lists it and takes it away', async () => {
    document.body.innerHTML = '<p id="text">Fog came in. Gulls went out.</p>'
    const el = document.getElementById('text')!
    const asides = here()
    let pane!: VueWrapper
    mount(
      defineComponent({
        setup() {
          const highlights = useHighlights(
            asides,
            () => [{ el, line: 3, name: 'en' }],
            () => 0,
          )
          return () => h(HighlighterPane, { highlights, ref: (p) => (pane = p as unknown as VueWrapper) })
        },
      }),
      { attachTo: document.body },
    )
    const press = async (name: string) => {
      const b = [...document.querySelectorAll('button')].find(
        (x) => x.textContent?.trim() === name || x.getAttribute('aria-label') === name,
      )
      b!.click()
      await flushPromises()
    }
    expect(pane).toBeDefined()
    await press('Next sentence')
    await press('Next sentence')
    await press('Highlight it')
    expect(asides.get('highlights', 3, {})).toEqual({ en: [{ from: 13, to: 28 }] })
    expect(document.querySelector('ul')!.textContent).toContain('Gulls went out.')
    await press('Remove the highlight: Gulls went out.')
    expect(asides.get('highlights', 3, {})).toEqual({ en: [] })
  })
})

describe('switches', () => {
  function page(kind: '' | 'one' | 'two') {
    document.body.innerHTML = ''
    const pressed: string[] = []
    const screen = mount(
      defineComponent({
        setup() {
          const el = ref<HTMLElement | null>(null)
          useSwitch(() => kind, el)
          return () =>
            h('div', { ref: el }, [
              h('button', { onClick: () => pressed.push('a') }, 'a'),
              h('button', { disabled: true }, 'shut'),
              h('button', { onClick: () => pressed.push('b') }, 'b'),
              h('textarea'),
            ])
        },
      }),
      { attachTo: document.body },
    )
    screen.findAll('button, textarea').forEach((b) => (b.element.getClientRects = () => [{}] as unknown as DOMRectList))
    const key = (k: string) =>
      document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key: k, bubbles: true, cancelable: true }))
    return { pressed, key, screen, at: () => document.activeElement?.textContent }
  }

  it('step with the one and choose with the other', () => {
    const { pressed, key, at, screen } = page('two')
    key(' ')
    expect(at()).toBe('a')
    key(' ')
    expect(at(), 'what cannot be pressed is passed by').toBe('b')
    key('Enter')
    expect(pressed).toEqual(['b'])
    screen.unmount()
  })

  it('with one alone it steps by itself', () => {
    vi.useFakeTimers()
    const { pressed, key, at, screen } = page('one')
    vi.advanceTimersByTime(stepMs * 2)
    expect(at()).toBe('b')
    key(' ')
    expect(pressed).toEqual(['b'])
    screen.unmount()
    vi.advanceTimersByTime(stepMs)
    vi.useRealTimers()
  })
})
