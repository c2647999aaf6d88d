import { describe, expect, it } from 'vitest'
import { usual, type How } from '../how'
import { beginsWith } from '../supports'
import { calculatorOf, keys, toolOf, toolsAt, without } from './tools'

const how = (tools: Partial<How['tools']>): How => ({ ...usual, tools: { ...usual.tools, ...tools } })

describe('the tools of a student', () => {
  it('are those that they have, and a key each', () => {
    expect(toolsAt(usual, undefined, undefined)).toEqual([])
    expect(toolsAt(how({ scratchPad: true, ruler: true, readAloud: ['questions'], zoom: true }), undefined, undefined)).toEqual([
      'aloud',
      'pad',
      'ruler',
      'screen',
    ])
    expect(toolsAt(how({ glossary: true }), undefined, { kind: 'number', body: [] })).toEqual([])
    const explained = { kind: 'number', body: [], glossary: [{ word: 'mean', language: '', html: 'x' }] }
    expect(toolsAt(how({ glossary: true }), 'basic', explained)).toEqual(['calculator', 'glossary'])
    expect(new Set(Object.values(keys)).size).toBe(Object.keys(keys).length)
  })

  it('open by Alt and Shift with their letter, whatever the keyboard writes then', () => {
    const press = (code: string, more = {}) =>
      toolOf(new KeyboardEvent('keydown', { code, altKey: true, shiftKey: true, ...more }))
    expect(press('KeyC')).toBe('calculator')
    expect(press('KeyH')).toBe('highlighter')
    expect(press('KeyC', { ctrlKey: true })).toBeUndefined()
    expect(press('KeyC', { shiftKey: false })).toBeUndefined()
    expect(press('KeyQ')).toBeUndefined()
  })

  it('have the calculator of the settings, or one of a part', () => {
    expect(calculatorOf(how({ calculator: 'scientific' }), { calculator: true }, true)).toBe('scientific')
    expect(calculatorOf(usual, { calculator: true }, false)).toBe('percent')
    expect(calculatorOf(usual, undefined, true)).toBe('percent')
    expect(calculatorOf(usual, { calculator: false }, false)).toBeUndefined()
  })

  it('are fewer at a line that is answered without some', () => {
    const has = how({ calculator: 'basic', scratchPad: true, readAloud: ['questions'], strikeOut: true })
    expect(without(has, undefined)).toBe(has)
    const here = without(has, ['calculator', 'readAloud', 'strikeOut'])
    expect(toolsAt(here, calculatorOf(here, undefined, false), undefined)).toEqual(['pad'])
    expect(here.tools.strikeOut).toBe(false)
    expect(has.tools.calculator, 'and all are there at the next').toBe('basic')
  })

  it('begin with a screen as supports say', () => {
    const begins = { ...usual.begins, print: '2', colors: 'dark-on-blue', easyType: true }
    expect(beginsWith({ ...usual, begins })).toEqual({ print: 2, contrast: 'dark-on-blue', spaced: true, calculator: false })
    expect(beginsWith({ ...usual, begins: { ...begins, print: '17', colors: 'pink' } })).toMatchObject({ print: 1, contrast: '' })
  })
})
