import { server } from '@/contract/testServer'
import { flushPromises, type VueWrapper } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import AddItems from '@/places/assessments/lines/AddItems.vue'
import HistoryPanel from './HistoryPanel.vue'
import PutAway from './PutAway.vue'
import MarkedLines from '@/places/assessments/lines/MarkedLines.vue'
import PartsPanel from '@/places/assessments/lines/PartsPanel.vue'
import RowsPanel from '@/places/assessments/blueprint/RowsPanel.vue'
import SwapOffers from '@/places/assessments/lines/SwapOffers.vue'
import type { Cells } from '@/places/assessments/blueprint/blueprintCells'
import type { Arrangement } from '@/places/assessments/lines/layout'
import type { Sheet } from '@/places/assessments/lines/lines'
import { button, draft, field, fill, fresh, press, serveStandards, sheetPath, show, showOnSheet } from './testSheet'

let kept: Sheet
const line = (itemId: number, part = 0, pool = 0) => ({ itemId, versionId: itemId * 10, points: 1, part, pool })
const sent = () => server.calls(`PUT ${sheetPath}/lines`).at(-1)!.body as Arrangement

beforeEach(() => {
  fresh()
  kept = draft({
    lines: [line(11), line(12), line(13)],
  })
  server.on(`GET ${sheetPath}`, () => ({ body: kept }))
  server.on(`PUT ${sheetPath}/lines`, (asked) => {
    kept = { ...kept, ...(asked.body as object), version: kept.version + 1 }
    return { body: kept }
  })
})

describe('parts and pools', () => {
  const part = (title: string) => ({ title, directions: '', calculator: false })

  it('begin with a part for all lines; a second one begins where one stands', async () => {
    const screen = await showOnSheet(PartsPanel, { at: 3 })
    await press(screen, 'Begin with a first part')
    expect(sent().layout.parts.map((p) => p.title)).toEqual(['Part 1'])
    expect(sent().lines.map((l) => l.part)).toEqual([1, 1, 1])
    await press(screen, 'Begin a part at line 3')
    expect(sent().lines.map((l) => l.part)).toEqual([1, 1, 2])
  })

  it('take a title, a calculator and a beginning, each as one change of the list', async () => {
    kept = {
      ...kept,
      layout: { parts: [part('One'), part('Two')], pools: [] },
      lines: [line(11, 1), line(12, 1), line(13, 2)],
    } as unknown as Sheet
    const screen = await showOnSheet(PartsPanel, { at: 1 })
    const inputs = screen.findAll('input')
    await inputs.find((i) => (i.element as HTMLInputElement).value === 'Two')!.setValue('With help')
    await flushPromises()
    expect(sent().layout.parts.map((p) => p.title)).toEqual(['One', 'With help'])
    const boxes = screen.findAll('input[type=checkbox]')
    await boxes.at(-1)!.setValue(true)
    await flushPromises()
    expect(sent().layout.parts.map((p) => p.calculator)).toEqual([false, true])
  })

  it('are only read on a sealed edition', async () => {
    kept = {
      ...kept,
      state: 'sealed',
      layout: { parts: [part('One')], pools: [{ title: 'Some', choose: 1 }] },
      lines: [line(11, 1, 1), line(12, 1, 1)],
    } as unknown as Sheet
    const screen = await showOnSheet(PartsPanel, { at: 1 })
    expect(screen.findAll('input').every((i) => i.attributes('disabled') !== undefined)).toBe(true)
    expect(screen.text()).not.toContain('Begin a part')
  })
})

describe('marked lines', () => {
  const arrangement: Arrangement = { lines: [line(11), line(12), line(13), line(14)], layout: { parts: [], pools: [] } }
  async function marked(items: number[]) {
    const made: Arrangement[] = []
    const arrange = vi.fn((make: (now: Arrangement) => Arrangement) => {
      made.push(make(arrangement))
      return Promise.resolve(true)
    })
    let cleared = 0
    const screen = await show(MarkedLines, { items, lines: 4, arrange, onClear: () => cleared++ })
    const submit = async (label: string) => {
      await button(screen, label)
        .element.closest('form')!
        .dispatchEvent(new Event('submit', { cancelable: true }))
      await flushPromises()
    }
    return { screen, made, submit, cleared: () => cleared }
  }
  const order = (a: Arrangement) => a.lines.map((l) => l.itemId)

  it('move together before a line, in the order that they have', async () => {
    const { screen, made, submit } = await marked([13, 11])
    await fill(screen, 'before line', '5')
    await submit('Move')
    expect(order(made[0]!)).toEqual([12, 14, 11, 13])
  })

  it('take the same points', async () => {
    const { screen, made, submit } = await marked([12, 13])
    await fill(screen, 'points each', '2.5')
    await submit('Set')
    expect(made[0]!.lines.map((l) => l.points)).toEqual([1, 2.5, 2.5, 1])
  })

  it('become a pool that stands together, and are marked no more', async () => {
    const { screen, made, submit, cleared } = await marked([11, 14])
    await fill(screen, 'each student gets', '1')
    await submit('Make a pool')
    expect(made[0]!.layout.pools).toEqual([{ title: '', choose: 1 }])
    expect(made[0]!.lines.filter((l) => l.pool).map((l) => l.itemId)).toEqual([11, 14])
    expect(cleared()).toBe(1)
  })

  it('go off at once', async () => {
    const { screen, made, cleared } = await marked([12, 14])
    await press(screen, 'Remove')
    expect(order(made[0]!)).toEqual([11, 13])
    expect(cleared()).toBe(1)
  })
})

