import { server } from '@/contract/testServer'
import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '@/contract/client'
import KeepPanel from '@/places/assessments/blueprint/KeepPanel.vue'
import LibraryList from '@/places/assessments/blueprint/LibraryList.vue'
import SharePanel from './SharePanel.vue'
import type { Sheet } from '@/places/assessments/lines/lines'
import { draft, fill, fresh, press, rows, sheetPath, showOnSheet } from '@/places/assessments/sheet/testSheet'

let kept: Sheet

const share = (part: Partial<Schemas['Share']>): Schemas['Share'] => ({
  personId: 0,
  schoolId: 0,
  subject: '',
  teachers: false,
  byLink: false,
  edit: false,
  copy: true,
  print: true,
  name: '',
  email: '',
  where: '',
  builds: false,
  ...part,
})

beforeEach(() => {
  fresh()
  kept = draft({
    outline: { title: 'Fall plan', subject: 'mathematics' },
    rows: [{}, {}],
    shares: [share({ personId: 9, name: 'Tomás Lindqvist', email: 't@x.example', builds: true, edit: true, byLink: true })],
  })
  server.on(`GET ${sheetPath}`, () => ({ body: kept }))
  server.on('GET /api/schools', () => ({ body: [{ id: 2, name: 'Breakwater' }] }))
  server.on('GET /api/departments', () => ({ body: ['mathematics', 'science'] }))
})

describe('sharing', () => {
  it('adds a department of every school and a school with its teachers, each once', async () => {
    const screen = await showOnSheet(SharePanel)
    expect(rows(screen)[0]).toContain('came by the link')
    await fill(screen, 'Department', 'science')
    await press(screen, 'Add')
    await fill(screen, 'At', '2')
    await press(screen, 'Add')
    expect(rows(screen)[1]).toContain('Science department')
    expect(rows(screen)[1]).toContain('at every school')
    expect(rows(screen)[2]).toContain('Breakwater')
    await screen.findAll('tbody tr')[2]!.find('label input').setValue(true)
    await fill(screen, 'Department', 'science')
    expect(
      screen
        .findAll('button')
        .find((b) => b.text() === 'Add')!
        .attributes('title'),
    ).toBe('They are on the list.')

    server.on(`PUT ${sheetPath}/shares`, () => ({ body: kept }))
    await press(screen, 'Save')
    const [sent] = server.calls(`PUT ${sheetPath}/shares`)
    expect(sent!.ifMatch).toBe('7')
    expect(sent!.body).toEqual({
      linked: [9],
      shares: [
        { personId: 9, schoolId: 0, subject: '', teachers: false, edit: true, copy: true, print: true },
        { personId: 0, schoolId: 0, subject: 'science', teachers: false, edit: false, copy: true, print: true },
        { personId: 0, schoolId: 2, subject: '', teachers: true, edit: false, copy: true, print: true },
      ],
    })
  })

  it('lets a teacher look and print, never edit or copy', async () => {
    server.on('GET /api/staff', () => ({
      body: [{ id: 5, name: 'Ada Reyes', email: 'a@x.example', where: 'Breakwater', builds: false }],
    }))
    const screen = await showOnSheet(SharePanel)
    await screen.find('input[type=search]').setValue('ada')
    await vi.waitFor(() => expect(screen.find('.picker li button').exists()).toBe(true), 10_000)
    await screen.find('.picker li button').trigger('click')
    const boxes = screen.findAll('tbody tr')[1]!.findAll('input[type=checkbox]')
    expect(boxes.map((b) => [(b.element as HTMLInputElement).checked, b.attributes('disabled') !== undefined])).toEqual([
      [false, true],
      [false, true],
      [false, false],
    ])
  })

  it('is saved by closing, too, where something was changed', async () => {
    let closed = 0
    server.on(`PUT ${sheetPath}/shares`, () => ({ body: kept }))
    const unchanged = await showOnSheet(SharePanel, { onClose: () => closed++ })
    await press(unchanged, 'Close')
    expect(server.calls(`PUT ${sheetPath}/shares`)).toHaveLength(0)
    unchanged.unmount()
    const screen = await showOnSheet(SharePanel, { onClose: () => closed++ })
    await screen.findAll('tbody input')[0]!.trigger('click')
    await press(screen, 'Close')
    expect(server.calls(`PUT ${sheetPath}/shares`)).toHaveLength(1)
    expect(closed).toBe(2)
  })

  it('shows a link once, and ends it', async () => {
    server.on(`PUT ${sheetPath}/link`, () => {
      kept = { ...kept, link: { copy: false, print: true, madeBy: 'Ines Okafor', madeAt: '2026-10-13T16:00:00Z' } }
      return { body: { secret: 'SECRET' } }
    })
    server.on(`DELETE ${sheetPath}/link`, () => {
      kept = { ...kept, link: undefined }
      return { status: 204 }
    })
    const screen = await showOnSheet(SharePanel)
    await press(screen, 'Make a link')
    expect(server.calls(`PUT ${sheetPath}/link`)[0]!.body).toEqual({ copy: false, print: true })
    expect(screen.find<HTMLInputElement>('.made input').element.value).toBe(`${location.origin}/shared#SECRET`)
    expect(screen.find('.share-link').text()).toContain('A link of Ines Okafor')
    expect(screen.find('.share-link').text()).toContain('and print it')
    await press(screen, 'End the link')
    expect(screen.find('.made').exists()).toBe(false)
    expect(screen.find('.share-link').text()).toContain('Who is given the link')
  })

  it('tells why a link could not be made', async () => {
    server.on(`PUT ${sheetPath}/link`, () => ({ status: 403, body: { status: 403, detail: 'Your role does not do this.' } }))
    const screen = await showOnSheet(SharePanel)
    await press(screen, 'Make a link')
    expect(screen.text()).toContain('Your role does not do this.')
  })

  it('is only read by who may not share', async () => {
    kept = { ...kept, maySend: false }
    const screen = await showOnSheet(SharePanel)
    expect(screen.findAll('button').map((b) => b.text())).not.toContain('Save')
    expect(screen.findAll('tbody input').every((b) => b.attributes('disabled') !== undefined)).toBe(true)
    expect(screen.find('.share-link').exists()).toBe(false)
  })
})

