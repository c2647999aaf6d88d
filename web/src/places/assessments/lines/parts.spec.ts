import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/contract/client'
import { cautionText } from '@/places/bands/cautions'
import BalanceTable from '@/places/assessments/blueprint/BalanceTable.vue'
import CutsTable from '@/places/assessments/cuts/CutsTable.vue'
import Spine from '@/places/assessments/sheet/Spine.vue'
import TargetTree from '@/places/assessments/distribution/TargetTree.vue'
import type { Sheet } from './lines'

const section = (id: number, school: string, grade: string, students: number) =>
  ({ id, title: `Section ${id}`, school, grade, students, teacher: 'T' }) as unknown as Schemas['Section']

describe('the tree of sections', () => {
  const candidates = [section(1, 'Breakwater', '06', 24), section(2, 'Breakwater', '07', 20), section(3, 'Quarry Road', '06', 25)]
  const tree = (chosen: number[]) =>
    mount(TargetTree, {
      props: { modelValue: chosen, candidates },
      global: { plugins: [PrimeVue] },
    })
  const sum = (t: ReturnType<typeof tree>) => t.find('tfoot').text()
  const last = (t: ReturnType<typeof tree>) => (t.emitted('update:modelValue')!.at(-1)![0] as number[]).toSorted()

  it('counts what is chosen, by school and in all', () => {
    const t = tree([1, 3])
    expect(t.findAll('tr.school').map((r) => r.find('td.num').text())).toEqual(['24', '25'])
    expect(t.find('tr.school').text()).toContain('1 of 2 sections')
    expect(sum(t)).toContain('2 sections chosen')
    expect(sum(t)).toContain('49')
    const boxes = t.findAll<HTMLInputElement>('tr.school input')
    expect(boxes.map((b) => [b.element.checked, b.element.indeterminate])).toEqual([
      [false, true],
      [true, false],
    ])
  })

  it('takes a whole school, fills up a half-chosen one and lets it go again', async () => {
    const t = tree([1])
    await t.find('tr.school input').trigger('change')
    expect(last(t)).toEqual([1, 2])
    await t.setProps({ modelValue: [1, 2] })
    await t.find('tr.school input').trigger('change')
    expect(last(t)).toEqual([])
  })

  it('takes all, none, and a grade across schools', async () => {
    const t = tree([2])
    const press = (label: string) =>
      t
        .findAll('button')
        .find((b) => b.text() === label)!
        .trigger('click')
    await press('All of grade 6')
    expect(last(t)).toEqual([1, 2, 3])
    await press('None')
    expect(last(t)).toEqual([])
    await press('All')
    expect(last(t)).toEqual([1, 2, 3])
  })
})

describe('cuts on a form', () => {
  const bands = [
    { name: 'Launching', cut: {} },
    { name: 'Underway', cut: { percent: 50 } },
    { name: 'On course', cut: { raw: 8, of: 10 } },
  ] as Schemas['Band'][]
  const table = (cuts: Partial<Schemas['Cuts']>) =>
    mount(CutsTable, { props: { bands, cuts: { total: 10, grain: 1, ...cuts } as Schemas['Cuts'] } })
      .findAll('tbody tr')
      .map((r) =>
        r
          .findAll('td')
          .map((c) => (c.find('input').exists() ? (c.find('input').element.value ?? '') : c.text()))
          .slice(1, 4),
      )

  it('stand in percent, in points and as the scores that a band holds', () => {
    expect(
      table({
        starts: [
          { name: 'Launching', raw: 0, percentTenths: 0 },
          { name: 'Underway', raw: 5, percentTenths: 500 },
          { name: 'On course', raw: 8, percentTenths: 800 },
        ],
      }),
    ).toEqual([
      ['0', '0', '0 to 4'],
      ['50', '5', '5 to 7'],
      ['80', '8', '8 to 10'],
    ])
  })

  it('show a band that no score reaches', () => {
    const rows = table({
      starts: [
        { name: 'Launching', raw: 0, percentTenths: 0 },
        { name: 'Underway', raw: 5, percentTenths: 500 },
        { name: 'On course' },
      ] as Schemas['Cuts']['starts'],
    })
    expect(rows[1]![2]).toBe('5 to 10')
    expect(rows[2]).toEqual(['', '', 'no score'])
  })

  it.each([
    ['sameRaw', 'They begin at the same raw score, 5'],
    ['aboveTotal', 'the form is worth 10 points'],
    ['unreachable', 'move in steps of 1'],
    ['otherTotal', 'another total than 10'],
    ['order', 'begins below the first'],
  ] as const)('explain the caution %s in a sentence', (kind, words) => {
    const cuts = { total: 10, grain: 1, starts: [{ name: 'Underway', raw: 5, percentTenths: 500 }] } as Schemas['Cuts']
    expect(cautionText({ kind, bands: ['Underway'] }, cuts)).toContain(words)
  })
})

describe('the balance', () => {
  it('says short, over and even, and the whole', async () => {
    const row = (title: string, min: number, placed: number, balance: number) => ({
      title,
      min,
      max: min,
      placed,
      balance,
      byPoints: false,
      filter: {},
    })
    const sheet = {
      rows: [row('Ratio', 4, 4, 0), row('Figures', 4, 1, -3), row('', 2, 3, 1)],
      lines: Array.from({ length: 8 }),
      shortage: 3,
      excess: 1,
    } as unknown as Sheet
    const t = mount(BalanceTable, { props: { sheet } })
    expect(t.findAll('tbody tr').map((r) => r.find('td:last-child').text())).toEqual(['even', 'short 3', 'over 1'])
    expect(t.findAll('tbody tr')[2]!.text()).toContain('Row 3')
    expect(t.find('tfoot').text()).toContain('10')
    expect(t.find('.whole').text()).toBe('short 3\nover 1')
    await t.findAll('tbody tr')[1]!.trigger('click')
    expect(t.emitted('open')).toEqual([[1]])
  })
})

describe('the spine', () => {
  it('leads to each part and says how it stands', () => {
    const sheet = {
      id: 9,
      parts: [
        { name: 'outline', state: 'complete', status: 'done' },
        { name: 'lines', state: '24 of 28 lines', status: 'wanting' },
        { name: 'results', state: '71 handed in', status: 'done' },
      ],
      forms: [],
      shares: [],
    } as unknown as Sheet
    const s = mount(Spine, {
      props: { sheet, part: 'lines', results: 3, others: [], builds: true },
      global: { stubs: { RouterLink: { props: ['to'], template: '<a :href="to"><slot /></a>' } } },
    })
    expect(s.findAll('a').map((a) => a.attributes('href'))).toEqual([
      '/assessments/9/outline',
      '/assessments/9/lines',
      '/results/3',
    ])
    expect(s.find('[aria-current=step]').text()).toContain('24 of 28 lines')
    expect(s.findAll('li').map((l) => l.classes()[0])).toEqual(['done', 'wanting', 'done'])
  })
})