describe('history', () => {
  const entry = (part: object) => ({
    number: 3,
    who: 'Ines Okafor',
    did: 'changed the blueprint of',
    title: 'Fall',
    at: '2026-10-13T16:00:00Z',
    restores: 'blueprint',
    ...part,
  })
  beforeEach(() => {
    server.on(`GET ${sheetPath}/history`, () => ({
      body: [entry({}), entry({ number: 1, did: 'started', restores: undefined })],
    }))
    server.on(`GET ${sheetPath}/editions`, () => ({
      body: [
        {
          edition: 2,
          fingerprint: 'abcdef0123456789',
          sealedAt: '2026-10-13T16:00:00Z',
          lines: 3,
          total: 3,
          changes: ['Line 2 came new.'],
        },
      ],
    }))
  })

  it('brings a part back as a new state, on the version that was read', async () => {
    server.on(`POST ${sheetPath}/history/3`, () => ({ body: { ...kept, version: 8 } }))
    const screen = await showOnSheet(HistoryPanel)
    const restores = screen.findAll('button').filter((b) => b.text() === 'Restore')
    expect(restores, 'not every entry has a state').toHaveLength(1)
    await restores[0]!.trigger('click')
    await flushPromises()
    expect(server.calls(`POST ${sheetPath}/history/3`)[0]!.ifMatch).toBe('7')
    expect(screen.text()).toContain('The blueprint stand as they did then.')
  })

  it('says what changed from edition to edition, and restores nothing sealed', async () => {
    kept = { ...kept, state: 'sealed' } as Sheet
    const screen = await showOnSheet(HistoryPanel)
    expect(screen.text()).toContain('Edition 2')
    expect(screen.text()).toContain('abcdef012345')
    expect(screen.text()).toContain('Line 2 came new.')
    expect(screen.findAll('button').map((b) => b.text())).not.toContain('Restore')
  })
})

describe('putting away', () => {
  it('shelves, brings back, and deletes only what was never sealed', async () => {
    const asked: unknown[] = []
    server.on(`PUT ${sheetPath}/shelf`, (a) => {
      asked.push(a.body)
      kept = { ...kept, state: (a.body as { shelved: boolean }).shelved ? 'shelved' : 'draft' } as Sheet
      return { body: kept }
    })
    server.on(`DELETE ${sheetPath}`, () => ({ status: 204 }))
    const screen = await showOnSheet(PutAway)
    await press(screen, 'Shelve it')
    expect(screen.findAll('button').map((b) => b.text())).toEqual(['Bring it back'])
    await press(screen, 'Bring it back')
    expect(asked).toEqual([{ shelved: true }, { shelved: false }])
    await press(screen, 'Delete draft')
    const [sure] = [...document.querySelectorAll('[role=dialog] button')].filter((b) => b.textContent === 'Delete draft')
    ;(sure as HTMLButtonElement).click()
    await vi.waitFor(() => expect(server.calls(`DELETE ${sheetPath}`)).toHaveLength(1))
  })

  it('offers no deleting after a seal, and nothing while it is out', async () => {
    kept = { ...kept, edition: 2 } as Sheet
    expect((await showOnSheet(PutAway)).findAll('button').map((b) => b.text())).toEqual(['Shelve it'])
    kept = { ...kept, state: 'out' } as Sheet
    fresh()
    server.on(`GET ${sheetPath}`, () => ({ body: kept }))
    expect((await showOnSheet(PutAway)).findAll('button')).toEqual([])
  })
})

describe('a swap', () => {
  const unfold = async (screen: VueWrapper) => {
    const details = screen.find('details')
    ;(details.element as HTMLDetailsElement).open = true
    await details.trigger('toggle')
    await flushPromises()
  }

  it('shows why each stands where it does, and takes the newest version of the one that is chosen', async () => {
    const item = {
      itemId: 77,
      identifier: 'M6-7',
      stem: 'How many gulls?',
      kind: 'number',
      uses: 2,
      difficulty: 600,
      standards: ['M6.RR'],
      depth: 1,
      row: 0,
      stays: false,
    }
    server.on(`GET ${sheetPath}/lines/12/swaps`, () => ({ body: [{ item, why: ['same row', 'same depth'] }] }))
    const swapped: number[] = []
    const screen = await showOnSheet(SwapOffers, { item: 12, onSwapped: (item: number) => swapped.push(item) })
    expect(server.calls(`GET ${sheetPath}/lines/12/swaps`), 'the bank is asked only when that is wanted').toEqual([])
    await unfold(screen)
    expect(screen.text()).toContain('same row · same depth · typed number · used 2×')
    await press(screen, 'Swap for M6-7')
    expect(sent().lines.map((l) => l.itemId)).toEqual([11, 77, 13])
    expect(sent().lines[1]).not.toHaveProperty('versionId')
    expect(swapped).toEqual([77])
  })

  it('says when there is none', async () => {
    server.on(`GET ${sheetPath}/lines/12/swaps`, () => ({ body: [] }))
    const screen = await showOnSheet(SwapOffers, { item: 12 })
    await unfold(screen)
    expect(screen.text()).toContain('The bank holds no other item for this row.')
  })
})

