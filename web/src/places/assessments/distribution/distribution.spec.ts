import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { describe, expect, it } from 'vitest'
import { queries } from '@/contract/client'
import EntryPanel from './EntryPanel.vue'
import SavedChoices from './SavedChoices.vue'
import WavesTable from './WavesTable.vue'
import WhichForm from './WhichForm.vue'
import WhomTable from './WhomTable.vue'
import type { Schemas } from '@/contract/client'
import { choices, daysOf, noEntry, noWave, shifted, type Distribution, type WaveShown } from './whom'

const section = (id: number, school: number, grade = '05') =>
  ({
    id,
    schoolId: school,
    school: `School ${school}`,
    title: `5-${id}`,
    courseId: 7,
    course: 'Reading 5',
    grade,
    students: 20,
    teacher: 'T',
  }) as Schemas['Section']
const wave = (opens: string, closes: string, days: string[], part: Partial<WaveShown> = {}): WaveShown => ({
  wave: { ...noWave(), opens, closes },
  schoolNames: [],
  sectionCount: 2,
  students: 40,
  hours: '',
  days: days.map((date) => ({ date, spans: [[480, 690]], off: false, expected: 20 })),
  ...part,
})
const global = { plugins: [PrimeVue], stubs: { teleport: true } }

describe('whom', () => {
  it('is a running account, from which an entry is opened and removed', async () => {
    const count = (change: number, students: number) => ({ change, schools: 1, sections: 2, students })
    const view = {
      entries: [noEntry(), { ...noEntry(), out: true }],
      account: [
        { words: 'All sections', ...count(40, 40) },
        { words: '5-2, School 1', ...count(-20, 20) },
      ],
      total: { words: '', ...count(-1, 19) },
      twice: [{ studentId: 9, name: 'Mei Sato', text: '5-1; also in 5-2', others: [{ id: 52, title: '5-2' }] }],
      seated: [],
    } as unknown as Distribution
    const t = mount(WhomTable, { props: { view, editable: true }, global })
    expect(
      t.findAll('tbody tr').map((r) =>
        r
          .findAll('td.num')
          .map((c) => c.text())
          .slice(0, 4),
      ),
    ).toEqual([
      ['40', '1', '2', '40'],
      ['−20', '1', '2', '20'],
      ['−1', '1', '2', '19'],
    ])
    expect(t.text()).toContain('5-2, School 1, left out')
    expect(t.text()).toContain('Mei Sato: 5-1; also in 5-2')
    await t.find('[aria-label="Remove 5-2, School 1"]').trigger('click')
    await t.find('tbody .link-button').trigger('click')
    await t.find('[aria-label="Seat Mei Sato in 5-2"]').trigger('click')
    expect([t.emitted('remove'), t.emitted('open'), t.emitted('seat')]).toEqual([[[1]], [[0]], [[9, 52]]])
  })

  it('offers each school and course once', () => {
    const c = choices([section(1, 1), section(2, 1), section(3, 2, '06')])
    expect(c.schools.map((s) => s.id)).toEqual([1, 2])
    expect(c.courses).toHaveLength(1)
    expect(c.grades).toEqual(['05', '06'])
  })

  it('says only what belongs to the kind of entry that is chosen', async () => {
    const t = mount(EntryPanel, {
      props: { entry: { ...noEntry(), sections: [1] }, candidates: [section(1, 1), section(2, 2)], groups: [] },
      global,
    })
    await t.find('select').setValue('rule')
    await t.find('fieldset input[type=checkbox]').setValue(true)
    await t
      .findAll('button')
      .find((b) => b.text() === 'Save the entry')!
      .trigger('click')
    expect(t.emitted('put')).toEqual([[{ ...noEntry(), schools: [1] }]])
  })
})

