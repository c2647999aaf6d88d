import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { beforeEach, describe, expect, it } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries } from '@/contract/client'
import { openSheetKey } from '@/places/assessments/sheet/open'
import RoomSheets from './RoomSheets.vue'
import Supports from './Supports.vue'
import {
  gapsFirst,
  groupsOf,
  isSection,
  sectioned,
  spoken,
  type Cell,
  type Column,
  type Gap,
  type Matrix,
  type Row,
} from './matrix'

const column = (key: string, group: string, by: Column['by'] = 'program'): Column => ({
  key,
  group,
  name: key,
  short: key,
  by,
  students: 1,
  missing: 0,
})
const cell = (part: Partial<Cell>): Cell => ({
  key: 'extraTime',
  words: '',
  short: '',
  letters: [],
  still: true,
  temporary: false,
  source: 'profile',
  apart: false,
  ...part,
})
const row = (studentId: number, sectionId: number, ...cells: Cell[]): Row => ({
  studentId,
  name: `Student ${studentId}`,
  number: `10000${studentId}`,
  section: `5-${sectionId}`,
  sectionId,
  school: 'Heron Point',
  cells,
  minutes: 90,
  longer: false,
})
const gap = (part: Partial<Gap> = {}): Gap => ({
  letter: 'a',
  key: 'readAloud',
  title: 'Read aloud: passages',
  detail: 'Reading is measured.',
  mends: ['allow', 'without'],
  lines: [1, 2],
  sections: 2,
  students: 3,
  ...part,
})

let matrix: Matrix
beforeEach(() => {
  queries.clear()
  matrix = {
    students: 40,
    with: 3,
    sent: true,
    day: '2026-11-30',
    columns: [column('extraTime', 'When'), column('readAloud', 'How it is shown'), column('scribe', 'Answering', 'person')],
    rows: [
      row(1, 1, cell({ words: 'time and a half', short: '1½' })),
      row(2, 2, cell({ key: 'readAloud', letters: ['a'] })),
      row(3, 2, cell({ key: 'scribe', letters: ['b'], temporary: true })),
    ],
    found: 3,
    gaps: [gap(), gap({ letter: 'b', key: 'scribe', title: 'Nobody is named: scribe', mends: ['name'], students: 1 })],
    balance: [{ key: 'scribe', name: 'Scribe', need: 1, have: 0 }],
    places: [
      { sectionId: 2, section: '5-2', school: 'Heron Point', key: 'scribe', name: 'Scribe', need: 1, provider: '', have: 0 },
    ],
    rulings: [],
    mayRule: true,
    changes: 1,
    changing: [{ studentId: 3, student: 'Student 3', says: 'Scribe', what: 'ends', day: '2026-12-02' }],
    schools: ['Heron Point'],
  }
  server.on('GET /api/assessments/4/supports', () => ({ body: matrix }))
})

describe('the matrix in words', () => {
  it('stands under its sections, those with gaps first', () => {
    expect(gapsFirst(matrix.rows).map((r) => r.studentId)).toEqual([2, 3, 1])
    expect(sectioned(matrix.rows).map((e) => (isSection(e) ? `${e.section}: ${e.students}` : e.studentId))).toEqual([
      '5-1: 1',
      1,
      '5-2: 2',
      2,
      3,
    ])
    expect(groupsOf([...matrix.columns, column('speech', 'Answering')])).toEqual([
      { name: 'When', n: 1 },
      { name: 'How it is shown', n: 1 },
      { name: 'Answering', n: 2 },
    ])
  })

  it('says each mark to who hears it', () => {
    expect(spoken(matrix.rows[0]!.cells[0]!, matrix.columns[0]!, matrix.gaps)).toBe('time and a half, by itself')
    expect(spoken(matrix.rows[2]!.cells[0]!, matrix.columns[2]!, matrix.gaps)).toBe(
      'scribe, not yet possible: Nobody is named: scribe, some weeks only',
    )
    expect(spoken(cell({ source: 'today', apart: true }), matrix.columns[2]!, [])).toBe(
      'scribe, a person gives it, added for this sitting, the result will not compare',
    )
  })
})