const withStandards = () =>
  serveStandards([
    { code: 'M6.RR', text: 'Ratio and rate', level: 'domain' },
    { code: 'M6.RR.1', text: 'Compare with ratios', level: 'standard' },
    { code: 'M6.NP.1', text: 'Divide fractions', level: 'standard' },
  ])

describe('rows of a blueprint', () => {
  const taken = (screen: VueWrapper) => screen.findComponent(RowsPanel).emitted('take')!.at(-1)![0] as Cells[]
  beforeEach(withStandards)

  it('are made of all standards of a level, so many each', async () => {
    const screen = await show({
      components: { RowsPanel },
      template: '<RowsPanel :sheet="sheet" />',
      setup: () => ({ sheet: kept }),
    })
    await fill(screen, 'Level', 'standard')
    await press(screen, 'Select these')
    await fill(screen, 'Items each', '3')
    await press(screen, 'Make 2 rows')
    expect(taken(screen).map((r) => [r.standards, r.count, r.title])).toEqual([
      ['M6.RR.1', '3', 'Compare with ratios'],
      ['M6.NP.1', '3', 'Divide fractions'],
    ])
  })

  it('are copied from another assessment, not from itself', async () => {
    const other = { id: 9, title: 'Spring', grades: ['06'], year: '2026–27' }
    server.on('GET /api/assessments', () => ({ body: [other, { ...other, id: 4, title: 'Fall' }] }))
    const filter = { standards: ['M6.RR'], banks: ['Harbor'] }
    server.on('GET /api/assessments/9', () => ({
      body: { id: 9, rows: [{ title: 'Ratio', filter, byPoints: true, min: 4, max: 6 }] },
    }))
    const screen = await show({
      components: { RowsPanel },
      template: '<RowsPanel :sheet="sheet" />',
      setup: () => ({ sheet: kept }),
    })
    await press(screen, 'Another assessment')
    expect(screen.findAll('li').map((l) => l.text())).toEqual([expect.stringContaining('Spring')])
    await screen.find('input[type=radio]').setValue(true)
    await flushPromises()
    await press(screen, 'Take 1 row')
    expect(taken(screen)[0]).toMatchObject({ standards: 'M6.RR', banks: 'Harbor', count: '4–6 points', title: 'Ratio' })
  })
})

describe('adding items', () => {
  const item = (id: number) => ({
    id,
    stem: `Stem ${id}`,
    standards: ['M6.RR'],
    bank: 'District',
    kind: 'number',
    identifier: `I${id}`,
  })
  beforeEach(() => {
    withStandards()
    server.on('GET /api/tray', () => ({ body: [item(11), item(21), item(22)] }))
    server.on('GET /api/items', () => ({ body: { items: [item(30)], total: 1, facets: [], next: '' } }))
    server.on('DELETE /api/tray', () => ({ body: [] }))
  })

  it('places what of the tray is not here yet, and empties the tray once it is placed', async () => {
    const place = vi.fn(() => Promise.resolve(true))
    const screen = await show(AddItems, { at: 3, sheet: kept, place })
    expect(screen.text()).toContain('Add items at the end')
    expect(screen.text()).toContain('1 of them already here')
    await press(screen, 'Place 2 items')
    expect(place).toHaveBeenCalledWith([21, 22])
    expect(server.calls('DELETE /api/tray')).toHaveLength(1)
  })

  it('keeps the tray where nothing could be placed', async () => {
    const screen = await show(AddItems, { at: 0, sheet: kept, place: () => Promise.resolve(false) })
    expect(screen.text()).toContain('Add items before line 1')
    await press(screen, 'Place 2 items')
    expect(server.calls('DELETE /api/tray')).toHaveLength(0)
  })

  it('for a short row looks below its standard, in the subject and grades of the assessment', async () => {
    await show(AddItems, { at: 3, standard: 'M6.RR.1', sheet: kept, place: () => Promise.resolve(true) })
    await vi.waitFor(() => expect(server.calls('GET /api/items')).not.toHaveLength(0), 10_000)
    const { query } = server.calls('GET /api/items').at(-1)!
    expect(query).toContain('standard=6')
    expect(query).toContain('subject=mathematics')
    expect(query).toContain('grade=06')
  })
})

it('a field that is not there is told by name', async () => {
  const screen = await show(MarkedLines, { items: [1], lines: 1, arrange: () => Promise.resolve(true) })
  expect(() => field(screen, 'nothing')).toThrow('there is no field nothing')
})
