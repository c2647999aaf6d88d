import { flushPromises, mount } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import FormulaPanel from './FormulaPanel.vue'

it('puts in what stands in the box, however fast it was typed', async () => {
  const panel = mount(FormulaPanel, { props: { tex: '' }, attachTo: document.body })
  const box = panel.get('textarea')
  await panel.get('button[aria-label="fraction"]').trigger('click')
  expect(document.activeElement, 'the next key goes into the formula').toBe(box.element)
  expect(box.element.selectionStart).toBe('\\frac{'.length)

  void box.setValue('\\frac{1}{2}')
  void box.trigger('keydown', { key: 'Enter' })
  await vi.waitFor(() => expect(panel.emitted('done')).toHaveLength(1), 10_000)
  expect(String(panel.emitted('done')![0])).toContain('mfrac')
})

it('leaves a formula that cannot be read in its box', async () => {
  const panel = mount(FormulaPanel, { props: { tex: '' } })
  await panel.get('textarea').setValue('\\frac{1')
  await vi.waitFor(() => expect(panel.find('p.resin').exists()).toBe(true), 10_000)
  await panel.get('textarea').trigger('keydown', { key: 'Enter' })
  expect(panel.emitted('done')).toBeUndefined()
})

it('shows what is to be filled in; Tab goes from blank to blank, and what is typed beside one takes its place', async () => {
  const panel = mount(FormulaPanel, { props: { tex: '' }, attachTo: document.body })
  const box = panel.get('textarea')
  const el = box.element
  /** Types into the box as a browser does: over what is selected. */
  const type = async (text: string) => {
    const [from, to] = [el.selectionStart, el.selectionEnd]
    el.setRangeText(text, from, to)
    el.setSelectionRange(from + text.length, from + text.length)
    el.dispatchEvent(new InputEvent('input', { data: text, inputType: 'insertText', bubbles: true }))
    await flushPromises()
  }
  await panel.get('button[aria-label="fraction"]').trigger('click')
  expect(el.value).toBe('\\frac{□}{□}')
  expect(panel.text()).toContain('2 blanks to fill in')
  await type('1')
  expect(el.value).toBe('\\frac{1}{□}')
  await box.trigger('keydown', { key: 'Tab' })
  expect(el.value.slice(el.selectionStart, el.selectionEnd)).toBe('□')
  await box.trigger('keydown', { key: 'Enter' })
  await flushPromises()
  expect(panel.emitted('done'), 'not while a blank is left').toBeUndefined()
  el.setSelectionRange(9, 9) // before the blank, as arrows lead
  await type('2')
  expect(el.value).toBe('\\frac{1}{2}')
  const tab = new KeyboardEvent('keydown', { key: 'Tab', cancelable: true, bubbles: true })
  el.dispatchEvent(tab)
  expect(tab.defaultPrevented, 'without a blank Tab leaves the box').toBe(false)
})
