import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/contract/client'
import Basis from './Basis.vue'
import BySchool from './BySchool.vue'
import CutField from './CutField.vue'
import CutsPicture from './CutsPicture.vue'
import { across, bars, onGrain, scoreAt, ticks } from './scores'

const cuts: Schemas['Cuts'] = {
  total: 4,
  grain: 0.5,
  starts: [
    { name: 'Launching', raw: 0, percentTenths: 0 },
    { name: 'Underway', raw: 2, percentTenths: 500 },
    { name: 'On course', raw: 3.5, percentTenths: 875 },
  ],
  cautions: [],
}

const outlook = (name: string, students: number, shares: number[]): Schemas['Outlook'] => ({
  name,
  students,
  mean: 2,
  sd: 1,
  accuracy: 0.8,
  consistency: 0.7,
  bands: shares.map((share, i) => ({ name: cuts.starts[i]!.name, share, count: share * students, low: 0, high: students })),
})

describe('the bars of a form', () => {
  it('are its scores, each with its share', () => {
    const all = bars(2, 0.5, [
      { raw: 0.5, share: 0.25 },
      { raw: 2, share: 0.75 },
    ])
    expect(all.map((b) => b.raw)).toEqual([0, 0.5, 1, 1.5, 2])
    expect(all.map((b) => b.share)).toEqual([0, 0.25, 0, 0, 0.75])
  })

  it('are whole points where there are too many scores to tell apart', () => {
    const all = bars(30, 0.2, [
      { raw: 3.2, share: 0.25 },
      { raw: 3.8, share: 0.5 },
      { raw: 30, share: 0.25 },
    ])
    expect(all).toHaveLength(31)
    expect(all[3]!.share).toBe(0.75)
    expect(all[30]!.share).toBe(0.25)
  })

  it('give a cut the left edge of its bar, and a place the nearest score', () => {
    const all = bars(4, 0.5, [])
    expect(across(2, all)).toBeCloseTo(4 / 9)
    for (const raw of [0, 0.5, 2, 3.5, 4]) expect(scoreAt(across(raw, all), all, 4, 0.5)).toBe(raw)
    expect(scoreAt(-3, all, 4, 0.5)).toBe(0)
    expect(scoreAt(9, all, 4, 0.5)).toBe(4)
    expect(onGrain(1.9, 4, 0.3)).toBe(1.8)
    expect(ticks(32)).toEqual([0, 4, 8, 12, 16, 20, 24, 28, 32])
  })
})

describe('the cuts of the picture', () => {
  const picture = () =>
    mount(CutsPicture, { props: { cuts, scores: [{ raw: 2, share: 1 }], outlook: outlook('', 40, [0.2, 0.5, 0.3]) } })

  it('say where they are and what they would do', () => {
    const sliders = picture().findAll('[role=slider]')
    expect(sliders.map((s) => s.attributes('aria-label'))).toEqual(['Cut of Underway', 'Cut of On course'])
    expect(sliders[1]!.attributes('aria-valuetext')).toBe('3.5 of 4 points, 30.0% expected in On course')
  })

  it.each([
    ['ArrowRight', {}, [1, 2.5]],
    ['ArrowLeft', {}, [1, 1.5]],
    ['ArrowUp', { shiftKey: true }, [1, 3]],
    ['Home', {}, [1, 0]],
    ['End', {}, [1, 4]],
  ])('move with %s from score to score', async (key, more, to) => {
    const p = picture()
    await p.find('[role=slider]').trigger('keydown', { key, ...more })
    expect(p.emitted('move')).toEqual([to])
  })

  it('stay on the form', async () => {
    const p = picture()
    await p.findAll('[role=slider]')[1]!.trigger('keydown', { key: 'ArrowRight', shiftKey: true })
    await p.findAll('[role=slider]')[1]!.trigger('keydown', { key: 'a' })
    expect(p.emitted('move')).toEqual([[2, 4]])
  })
})

describe('a cut that is typed', () => {
  const field = () => mount(CutField, { props: { label: 'Cut', value: 43, most: 100, unit: 'percent', strong: true } })
  const type = async (f: ReturnType<typeof field>, text: string) => {
    await f.find('input').setValue(text)
  }

  it('is taken once it can be one', async () => {
    const f = field()
    await type(f, '62.5%')
    expect(f.emitted('set')).toEqual([[62.5]])
  })

  it.each([
    ['', 'Type a number of percent.'],
    ['half', 'Type a number of percent.'],
    ['-3', 'Type a number of percent.'],
    ['62.125', 'Use at most two decimal places.'],
    ['100.5', 'Use at most 100.'],
  ])('stays as it was typed where it is none: %s', async (text, why) => {
    const f = field()
    await type(f, text)
    expect(f.emitted('set')).toBeUndefined()
    expect(f.find('[role=alert]').text()).toBe(why)
    expect(f.find('input').element.value).toBe(text)
    await f.find('input').trigger('keydown', { key: 'Escape' })
    expect(f.find('input').element.value).toBe('43')
  })
})

describe('what a prediction stands on', () => {
  const basis = (forecast: Partial<Schemas['Forecast']>) =>
    mount(Basis, {
      props: {
        forecast: {
          cuts,
          scaled: 0,
          sources: [],
          many: 0,
          few: 0,
          author: 0,
          unknown: 0,
          students: 0,
          placed: 0,
          smallSchools: 0,
          because: '',
          off: [],
          ...forecast,
        },
        assumed: { mean: 0, sd: 1 },
      },
    })

  it('is said, line by line and student by student', () => {
    const text = basis({ many: 19, author: 6, unknown: 3, students: 234, placed: 200, smallSchools: 1 }).text()
    expect(text).toContain('19 of 28 lines from 200 responses or more, 6 from the author’s estimate, 3 not known.')
    expect(text).toContain('200 of 234 students from their latest scored work in this subject; for the other 34 it is assumed')
    expect(text).toContain('1 school with fewer than ten students is left out.')
  })

  it('is assumed where one types it, if it can be', async () => {
    const b = basis({ students: 20 })
    const [mean, sd] = b.findAll('input')
    await mean!.setValue('-0.5')
    expect(b.emitted('assume')).toEqual([[{ mean: -0.5, sd: 1 }]])
    await sd!.setValue('wide')
    expect(b.find('[role=alert]').text()).toBe('Type a spread from 0 to 3.')
    expect(b.emitted('assume')).toHaveLength(1)
  })
})

it('schools stand beside all of them, from a band up', async () => {
  const schools = [outlook('Heron Point', 60, [0.2, 0.5, 0.3]), outlook('Quarry Road', 40, [0.4, 0.5, 0.1])]
  const table = mount(BySchool, { props: { schools, all: outlook('', 100, [0.28, 0.5, 0.22]) } })
  const shares = () => table.findAll('tbody tr').map((r) => r.findAll('td').at(-1)!.text())
  expect(shares()).toEqual(['80%', '60%'])
  await table.find('select').setValue(table.findAll('option')[1]!.element.value)
  expect(shares()).toEqual(['30%', '10%'])
  expect(table.text()).toContain('22% of 100')
  const observed = [{ name: 'Heron Point', students: 55, bands: [0.1, 0.4, 0.5].map((share) => ({ name: '', count: 5, share })) }]
  await table.setProps({ observed })
  expect(shares()).toEqual(['50%', '–'])
})