async function show(component: typeof Supports | typeof RoomSheets, path: string) {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/assessments/:id/room-sheets', component: RoomSheets },
      { path: '/:rest(.*)*', component: { render: () => null } },
    ],
  })
  await router.push(path)
  const screen = mount(component, {
    global: {
      plugins: [PrimeVue, router, [VueQueryPlugin, { queryClient: queries }]],
      provide: { [openSheetKey as symbol]: { sheet: { value: { id: 4 } }, saving: { value: false } } },
      stubs: { teleport: true },
    },
    attachTo: document.body,
  })
  await flushPromises()
  return { screen, router }
}
const press = async (screen: VueWrapper, name: string) => {
  const found = screen.findAll('button').find((b) => b.text() === name || b.attributes('aria-label') === name)
  if (!found) throw new Error(`no button ${name}`)
  await found.trigger('click')
  await flushPromises()
}

describe('the supports of an assessment', () => {
  it('says what is not possible, and a coordinator allows it with a reason', async () => {
    const { screen } = await show(Supports, '/assessments/4/supports')
    expect(screen.text()).toContain('3 of 40 students. What is theirs applies by itself.')
    expect(screen.text()).toContain('Read aloud: passages')
    expect(screen.text()).toContain('Student 3: Scribe ends on 2026-12-02')
    await press(screen, 'Allow with a reason')
    await screen.find('#allow-reason').setValue('The plan says so.')
    server.on('PUT /api/assessments/4/supports/readAloud/ruling', () => ({ body: matrix }))
    await screen.findAll('form').at(-1)!.trigger('submit')
    await flushPromises()
    expect(server.calls('PUT /api/assessments/4/supports/readAloud/ruling')[0]!.body).toEqual({
      ruling: 'allow',
      reason: 'The plan says so.',
    })
    expect(screen.find('#allow-reason').exists(), 'it closes once it is kept').toBe(false)
    expect(server.calls('GET /api/assessments/4/supports')).toHaveLength(2)
    await press(screen, 'Leave that out')
    expect(server.calls('PUT /api/assessments/4/supports/readAloud/ruling')[1]!.body).toEqual({ ruling: 'without', reason: '' })
  })

  it('names people, a field each, kept when one leaves it', async () => {
    const { screen } = await show(Supports, '/assessments/4/supports')
    await press(screen, 'Name people')
    const put = 'PUT /api/assessments/4/supports/scribe/provider'
    server.on(put, () => ({ body: matrix }))
    const field = screen.find('[aria-label="Scribe, 5-2, Heron Point"]')
    await field.trigger('blur')
    expect(server.calls(put), 'nothing was typed').toHaveLength(0)
    await field.setValue('Per Ek')
    await field.trigger('blur')
    await flushPromises()
    expect(server.calls(put)[0]!.body).toEqual({ section: 2, provider: 'Per Ek', number: 1 })
  })

  it('keeps what one looks for in the address', async () => {
    const { screen, router } = await show(Supports, '/assessments/4/supports?key=scribe&order=only')
    expect(server.calls('GET /api/assessments/4/supports')[0]!.query).toContain('key=scribe&gaps=true')
    await screen.findAll('select').at(-1)!.setValue('name')
    await flushPromises()
    expect(router.currentRoute.value.query).toEqual({ key: 'scribe', order: 'name' })
  })

  it('says what belongs here where there is nobody', async () => {
    Object.assign(matrix, { students: 0, with: 0, rows: [], found: 0, gaps: [], columns: [] })
    const { screen } = await show(Supports, '/assessments/4/supports')
    expect(screen.text()).toContain('Nobody takes it yet.')
    Object.assign(matrix, { students: 40 })
    queries.clear()
    const again = await show(Supports, '/assessments/4/supports')
    expect(again.screen.text()).toContain('Nobody who takes it has supports.')
  })
})

describe('room sheets', () => {
  it('have a page for each section, with a line where nobody is named', async () => {
    server.on('GET /api/assessments', () => ({ body: [{ id: 4, title: 'Winter reading' }] }))
    const { screen } = await show(RoomSheets, '/assessments/4/room-sheets')
    const pages = screen.findAll('article')
    expect(pages).toHaveLength(2)
    expect(pages[0]!.text()).toContain('extraTime: time and a half')
    expect(pages[1]!.text()).toContain('Scribe, 1: ____')
    expect(pages[1]!.findAll('tbody tr')[0]!.findAll('td')[1]!.text(), 'what is not possible is not promised').toBe('readAloud')
  })
})