const plan = (part: Partial<Schemas['KeptBlueprint']>): Schemas['KeptBlueprint'] => ({
  id: 1,
  title: 'Fall plan',
  subject: 'mathematics',
  grades: ['06'],
  school: '',
  rows: 5,
  version: 3,
  changedAt: '2026-10-13T16:00:00Z',
  changedBy: 'Ines Okafor',
  mayChange: true,
  own: true,
  ...part,
})

describe('the library of blueprints', () => {
  it('replaces one of the same name knowingly, with the version that was read', async () => {
    server.on('GET /api/blueprints', () => ({ body: [plan({ title: 'Fall plan, old' }), plan({})] }))
    server.on('POST /api/blueprints', () => ({ body: plan({ version: 4 }) }))
    let closed = 0
    const screen = await showOnSheet(KeepPanel, { sheet: kept, onClose: () => closed++ })
    expect(screen.text()).toContain('Ines Okafor kept 5 rows under this name')
    await press(screen, 'Replace it')
    expect(server.calls('POST /api/blueprints')[0]!.body).toEqual({ assessmentId: 4, title: 'Fall plan', replace: 3 })
    expect(closed).toBe(1)
  })

  it('keeps a school’s name apart from the district’s', async () => {
    server.on('GET /api/blueprints', () => ({ body: [plan({ own: false, mayChange: false })] }))
    server.on('POST /api/blueprints', () => ({ body: plan({ id: 2 }) }))
    const screen = await showOnSheet(KeepPanel, { sheet: kept })
    await press(screen, 'Save')
    expect(server.calls('POST /api/blueprints')[0]!.body).toEqual({ assessmentId: 4, title: 'Fall plan' })
  })

  it('says what somebody else did to the name meanwhile', async () => {
    server.on('GET /api/blueprints', () => ({ body: [] }))
    server.on('POST /api/blueprints', () => ({
      status: 409,
      body: { status: 409, detail: 'There is a blueprint of this name.' },
    }))
    const screen = await showOnSheet(KeepPanel, { sheet: kept })
    await press(screen, 'Save')
    expect(screen.text()).toContain('There is a blueprint of this name.')
  })

  it('is asked for the subject first, and lets its keepers take one out', async () => {
    let list = [plan({}), plan({ id: 2, title: 'Winter', school: 'Breakwater', mayChange: false })]
    server.on('GET /api/blueprints', () => ({ body: list }))
    server.on('DELETE /api/blueprints/1', () => {
      list = list.slice(1)
      return { status: 204 }
    })
    const screen = await showOnSheet(LibraryList, { subject: 'mathematics', modelValue: 1 })
    expect(server.calls('GET /api/blueprints')[0]!.query).toContain('subject=mathematics')
    expect(screen.findAll('li').map((l) => l.find('button').exists())).toEqual([true, false])
    await press(screen, 'Remove Fall plan from the library')
    expect(server.calls('DELETE /api/blueprints/1')[0]!.ifMatch).toBe('3')
    await flushPromises()
    expect(screen.findAll('li')).toHaveLength(1)
    expect(screen.find('li').text()).toContain('Breakwater')
  })
})
