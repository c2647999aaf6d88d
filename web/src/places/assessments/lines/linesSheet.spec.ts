import { server } from '@/contract/testServer'
import { flushPromises, type VueWrapper } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { queries, type Schemas } from '@/contract/client'
import Lines from './Lines.vue'
import type { Arrangement } from './layout'
import type { Sheet } from './lines'
import { button, draft, field, fill, fresh, press, sheetPath, showOnSheet } from '@/places/assessments/sheet/testSheet'

// The sheet of lines with its keys, on a small server that checks versions as the real one does.
let kept: Sheet

const line = (itemId: number, part: Partial<Schemas['Line']> = {}): Schemas['Line'] => ({
  itemId,
  versionId: itemId * 10,
  newestVersionId: itemId * 10,
  version: 1,
  newestVersion: 1,
  identifier: `I${itemId}`,
  kind: 'single-choice',
  stem: `Stem ${itemId}`,
  standards: ['M6.RR'],
  depth: 1,
  difficulty: 600,
  language: 'en',
  passage: '',
  passageId: 0,
  cautions: [],
  points: 1,
  key: 'A',
  row: 0,
  part: 0,
  pool: 0,
  own: false,
  unconfirmed: false,
  ...part,
})
const order = () => kept.lines.map((l) => l.itemId)
const body = (screen: VueWrapper) => screen.findAll('tbody tr.line')
const key = async (screen: VueWrapper, at: number, init: KeyboardEventInit) => {
  const row = body(screen)[at]!
  row.element.dispatchEvent(new FocusEvent('focus'))
  row.element.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, cancelable: true, ...init }))
  await flushPromises()
  await flushPromises()
}

beforeEach(() => {
  fresh()
  kept = draft({
    rows: [{ title: 'Ratio', filter: { standards: ['M6.RR'] }, byPoints: false, min: 5, max: 5, placed: 3, balance: -2 }],
    lines: [line(11), line(12, { key: 'B', difficulty: 800 }), line(13, { kind: 'number', row: -1 })],
    each: 3,
    total: 3,
    shortage: 2,
  })
  server.on(`GET ${sheetPath}`, () => ({ body: kept }))
  server.on(`PUT ${sheetPath}/lines`, (asked) => {
    if (asked.ifMatch !== String(kept.version))
      return { status: 409, body: { status: 409, detail: 'Tomás changed this meanwhile.' } }
    const { lines, layout } = asked.body as Arrangement
    const known = new Map(kept.lines.map((l) => [l.itemId, l]))
    kept = {
      ...kept,
      version: kept.version + 1,
      layout,
      lines: lines.map((l) => ({ ...line(l.itemId), ...known.get(l.itemId), ...l })),
    } as unknown as Sheet
    return { body: kept }
  })
})

