import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/contract/client'
import ChoiceAnswer from './ChoiceAnswer.vue'
import ItemBody from './ItemBody.vue'
import LookOver from '@/player/LookOver.vue'
import MarksStrip from '@/player/MarksStrip.vue'
import TypedAnswer from './TypedAnswer.vue'

const choices = ['red', 'green', 'blue'].map((html, i) => ({ id: `C${i}`, html }))
const choice = (chosen: string[], more = {}) =>
  mount(ChoiceAnswer, { props: { modelValue: chosen, choices, most: 1, name: 'n', describedBy: 'stem', ...more } })

describe('choices', () => {
  it('of which one is right are radio buttons with letters', () => {
    const c = choice(['C1'])
    expect(c.find('.choices').attributes('role')).toBe('radiogroup')
    expect(c.findAll('.letter').map((l) => l.text())).toEqual(['A', 'B', 'C'])
    expect(c.findAll('input').map((i) => i.element.checked)).toEqual([false, true, false])
    expect(c.findAll('label')[1]!.classes()).toContain('chosen')
  })

  it('give the new one alone', async () => {
    const c = choice(['C1'])
    await c.findAll('input')[2]!.trigger('change')
    expect(c.emitted('update:modelValue')).toEqual([[['C2']]])
  })

  it('of which several may be right add up and go away again', async () => {
    const c = choice(['C0'], { most: 0 })
    expect(c.findAll('input')[0]!.element.type).toBe('checkbox')
    await c.findAll('input')[2]!.trigger('change')
    await c.setProps({ modelValue: ['C0', 'C2'] })
    await c.findAll('input')[0]!.trigger('change')
    expect(c.emitted('update:modelValue')).toEqual([[['C0', 'C2']], [['C2']]])
    expect(c.html()).toContain('You may choose more than one.')
  })

  it('take no more than are allowed, and let one be taken back', () => {
    const c = choice(['C0', 'C1'], { most: 2 })
    expect(c.findAll('input').map((i) => i.element.disabled)).toEqual([false, false, true])
    expect(c.html()).toContain('Choose 2 at most.')
  })

  it('name the key only where there is one to show', () => {
    expect(choice(['C1']).text()).not.toContain('key')
    const c = choice([], { readOnly: true, correct: ['C2'] })
    expect(c.findAll('label')[2]!.text()).toContain('key')
    expect(c.findAll('input').every((i) => i.element.disabled)).toBe(true)
  })
})

describe('a typed number', () => {
  it('gives what was typed, whatever its spelling', async () => {
    const n = mount(TypedAnswer, { props: { modelValue: '', unit: 'kg', describedBy: 'stem' } })
    await n.find('input').setValue('1 1/2')
    expect(n.emitted('update:modelValue')).toEqual([['1 1/2']])
    expect(n.text()).toContain('kg')
    expect(n.text()).not.toContain('key')
  })
})

describe('an item', () => {
  const shown = {
    kind: 'number',
    body: [{ html: '<p>How many?</p>' }, { interaction: { response: 'RESPONSE', unit: 'm' } }],
  } as unknown as Schemas['Shown']

  it('answers its interaction and leaves others as they are', async () => {
    const i = mount(ItemBody, { props: { modelValue: { OTHER: ['x'] }, shown, name: 'n' } })
    await i.find('input').setValue('12')
    expect(i.emitted('update:modelValue')).toEqual([[{ OTHER: ['x'], RESPONSE: ['12'] }]])
  })

  it('is not answered any more when its box is emptied', async () => {
    const i = mount(ItemBody, { props: { modelValue: { RESPONSE: ['12'] }, shown, name: 'n' } })
    await i.find('input').setValue('')
    expect(i.emitted('update:modelValue')).toEqual([[{ RESPONSE: [] }]])
  })

  it('names its answer by its text', () => {
    const i = mount(ItemBody, { props: { modelValue: {}, shown, name: 'line-3' } })
    const by = i.find('input').attributes('aria-labelledby')!.split(' ')
    expect(by.map((id) => i.find(`[id='${id}']`).text())).toEqual(['How many?', 'A number, such as 12, 0.5 or 3/4.'])
  })
})

describe('the strip of marks', () => {
  it('says in words what its cells show', async () => {
    const s = mount(MarksStrip, { props: { answered: [true, false, true], marked: [false, true, false], at: 3 } })
    expect(s.findAll('button').map((b) => b.attributes('aria-label'))).toEqual([
      'Item 1, answered',
      'Item 2, not answered, marked for later',
      'Item 3, answered, you are here',
    ])
    expect(s.findAll('button')[2]!.attributes('aria-current')).toBe('step')
    await s.findAll('button')[1]!.trigger('click')
    expect(s.emitted('go')).toEqual([[2]])
  })
})

describe('looking over', () => {
  const over = (answered: boolean[], marked: boolean[]) => mount(LookOver, { props: { answered, marked, busy: false } })

  it('names what is not answered and what was marked', async () => {
    const o = over([true, false, false], [true, false, true])
    expect(o.text()).toContain('2 items are not answered.')
    expect(o.findAll('.cells button').map((b) => b.attributes('aria-label'))).toEqual([
      'Go to item 2, not answered',
      'Go to item 3, not answered',
      'Go to item 1, marked for later',
      'Go to item 3, marked for later',
    ])
    await o.find('.cells button').trigger('click')
    expect(o.emitted('go')).toEqual([[2]])
    expect(o.find('button.main').text()).toBe('Hand in with 2 not answered')
  })

  it('has nothing to name when all is done', async () => {
    const o = over([true, true], [false, false])
    expect(o.text()).toContain('Every item is answered.')
    await o.find('button.main').trigger('click')
    expect(o.emitted('handIn')).toHaveLength(1)
  })
})
