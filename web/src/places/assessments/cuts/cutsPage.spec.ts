import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it } from 'vitest'
import { server } from '@/contract/testServer'
import { queries, type Schemas } from '@/contract/client'
import { button, draft, fresh, press, sheetPath, showOnSheet } from '@/places/assessments/sheet/testSheet'
import Cuts from './Cuts.vue'

const bands: Schemas['Band'][] = [
  { name: 'Launching', cut: {} },
  { name: 'On course', cut: { percent: 60 } },
]
const set = {
  id: 2,
  name: 'Grade 6',
  version: 5,
  stands: 5,
  bands,
  rule: 'atLeast' as const,
  changedBy: 'Ines Okafor',
  lockedBy: '',
  own: false,
}
const cuts = (raw: number): Schemas['Cuts'] => ({
  total: 10,
  grain: 1,
  starts: [
    { name: 'Launching', raw: 0, percentTenths: 0 },
    { name: 'On course', raw, percentTenths: raw * 100 },
  ],
  cautions: [],
})
const forecast = (more: Partial<Schemas['Forecast']> = {}): Schemas['Forecast'] => ({
  cuts: cuts(6),
  scaled: 0,
  sources: [],
  many: 8,
  few: 0,
  author: 0,
  unknown: 0,
  students: 40,
  placed: 40,
  smallSchools: 0,
  because: '',
  off: [],
  ...more,
})
let sheet: object
const asked = () => server.calls(`POST ${sheetPath}/forecast`).map((c) => c.body as { bands?: Schemas['Band'][] })
const settled = async () => {
  await new Promise((done) => setTimeout(done, 60))
  await flushPromises()
}

beforeEach(() => {
  fresh()
  sheet = draft({ bandSet: set, cuts: cuts(6) })
  server.on(`GET ${sheetPath}`, () => ({ body: sheet }))
  server.on('GET /api/band-sets', () => ({ body: [{ ...set, fits: true, why: 'for grade 6' }] }))
  server.on(`POST ${sheetPath}/forecast`, (a) => {
    const raw = (a.body as { bands?: Schemas['Band'][] }).bands?.[1]?.cut.raw
    return { body: forecast({ cuts: cuts(raw ?? 6) }) }
  })
})

describe('the cuts of an assessment', () => {
  it('are weighed without being kept, and outlive a sheet that is read again', async () => {
    const screen = await showOnSheet(Cuts)
    await settled()
    await screen.find('[aria-label="Cut of On course, points"]').setValue('7')
    await settled()
    expect(asked().at(-1)!.bands![1]).toEqual({ name: 'On course', cut: { raw: 7, of: 10 } })
    sheet = draft({ bandSet: set, cuts: cuts(6), changedAt: '2026-10-13T17:00:00Z' })
    await queries.invalidateQueries({ queryKey: ['assessment'] })
    await settled()
    expect(screen.find('[role=slider]').attributes('aria-valuenow')).toBe('7')
    await press(screen, 'Cancel')
    await settled()
    expect(screen.find('[role=slider]').attributes('aria-valuenow')).toBe('6')
  })

  it('are taken, and taken back', async () => {
    server.on(`PUT ${sheetPath}/cuts`, (a) => {
      const own = (a.body as { bands: Schemas['Band'][] }).bands
      sheet = draft({ version: 8, bandSet: { ...set, own: own.length > 0, bands: own.length ? own : bands }, cuts: cuts(7) })
      return { body: sheet }
    })
    const screen = await showOnSheet(Cuts)
    await settled()
    await screen.find('[aria-label="Cut of On course, points"]').setValue('7')
    await settled()
    await press(screen, 'Use these cuts')
    expect(server.calls(`PUT ${sheetPath}/cuts`)[0]!.body).toEqual({
      bands: [bands[0], { name: 'On course', cut: { raw: 7, of: 10 } }],
      rule: 'atLeast',
    })
    expect(screen.text()).toContain('cuts of its own, in place of')
    const mine = sheet
    sheet = { ...mine, bandSet: { ...set, own: true, bands: [bands[0], { name: 'On course', cut: { raw: 9, of: 10 } }] } }
    await queries.invalidateQueries({ queryKey: ['assessment'] })
    await settled()
    expect(
      screen.findAll('button').some((b) => b.text() === 'Undo'),
      'what another has changed since is not taken back',
    ).toBe(false)
    sheet = mine
    await queries.invalidateQueries({ queryKey: ['assessment'] })
    await settled()
    await press(screen, 'Undo')
    expect(server.calls(`PUT ${sheetPath}/cuts`)[1]!.body).toEqual({ bands: [] })
  })

  it('that equal nothing official are told with what does, to take', async () => {
    const near = {
      tableId: 3,
      band: 'On course',
      raw: 28,
      of: 40,
      percent: 70,
      here: 7,
      test: '',
      grade: '06',
      year: '2025–26',
      line: 30,
      cut: { percent: 70, source: { tableId: 3, raw: 28 } },
    }
    server.on(`POST ${sheetPath}/forecast`, () => ({ body: forecast({ off: [{ band: 'On course', raw: 6, nearest: [near] }] }) }))
    const screen = await showOnSheet(Cuts)
    await settled()
    expect(screen.text()).toContain('On course begins at 6, which equals nothing official.')
    expect(screen.text()).toContain('is 28 of 40 points, 70%; here that is 7.')
    await press(screen, 'Take 7')
    await settled()
    expect(asked().at(-1)!.bands![1]!.cut).toEqual(near.cut)
  })

  it('that equal nothing official take the nearest that does with one key', async () => {
    const cut = { percent: 70, source: { tableId: 3, raw: 28 } }
    const near = {
      tableId: 3,
      band: 'On course',
      raw: 28,
      of: 40,
      percent: 70,
      here: 7,
      test: '',
      grade: '06',
      year: '2025–26',
      line: 30,
      cut,
    }
    server.on(`POST ${sheetPath}/forecast`, () => ({ body: forecast({ off: [{ band: 'On course', raw: 6, nearest: [near] }] }) }))
    const screen = await showOnSheet(Cuts)
    await settled()
    await screen.find('[role=slider]').trigger('keydown', { key: 'o', ctrlKey: true })
    await settled()
    expect(asked().at(-1)!.bands).toBeUndefined()
    await screen.find('[role=slider]').trigger('keydown', { key: 'o' })
    await settled()
    expect(asked().at(-1)!.bands![1]!.cut).toEqual(cut)
  })

  it('say what a newer version of their set would change, and take it', async () => {
    sheet = draft({ bandSet: { ...set, version: 6 }, cuts: cuts(6), newerBands: ['On course begins at 65% instead of 60%.'] })
    server.on(`PUT ${sheetPath}/bands`, () => ({ body: sheet }))
    const screen = await showOnSheet(Cuts)
    await settled()
    expect(screen.text()).toContain('Ines Okafor changed Grade 6. On course begins at 65% instead of 60%.')
    await press(screen, 'Take the newer cuts')
    expect(server.calls(`PUT ${sheetPath}/bands`)[0]!.body).toEqual({ bandSetId: 2 })
  })

  it('without a set the nearest is offered', async () => {
    sheet = draft({})
    const screen = await showOnSheet(Cuts)
    await settled()
    expect(button(screen, 'Use Grade 6').attributes('title')).toBe('It is for grade 6')
    expect(asked()).toHaveLength(0)
  })
})
