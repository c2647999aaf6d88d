import { server } from '@/contract/testServer'
import { flushPromises, type VueWrapper } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '@/contract/client'
import Blueprint from './Blueprint.vue'
import type { Sheet } from '@/places/assessments/lines/lines'
import { draft, fresh, press, rows, serveStandards, sheetPath, showOnSheet } from '@/places/assessments/sheet/testSheet'

// The grid of a blueprint: typed, pasted, kept by itself once it can be read.
let kept: Sheet
type Rows = { rows: Schemas['BlueprintRowInput'][] }
const sent = () => server.calls(`PUT ${sheetPath}/blueprint`).map((a) => (a.body as Rows).rows)

const row = (standard: string, n: number): Schemas['BlueprintRow'] => ({
  title: `Row of ${standard}`,
  filter: { standards: [standard] },
  byPoints: false,
  min: n,
  max: n,
  placed: 1,
  balance: 1 - n,
})
const cells = (screen: VueWrapper, at: number) => screen.findAll('tbody tr')[at]!.findAll('input')
const settle = async () => {
  await vi.advanceTimersByTimeAsync(600)
  await flushPromises()
}

beforeEach(() => {
  vi.useFakeTimers()
  fresh()
  kept = draft({
    rows: [row('M6.RR', 4), row('M6.NP', 2)],
    shortage: 4,
  })
  server.on(`GET ${sheetPath}`, () => ({ body: kept }))
  server.on(`GET ${sheetPath}/pools`, () => ({ body: [9, 1] }))
  server.on('GET /api/banks', () => ({ body: [{ id: 1, name: 'Harbor bank' }] }))
  serveStandards([{ code: 'M6.RR' }, { code: 'M6.NP' }])
  server.on(`PUT ${sheetPath}/blueprint`, (asked) => {
    kept = {
      ...kept,
      version: kept.version + 1,
      rows: (asked.body as Rows).rows.map((r) => ({ ...r, placed: 0, balance: -r.min })),
    }
    return { body: kept }
  })
})

const opened = async () => {
  const screen = await showOnSheet(Blueprint)
  await settle()
  return screen
}

