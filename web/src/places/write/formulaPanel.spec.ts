import { mount } from '@vue/test-utils'
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