describe('kept choices', () => {
  const grade = { ...noEntry(), grades: ['05'] }

  it('are used, kept under a name and deleted', async () => {
    queries.clear()
    server.on('GET /api/choices', () => ({ body: [{ id: 3, name: 'All of grade 5', entries: [grade] }] }))
    server.on('PUT /api/choices', () => ({ status: 422, body: { title: 'x', detail: 'A choice needs a name.' } }))
    const t = mount(SavedChoices, {
      props: { entries: [noEntry()] },
      global: { plugins: [PrimeVue, [VueQueryPlugin, { queryClient: queries }]] },
    })
    await flushPromises()
    const press = (words: string) =>
      t
        .findAll('button')
        .find((b) => b.text() === words)!
        .trigger('click')
    await press('All of grade 5')
    expect(t.emitted('use')).toEqual([[[grade]]])
    await press('Keep this choice')
    await t.find('form').trigger('submit')
    await flushPromises()
    expect(t.text()).toContain('A choice needs a name.')
    server.on('PUT /api/choices', () => ({ body: [{ id: 4, name: 'Everyone', entries: [noEntry()] }] }))
    await t.find('input').setValue('Everyone')
    await t.find('form').trigger('submit')
    await flushPromises()
    expect(server.calls('PUT /api/choices').at(-1)!.body).toEqual({ name: 'Everyone', entries: [noEntry()] })
    expect([t.find('form').exists(), t.text().includes('Everyone')]).toEqual([false, true])
    server.on('DELETE /api/choices/4', () => ({ body: [] }))
    await t.find('[aria-label="Delete the choice Everyone"]').trigger('click')
    await flushPromises()
    expect(t.text()).not.toContain('Everyone')
  })
})

describe('which form', () => {
  const view = (deal: Schemas['Deal']) =>
    ({
      deal,
      forms: [
        { id: 1, letter: 'A', points: '34', expected: 580, students: 3 },
        { id: 2, letter: 'B', points: '34', students: 2 },
      ],
      rooms: [{ school: 'Heron Point', section: '5-1', letters: ['A', 'B', 'A'] }],
    }) as unknown as Distribution

  it('is chosen, and shown over the seats of the first rooms', async () => {
    const t = mount(WhichForm, { props: { modelValue: '', view: view(''), editable: true }, global })
    expect(t.find('table').exists()).toBe(false)
    await t.findAll('input[type=radio]')[1]!.setValue()
    expect(t.emitted('update:modelValue')).toEqual([['seats']])
    const dealt = mount(WhichForm, { props: { modelValue: 'seats', view: view('seats'), editable: false }, global })
    expect(dealt.find('[role=img]').attributes('aria-label')).toBe('5-1, Heron Point: A B A')
    expect(dealt.findAll('tbody tr').map((r) => r.findAll('td').map((c) => c.text()))).toEqual([
      ['A', '34', '.58', '3'],
      ['B', '34', '–', '2'],
    ])
    expect(dealt.find('fieldset').attributes('disabled')).toBeDefined()
  })
})

describe('the waves', () => {
  const days = ['2027-01-15', '2027-01-16', '2027-01-18']

  it('leave weekends out on which none begins or ends', () => {
    expect(daysOf([wave('2027-01-15T08:00', '2027-01-18T16:00', days)])).toEqual(['2027-01-15', '2027-01-18'])
    expect(daysOf([wave('2027-01-16T08:00', '2027-01-18T16:00', days.slice(1))])).toEqual(['2027-01-16', '2027-01-18'])
  })

  it('are moved by keys, a day or a week at a time, never past one another', async () => {
    const t = mount(WavesTable, {
      props: { waves: [wave('2027-01-15T08:00', '2027-01-18T16:00', days)], editable: true },
      global,
    })
    const [begins, ends] = t.findAll('button.end')
    await ends!.trigger('keydown', { key: 'ArrowRight' })
    await begins!.trigger('keydown', { key: 'PageDown' })
    await begins!.trigger('keydown', { key: 'PageUp' })
    expect(t.emitted('change')).toEqual([
      [0, { ...noWave(), opens: '2027-01-15T08:00', closes: '2027-01-19T16:00' }],
      [0, { ...noWave(), opens: '2027-01-08T08:00', closes: '2027-01-18T16:00' }],
    ])
    expect(shifted('', 1)).toBe('')
  })

  it('count what each day expects of students', () => {
    const t = mount(WavesTable, {
      props: {
        waves: [
          wave('2027-01-15T08:00', '2027-01-15T16:00', days.slice(0, 1)),
          wave('2027-01-15T08:00', '2027-01-18T16:00', days),
        ],
        editable: false,
      },
      global,
    })
    expect(t.findAll('tfoot td.day').map((c) => c.text())).toEqual(['40', '20'])
    expect(t.find('tfoot').text()).toContain('80')
  })
})
