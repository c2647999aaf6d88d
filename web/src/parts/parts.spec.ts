import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { h, nextTick } from 'vue'
import BandBar from './BandBar.vue'
import BandSwatch from './BandSwatch.vue'
import DifficultyBar from './DifficultyBar.vue'
import LedgerTable from './LedgerTable.vue'
import SidePanel from './SidePanel.vue'
import Trouble from './Trouble.vue'
import { bandClass, bandStyle } from './bands'
import { isTyping } from './keys'

describe('a ledger table', () => {
  function table(clicks: number[] = []) {
    const rows = [1, 2, 3, 4].map((n, i) =>
      h('tr', { tabindex: i ? -1 : 0, 'data-n': n, onClick: () => clicks.push(n) }, [h('td', [h('input', { 'data-in': n })])]),
    )
    return mount(LedgerTable, {
      props: { label: 'Rows' },
      slots: { default: () => h('tbody', rows) },
      attachTo: document.body,
    })
  }
  const here = () => (document.activeElement as HTMLElement).dataset.n
  const press = (key: string, more = {}) =>
    document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }))

  it('is walked with the arrows, Home and End, and stops at its ends', () => {
    const t = table()
    t.find<HTMLElement>('[data-n="1"]').element.focus()
    press('ArrowDown')
    expect(here()).toBe('2')
    press('End')
    expect(here()).toBe('4')
    press('ArrowDown')
    expect(here()).toBe('4')
    press('PageUp')
    expect(here()).toBe('1')
    press('ArrowUp')
    expect(here()).toBe('1')
    press('End')
    press('Home')
    expect(here()).toBe('1')
  })

  it('opens a row with Enter', () => {
    const clicks: number[] = []
    const t = table(clicks)
    t.find<HTMLElement>('[data-n="3"]').element.focus()
    press('Enter')
    expect(clicks).toEqual([3])
  })

  it('leaves keys to what is typed in, and keys with Alt to the screen', () => {
    const t = table()
    t.find<HTMLElement>('[data-in="2"]').element.focus()
    press('ArrowDown')
    expect((document.activeElement as HTMLElement).dataset.in).toBe('2')
    t.find<HTMLElement>('[data-n="2"]').element.focus()
    press('ArrowDown', { altKey: true })
    expect(here()).toBe('2')
  })
})

describe('a side panel', () => {
  it('takes the focus, closes with Escape and gives the focus back', async () => {
    document.body.innerHTML = '<button id="from">Open</button>'
    const from = document.getElementById('from')!
    from.focus()
    const panel = mount(SidePanel, { props: { title: 'Trail' }, slots: { default: 'text' } })
    await nextTick()
    const aside = document.querySelector('aside')!
    expect(aside.getAttribute('aria-label')).toBe('Trail')
    expect(document.activeElement).toBe(aside)
    document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }))
    expect(panel.emitted('close')).toHaveLength(1)
    panel.unmount()
    expect(document.activeElement).toBe(from)
    expect(document.querySelector('aside')).toBeNull()
  })

  it('leaves Escape to a list that is open over it', () => {
    const panel = mount(SidePanel, { props: { title: 'Trail' } })
    const taken = new KeyboardEvent('keydown', { key: 'Escape', cancelable: true })
    taken.preventDefault()
    document.dispatchEvent(taken)
    expect(panel.emitted('close')).toBeUndefined()
  })
})

describe('bands', () => {
  it('never look alike, whatever their number', () => {
    for (let of = 2; of <= 12; of++) {
      const looks = Array.from({ length: of }, (_, i) => `${bandClass(i, of)} ${bandStyle(i, of)['--share']}`)
      expect(new Set(looks).size).toBe(of)
      for (let i = 1; i < of; i++) expect(bandClass(i, of)).not.toBe(bandClass(i - 1, of))
    }
  })

  it('say in words what the bar shows, and leave empty ones out of it', () => {
    const bar = mount(BandBar, { props: { counts: [10, 0, 7], names: ['Launching', 'Underway', 'On course'] } })
    expect(bar.attributes('aria-label')).toBe('Launching 10, Underway 0, On course 7')
    expect(bar.findAll('b').map((b) => b.text())).toEqual(['10', '7'])
    expect(mount(BandBar, { props: { counts: [0, 0], names: ['a', 'b'] } }).attributes('aria-label')).toBe('no scores yet')
  })

  it('have a swatch that is decoration only', () => {
    expect(mount(BandSwatch, { props: { at: 0, of: 4 } }).attributes('aria-hidden')).toBe('true')
  })
})

describe('small parts', () => {
  it('show a difficulty as bar and figure, and none as a dash', () => {
    const known = mount(DifficultyBar, { props: { value: 712 } })
    expect(known.text()).toBe('.71')
    expect(known.find('.bar span').attributes('style')).toContain('71.2%')
    const none = mount(DifficultyBar, { props: { value: undefined } })
    expect(none.text()).toBe('–')
    expect(none.find('.bar').exists()).toBe(false)
  })

  it('say what went wrong as an alert, and nothing otherwise', () => {
    expect(
      mount(Trouble, { props: { error: new Error('Line 3 is twice there.') } })
        .get('[role=alert]')
        .text(),
    ).toBe('Line 3 is twice there.')
    expect(mount(Trouble, { props: { error: null } }).text()).toBe('')
  })

  it('know a field from the rest of the screen', () => {
    const from = (html: string) => {
      document.body.innerHTML = html
      let typing = false
      document.body.addEventListener('keydown', (e) => (typing = isTyping(e)), { once: true })
      document.body.firstElementChild!.dispatchEvent(new KeyboardEvent('keydown', { key: 'i', bubbles: true }))
      return typing
    }
    expect(from('<input type="text">')).toBe(true)
    expect(from('<textarea></textarea>')).toBe(true)
    expect(from('<input type="checkbox">')).toBe(false)
    expect(from('<button>x</button>')).toBe(false)
  })
})