describe('a blueprint', () => {
  it('shows for each row what the bank has, what stands, and the balance', async () => {
    const screen = await opened()
    const numbers = screen
      .findAll('tbody tr')
      .slice(0, 2)
      .map((r) => r.findAll('td.num').map((d) => d.text()))
    expect(numbers[0]!.slice(1, 4)).toEqual(['9', '1', 'short 3'])
    expect(numbers[1]!.slice(1, 4)).toEqual(['1', '1', 'short 1'])
    expect(
      screen.findAll('td.resin').map((d) => d.text()),
      'a pool that is too small stands out',
    ).toContain('1')
    expect(screen.find('tfoot').text()).toContain('6 items')
  })

  it('is kept by itself a moment after typing, once', async () => {
    const screen = await opened()
    const plan = cells(screen, 0)[6]!
    await plan.setValue('5')
    await plan.setValue('5–6')
    expect(sent()).toEqual([])
    await settle()
    expect(sent()).toHaveLength(1)
    expect(sent()[0]![0]).toMatchObject({ min: 5, max: 6, filter: { standards: ['M6.RR'] } })
    expect(screen.text()).toContain('short 5')
  })

  it('waits in the browser while a row cannot be read, and says why in words', async () => {
    const screen = await opened()
    await cells(screen, 1)[2]!.setValue('9')
    await settle()
    expect(sent()).toEqual([])
    expect(screen.find('.faults').text()).toContain('Row 2. Depths are 1 to 4')
    expect(cells(screen, 1)[2]!.attributes('aria-invalid')).toBe('true')
    expect(Object.keys(localStorage)).toEqual(['pineledger/typed/3/4/blueprint'])
    await cells(screen, 1)[2]!.setValue('1-2')
    await settle()
    expect(sent().at(-1)![1]!.filter).toEqual({ standards: ['M6.NP'], depth: [1, 2] })
    expect(Object.keys(localStorage)).toEqual([])
  })

  it('takes what a spreadsheet has: tabs part cells, lines part rows', async () => {
    const screen = await opened()
    const first = cells(screen, 1)[0]!
    const text = 'M6.RR\tsingle choice\t\t\t\tHarbor bank\t3\tRatios\nM6.NP\t\t\t\t\t\t2 points\tNumbers\n'
    const paste = new Event('paste', { bubbles: true, cancelable: true })
    Object.assign(paste, { clipboardData: { getData: () => text } })
    first.element.dispatchEvent(paste)
    await settle()
    expect(paste.defaultPrevented).toBe(true)
    expect(sent()[0]!.map((r) => [r.title, r.min, r.byPoints, r.filter])).toEqual([
      ['Row of M6.RR', 4, false, { standards: ['M6.RR'] }],
      ['Ratios', 3, false, { standards: ['M6.RR'], kinds: ['single-choice'], banks: ['Harbor bank'] }],
      ['Numbers', 2, true, { standards: ['M6.NP'] }],
    ])
  })

  it('goes without a pasted row that cannot be read, whose every fault is told; Ctrl+Z takes the paste back', async () => {
    const screen = await opened()
    const text = 'Standard\tItems\nM6.RR\t5\nZ9\tmany\nM6.NP\t2\n'
    const paste = new Event('paste', { bubbles: true, cancelable: true })
    Object.assign(paste, { clipboardData: { getData: () => text } })
    cells(screen, 1)[0]!.element.dispatchEvent(paste)
    await settle()
    expect(
      sent()
        .at(-1)!
        .map((r) => [r.filter.standards, r.min]),
    ).toEqual([
      [['M6.RR'], 4],
      [['M6.RR'], 5],
      [['M6.NP'], 2],
    ])
    expect(screen.findAll('.faults strong').map((f) => f.text())).toEqual(['Row 3.', 'Row 3.'])
    expect(screen.text()).toContain('This row is saved in this browser only. The others are saved.')
    expect((cells(screen, 2)[0]!.element as HTMLInputElement).value, 'what was pasted still stands').toBe('Z9')
    cells(screen, 1)[0]!.element.dispatchEvent(
      new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, bubbles: true, cancelable: true }),
    )
    await settle()
    expect(
      sent()
        .at(-1)!
        .map((r) => r.title),
    ).toEqual(['Row of M6.RR', 'Row of M6.NP'])
  })

  it('is walked by Enter and arrows; Enter in the last row begins another', async () => {
    const screen = await opened()
    await cells(screen, 0)[6]!.trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(document.activeElement).toBe(cells(screen, 1)[6]!.element)
    await cells(screen, 1)[6]!.trigger('keydown', { key: 'ArrowUp' })
    await flushPromises()
    expect(document.activeElement).toBe(cells(screen, 0)[6]!.element)
    await cells(screen, 1)[0]!.trigger('keydown', { key: 'Enter' })
    await flushPromises()
    expect(rows(screen).length).toBeGreaterThan(2)
    expect(document.activeElement).toBe(cells(screen, 2)[0]!.element)
  })

  it('loses a row by key', async () => {
    const screen = await opened()
    await cells(screen, 0)[3]!.trigger('keydown', { key: 'Delete', altKey: true })
    await settle()
    expect(sent()[0]!.map((r) => r.title)).toEqual(['Row of M6.NP'])
  })

  it('that somebody else changed meanwhile stands beside what was typed', async () => {
    const screen = await opened()
    await cells(screen, 0)[6]!.setValue('8')
    kept = { ...kept, version: 9, changedBy: 'Tomás Lindqvist', rows: [row('M6.RR', 1)] }
    server.on(`PUT ${sheetPath}/blueprint`, () => ({
      status: 409,
      body: { status: 409, detail: 'Tomás Lindqvist changed this meanwhile.' },
    }))
    await settle()
    await settle()
    expect(screen.text()).toContain('Tomás Lindqvist changed this meanwhile.')
    expect((cells(screen, 0)[6]!.element as HTMLInputElement).value, 'nothing typed is lost').toBe('8')
    await press(screen, 'Show theirs')
    expect((cells(screen, 0)[6]!.element as HTMLInputElement).value).toBe('1')
  })

  it('of a sealed edition is only read', async () => {
    kept = { ...kept, state: 'sealed' } as Sheet
    const screen = await opened()
    expect(cells(screen, 0).every((c) => c.attributes('disabled') !== undefined)).toBe(true)
    expect(screen.findAll('button').map((b) => b.text())).not.toContain('Add a row')
  })
})