describe('the lines', () => {
  it('show order, key positions, mean difficulty and which row claims each', async () => {
    const screen = await showOnSheet(Lines)
    expect(body(screen).map((r) => r.text())).toEqual([
      expect.stringContaining('Stem 11'),
      expect.stringContaining('Stem 12'),
      expect.stringContaining('Stem 13'),
    ])
    expect(body(screen).map((r) => r.find('td.double').text())).toEqual(['1', '1', ''])
    expect(screen.text()).toContain('Key positions A 1 · B 1.')
    expect(screen.find('tfoot').text()).toContain('.67')
    expect(screen.text()).toContain('Row 1 is short 2.')
  })

  it('move by keys, and back with undo', async () => {
    const screen = await showOnSheet(Lines)
    await key(screen, 0, { key: 'ArrowDown', altKey: true })
    expect(order()).toEqual([12, 11, 13])
    expect(document.activeElement?.textContent, 'who moves a line stays on it').toContain('Stem 11')
    await key(screen, 1, { key: 'ArrowUp', altKey: true })
    await key(screen, 0, { key: 'z', ctrlKey: true })
    await key(screen, 0, { key: 'z', ctrlKey: true })
    expect(order()).toEqual([11, 12, 13])
    expect(button(screen, 'Undo').attributes('disabled')).toBeDefined()
  })

  it('go off by key, and the next one is at hand', async () => {
    const screen = await showOnSheet(Lines)
    await key(screen, 1, { key: 'Delete' })
    expect(order()).toEqual([11, 13])
    expect(document.activeElement?.textContent).toContain('Stem 13')
  })

  it('take points that are more than nothing', async () => {
    const screen = await showOnSheet(Lines)
    await fill(screen, 'Points of line 2', '2.5')
    expect(kept.lines.map((l) => l.points)).toEqual([1, 2.5, 1])
    await fill(screen, 'Points of line 2', '0')
    await fill(screen, 'Points of line 2', 'x')
    expect(kept.lines[1]!.points).toBe(2.5)
    expect(server.calls(`PUT ${sheetPath}/lines`)).toHaveLength(1)
  })

  it('walk into a pool and out of it by keys', async () => {
    kept = {
      ...kept,
      lines: [line(11), line(12, { pool: 1 }), line(13, { pool: 1 })],
      layout: { parts: [], pools: [{ title: 'Some', choose: 1 }] },
      poolStates: [{ lines: 2, points: 1, counts: [1] }],
    } as unknown as Sheet
    const screen = await showOnSheet(Lines)
    expect(screen.find('tr.pool').text()).toContain('1 of these 2 for each student')
    expect(screen.find('tr.pool').text()).toContain('counts 1 in row 1')
    await key(screen, 0, { key: 'ArrowDown', altKey: true })
    expect(kept.lines.map((l) => [l.itemId, l.pool])).toEqual([
      [11, 1],
      [12, 1],
      [13, 1],
    ])
  })

  it('are marked for one act on several', async () => {
    const screen = await showOnSheet(Lines)
    await key(screen, 0, { key: 'm' })
    await key(screen, 2, { key: 'm' })
    expect(screen.find('[aria-label="Marked lines"]').text()).toContain('2 lines marked')
    await press(screen, 'Remove')
    expect(order()).toEqual([12])
    expect(screen.find('[aria-label="Marked lines"]').exists()).toBe(false)
  })

  it('merge with what somebody else changed meanwhile, and undo never takes theirs back', async () => {
    const screen = await showOnSheet(Lines)
    kept = { ...kept, version: 9, changedBy: 'Tomás', lines: [line(14), line(11), line(12), line(13)] }
    await key(screen, 0, { key: 'ArrowDown', altKey: true })
    expect(order(), 'the same line moved, wherever it stands now').toEqual([14, 12, 11, 13])
    expect(screen.text()).toContain('Tomás changed lines meanwhile. Their changes and yours both stand.')
    kept = { ...kept, version: 12, lines: kept.lines.toReversed() }
    await queries.refetchQueries()
    await press(screen, 'Undo')
    expect(order()).toEqual([13, 11, 12, 14])
    expect(screen.text()).toContain('Tomás changed lines since. Undo would take that back too, so nothing was changed.')
  })

  it('moved fast by keys are the same line all the way', async () => {
    const screen = await showOnSheet(Lines)
    const row = body(screen)[0]!.element
    row.dispatchEvent(new FocusEvent('focus'))
    for (let i = 0; i < 2; i++)
      row.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, cancelable: true, key: 'ArrowDown', altKey: true }))
    await vi.waitFor(() => expect(order()).toEqual([12, 13, 11]))
  })

  it('of one passage are bracketed and move as one; with Shift a line goes alone', async () => {
    const tides = { passage: 'Tides', passageId: 7 }
    kept = { ...kept, lines: [line(11, tides), line(12, tides), line(13)] }
    const screen = await showOnSheet(Lines)
    expect(
      body(screen).map((r) =>
        r
          .classes()
          .filter((c) => ['first', 'last'].includes(c))
          .join(),
      ),
    ).toEqual(['first', 'last', ''])
    expect(screen.text().match(/Tides/g), 'named once').toHaveLength(1)
    await key(screen, 1, { key: 'ArrowDown', altKey: true })
    expect(order()).toEqual([13, 11, 12])
    await key(screen, 1, { key: 'ArrowUp', altKey: true, shiftKey: true })
    expect(order()).toEqual([11, 13, 12])
  })

  it('say why points are refused, and go back', async () => {
    const screen = await showOnSheet(Lines)
    for (const typed of ['0', '101', '']) {
      await fill(screen, 'Points of line 2', typed)
      expect(screen.text()).toContain('Points are more than 0 and at most 100. It is worth 1 as before.')
      expect((field(screen, 'Points of line 2').element as HTMLInputElement).value).toBe('1')
    }
    expect(server.calls(`PUT ${sheetPath}/lines`)).toHaveLength(0)
    server.on(`PUT ${sheetPath}/lines`, () => ({
      status: 422,
      body: { status: 422, detail: 'Line 2: points come in quarters.' },
    }))
    await fill(screen, 'Points of line 2', '2.1')
    expect(body(screen)[1]!.text()).toContain('Line 2: points come in quarters. It is worth 1 as before.')
    expect((field(screen, 'Points of line 2').element as HTMLInputElement).value).toBe('1')
  })

  it('say what is odd about them, on the line and before the seal', async () => {
    kept = { ...kept, lines: [line(11), line(12, { cautions: ['The item is for grade 7.'] })] }
    const screen = await showOnSheet(Lines)
    expect(body(screen)[1]!.text()).toContain('The item is for grade 7.')
    await press(screen, 'Seal')
    expect(document.body.textContent).toContain('Line 2: The item is for grade 7.')
  })

  it('leave typing alone: a letter in a field is no command', async () => {
    const screen = await showOnSheet(Lines)
    const points = screen.find('input.points').element
    for (const k of ['Delete', 'm', 'i'])
      points.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, cancelable: true, key: k }))
    await flushPromises()
    expect(order()).toEqual([11, 12, 13])
    expect(screen.find('[aria-label="Marked lines"]').exists()).toBe(false)
  })

  it('of a sealed edition are only read, under their fingerprint', async () => {
    kept = { ...kept, state: 'sealed', fingerprint: 'abcdef0123456789', sealedAt: '2026-10-13T16:00:00Z' } as Sheet
    const screen = await showOnSheet(Lines)
    expect(screen.text()).toContain('abcdef012345')
    expect(screen.findAll('button').map((b) => b.text())).not.toContain('Add items')
    expect(screen.find('input.points').exists()).toBe(false)
    await key(screen, 0, { key: 'Delete' })
    expect(order()).toEqual([11, 12, 13])
    expect(button(screen, 'Begin a new edition').exists()).toBe(true)
  })

  it('say what a line wants: a newer version, an alignment to confirm', async () => {
    kept = {
      ...kept,
      lines: [line(11, { newestVersion: 2 }), line(12, { own: true, unconfirmed: true }), line(13, { own: true })],
    }
    const screen = await showOnSheet(Lines)
    expect(body(screen).map((r) => r.findAll('.mark').map((m) => m.text()))).toEqual([
      ['newer version'],
      ['confirm alignment'],
      ['own copy'],
    ])
  })
})
