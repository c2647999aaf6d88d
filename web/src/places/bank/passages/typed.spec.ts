import { describe, expect, it } from 'vitest'
import { forget, remember, remembered } from './typed'

const saved = { identifier: 'P1', title: 'Tides', body: '<p>Ebb.</p>', language: 'en', source: '', permission: '', bank: 'B' }

describe('a passage that is typed and not yet kept', () => {
  it('is there again after a reload', () => {
    remember(4, 2, { ...saved, title: 'Tide tables' }, saved)
    expect(remembered(4, 2).title).toBe('Tide tables')
  })

  it('is not put over what somebody else has kept since', () => {
    remember(4, 2, { ...saved, title: 'Tide tables' }, saved)
    expect(remembered(4, 3)).toEqual({})
  })

  it('leaves nothing when nothing differs, or when it is kept', () => {
    remember(4, 2, { ...saved, title: 'x' }, saved)
    remember(4, 2, { ...saved, bank: 'other' }, saved)
    expect(localStorage.length).toBe(0)
    remember(4, 2, { ...saved, title: 'x' }, saved)
    forget(4)
    expect(remembered(4, 2)).toEqual({})
  })
})
