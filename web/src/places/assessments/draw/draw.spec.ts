import { server } from '@/contract/testServer'
import { flushPromises, type VueWrapper } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '@/contract/client'
import DrawAnswer from './DrawAnswer.vue'
import DrawPanel from './DrawPanel.vue'
import type { Sheet } from '@/places/assessments/lines/lines'
import {
  button,
  draft,
  fill,
  fresh,
  press,
  rows,
  serveStandards,
  sheetPath,
  show,
  showOnSheet,
} from '@/places/assessments/sheet/testSheet'
import type { Draw, DrawQuestion } from './useDraw'

let kept: Sheet
async function submit(screen: VueWrapper) {
  await screen.find('form').trigger('submit')
  await flushPromises()
}
const asked = () => server.calls(`POST ${sheetPath}/draws`).at(-1)!.body as DrawQuestion

const drawn = (part: Partial<Schemas['DrawnItem']>): Schemas['DrawnItem'] => ({
  itemId: 1,
  identifier: 'M6-1',
  stem: 'How many boats?',
  kind: 'single-choice',
  standards: ['M6.RR'],
  depth: 1,
  uses: 0,
  row: 0,
  stays: false,
  ...part,
})
const row = { title: 'Ratio', filter: {}, byPoints: false, min: 2, max: 3, pool: 40, apart: 40 }
const draw = (part: Partial<Draw>): Draw => ({
  id: 6,
  at: '2026-10-13T16:00:00Z',
  by: 'Ines Okafor',
  state: 'found',
  question: { mode: 'best', seed: 7, forms: 1, keep: true },
  rows: [row],
  pool: 78,
  apart: 78,
  proven: true,
  unknown: 0,
  leaving: 0,
  elapsed: 0,
  budget: 10_000,
  millis: 40,
  forms: [{ items: [drawn({}), drawn({ itemId: 2, stays: true })], kinds: [{ kind: 'single-choice', count: 2 }], mean: 620 }],
  aims: { difficulty: 0, spread: 0, uses: 3 },
  bound: { difficulty: 0, spread: 0, uses: 3 },
  shortage: [],
  uneven: [],
  because: '',
  message: '',
  ...part,
})

beforeEach(() => {
  fresh()
  kept = draft({
    rows: [{ title: 'Ratio' }],
    lines: [{ itemId: 11 }, { itemId: 12 }],
  })
  server.on(`GET ${sheetPath}`, () => ({ body: kept }))
  serveStandards([{ code: 'M6.RR' }])
  server.on(`POST ${sheetPath}/draws`, () => ({ body: draw({}) }))
  server.on(`POST ${sheetPath}/draw-pool`, () => ({ body: { pool: 24, apart: 5, rows: [], uneven: [] } }))
})

describe('asking for a draw', () => {
  it('is by the blueprint where there is one, and says what was typed in thousandths', async () => {
    const screen = await showOnSheet(DrawPanel)
    await fill(screen, 'Mean difficulty', '.62')
    await fill(screen, 'Passages at most', '2')
    await fill(screen, 'Keys differ by at most', '1')
    await fill(screen, 'Not given to these grades since', '2026-01-31')
    await submit(screen)
    expect(asked()).toMatchObject({
      mode: 'best',
      forms: 1,
      keep: true,
      target: 620,
      tolerance: 20,
      passages: 2,
      keySpread: 1,
      notSince: '2026-01-31',
    })
    expect(asked()).not.toHaveProperty('row')
    expect(asked()).not.toHaveProperty('simple')
  })

  it('leaves out what was not typed', async () => {
    const screen = await showOnSheet(DrawPanel)
    await submit(screen)
    expect(Object.keys(asked()).sort()).toEqual(['forms', 'keep', 'mode', 'seed'])
  })

  it('of one row names the row and offers no forms', async () => {
    const screen = await showOnSheet(DrawPanel, { row: 1 })
    expect(screen.text()).toContain('Draw for row 1')
    expect(screen.text()).not.toContain('Forms')
    await submit(screen)
    expect(asked()).toMatchObject({ row: 1, forms: 1 })
  })

  it('of twin forms draws all anew, around the lines that are to be in every form', async () => {
    const screen = await showOnSheet(DrawPanel)
    await fill(screen, 'Forms', '3')
    await fill(screen, 'Put the 2 lines already here', true)
    await submit(screen)
    expect(asked()).toMatchObject({ forms: 3, keep: false, anchors: [11, 12] })
  })

  it('by a question says how many, of which kinds, evenly over which standards', async () => {
    const screen = await showOnSheet(DrawPanel)
    await press(screen, 'By a question')
    await fill(screen, 'How many items', '10')
    await fill(screen, 'Evenly over these standards', 'M6.RR')
    await press(screen, 'Ask for kinds')
    await fill(screen, 'How many of kind 1', '6')
    await fill(screen, 'Kind 1', 'number')
    await fill(screen, 'Difficulty', 'easy')
    await submit(screen)
    expect(asked().simple).toEqual({ total: 10, kinds: [{ kind: 'number', count: 6 }], standards: ['M6.RR'], ease: 'easy' })
  })

  it('waits while a question cannot be meant', async () => {
    const screen = await showOnSheet(DrawPanel)
    await press(screen, 'By a question')
    await fill(screen, 'Evenly over these standards', 'Z9')
    expect(screen.text()).toContain('There is no standard Z9.')
    expect(button(screen, 'Draw').attributes('disabled')).toBeDefined()
  })

  it('shows what there is to draw from while the question is put together', async () => {
    vi.useFakeTimers()
    const screen = await showOnSheet(DrawPanel)
    await press(screen, 'By a question')
    await vi.advanceTimersByTimeAsync(450)
    await flushPromises()
    expect(screen.text()).toContain('24 items to draw from, 5 apart from near copies.')
    server.on(`POST ${sheetPath}/draw-pool`, () => ({
      body: { pool: 40, apart: 40, rows: [row, { ...row, title: 'M6.NP, single-choice', apart: 3 }], uneven: [] },
    }))
    await fill(screen, 'How many items', '9')
    await fill(screen, 'How many items', '10')
    await vi.advanceTimersByTimeAsync(450)
    await flushPromises()
    expect(rows(screen)).toContain('2M6.NP, single choice2–340 (3 apart)')
    const asks = server.calls(`POST ${sheetPath}/draw-pool`)
    expect((asks.at(-1)!.body as DrawQuestion).simple?.total).toBe(10)
    const before = asks.length
    await fill(screen, 'At random', true)
    await vi.advanceTimersByTimeAsync(450)
    expect(
      server
        .calls(`POST ${sheetPath}/draw-pool`)
        .slice(before)
        .map((a) => a.body),
    ).toEqual([])
  })

  it('offers to draw with near copies where rows are short for want of them', async () => {
    server.on(`POST ${sheetPath}/draws`, () => ({
      body: draw({
        state: 'short',
        forms: [],
        aims: undefined,
        apart: 12,
        shortage: [{ rows: [0], need: 2, have: 1, contested: [] }],
      }),
    }))
    const screen = await showOnSheet(DrawPanel)
    await submit(screen)
    expect(screen.text()).toContain('78 items fit, 12 apart from such copies.')
    await press(screen, 'Draw with near copies')
    expect(asked()).toMatchObject({ copies: true })
  })

  it('shows how long it goes on, and stops', async () => {
    vi.useFakeTimers()
    server.on(`POST ${sheetPath}/draws`, () => ({ body: draw({ state: 'running', elapsed: 1_500 }) }))
    server.on(`GET ${sheetPath}/draws/6`, () => ({ body: draw({ state: 'running', elapsed: 2_500 }) }))
    server.on(`DELETE ${sheetPath}/draws/6`, () => ({ body: draw({ state: 'stopped', forms: [] }) }))
    const screen = await showOnSheet(DrawPanel)
    await submit(screen)
    expect(screen.text()).toContain('1.5 s of 10 s')
    await vi.advanceTimersByTimeAsync(450)
    await flushPromises()
    expect(screen.text()).toContain('2.5 s of 10 s')
    await press(screen, 'Stop')
    expect(server.calls(`DELETE ${sheetPath}/draws/6`)).toHaveLength(1)
    await vi.advanceTimersByTimeAsync(1_000)
    expect(server.calls(`GET ${sheetPath}/draws/6`)).toHaveLength(1)
  })

  it('places what was drawn on the version that was read', async () => {
    server.on(`POST ${sheetPath}/draws/6/place`, () => ({ body: kept }))
    let closed = 0
    const screen = await showOnSheet(DrawPanel, { onClose: () => closed++ })
    await submit(screen)
    await press(screen, 'Place 1 item')
    expect(server.calls(`POST ${sheetPath}/draws/6/place`)[0]!.ifMatch).toBe('7')
    expect(closed).toBe(1)
  })

  it('no longer offers a draw once the question has changed', async () => {
    const screen = await showOnSheet(DrawPanel)
    await submit(screen)
    expect(screen.text()).toContain('Place 1 item')
    await fill(screen, 'Mean difficulty', '.62')
    expect(screen.text()).not.toContain('Place 1 item')
    expect(screen.text()).toContain('The question has changed since the last draw.')
  })

  it('asks before it takes out lines that stand', async () => {
    server.on(`POST ${sheetPath}/draws`, () => ({ body: draw({ leaving: 2 }) }))
    server.on(`POST ${sheetPath}/draws/6/place`, () => ({ body: kept }))
    const screen = await showOnSheet(DrawPanel)
    await fill(screen, 'Keep the 2 lines already here', false)
    await submit(screen)
    await press(screen, 'Place 1 item')
    expect(screen.find('[role=alert]').text()).toBe('Placing this takes out 2 lines that stand now. Undo brings them back.')
    expect(server.calls(`POST ${sheetPath}/draws/6/place`)).toHaveLength(0)
    await press(screen, 'Replace 2 lines')
    expect(server.calls(`POST ${sheetPath}/draws/6/place`)).toHaveLength(1)
  })

  it('stays open where it could not be placed, and says why', async () => {
    server.on(`POST ${sheetPath}/draws/6/place`, () => ({
      status: 409,
      body: { status: 409, detail: 'Tomás changed this meanwhile.' },
    }))
    let closed = 0
    const screen = await showOnSheet(DrawPanel, { onClose: () => closed++ })
    await submit(screen)
    await press(screen, 'Place 1 item')
    expect(screen.text()).toContain('Tomás changed this meanwhile.')
    expect(closed).toBe(0)
  })
})

describe('what came of a draw', () => {
  it('says that nothing better exists only where it is proven', async () => {
    expect((await show(DrawAnswer, { draw: draw({}) })).text()).toContain(
      'Proven: there is no better draw. 78 items fit, 0.04 s.',
    )
    const open = draw({ bound: { difficulty: 0, spread: 0, uses: 1 }, proven: false, millis: 10_000 })
    expect((await show(DrawAnswer, { draw: open })).text()).toContain('The best found in the time. 78 items fit, 10.0 s.')
    const random = draw({ bound: undefined, question: { mode: 'random', seed: 7, forms: 1, keep: true } })
    expect((await show(DrawAnswer, { draw: random })).text()).toContain('Drawn at random with seed 7')
  })

  it('shows each row with its pool, plan and what was drawn, and which lines stayed', async () => {
    const screen = await show(DrawAnswer, { draw: draw({}) })
    expect(rows(screen)).toContain('1Ratio40 2–32')
    expect(rows(screen).some((r) => r.startsWith('stays ·'))).toBe(true)
  })

  it('shows twin forms one by one', async () => {
    const forms = [
      { items: [drawn({})], kinds: [], mean: 610 },
      { items: [drawn({ itemId: 3, stem: 'How far?' })], kinds: [], mean: 615 },
    ]
    const screen = await show(DrawAnswer, { draw: draw({ forms, aims: { difficulty: 0, spread: 5, uses: 0 } }) })
    expect(rows(screen).join()).toContain('How many boats?')
    await press(screen, 'Form B: 1 item, mean .62')
    expect(rows(screen).join()).toContain('How far?')
    expect(rows(screen)).toContain('Expected scores of the forms differ by0.0050.000')
  })

  it('names the rows that are short together, by how much, and what they fight over', async () => {
    const short = draw({
      state: 'short',
      forms: [],
      aims: undefined,
      because: 'Two rows ask for the same items.',
      rows: [row, { ...row, title: 'Rate' }],
      shortage: [{ rows: [0, 1], need: 9, have: 7, contested: ['M6-1', 'M6-2'] }],
    })
    const text = (await show(DrawAnswer, { draw: short })).text()
    expect(text).toContain('This cannot be met. Two rows ask for the same items.')
    expect(text).toContain('row 1 (Ratio), row 2 (Rate) need together 9; there are 7.')
    expect(text).toContain('More than one row wants M6-1, M6-2.')
    expect(text).toContain('With any one of them left out the others can be met.')
  })

  it('does not say that leaving one row out helps where two shortages stand apart', async () => {
    const short = draw({
      state: 'short',
      forms: [],
      aims: undefined,
      rows: [row, row],
      shortage: [
        { rows: [0], need: 9, have: 7, contested: [] },
        { rows: [1], need: 2, have: 1, contested: [] },
      ],
    })
    const text = (await show(DrawAnswer, { draw: short })).text()
    expect(text).toContain('Each of these has to be mended')
    expect(text).not.toContain('left out')
  })

  it('claims nothing of items whose difficulty is not known', async () => {
    const forms = [
      {
        items: [drawn({ difficulty: 600 }), drawn({ itemId: 2, kind: 'number' })],
        kinds: [
          { kind: 'single-choice', count: 1 },
          { kind: 'number', count: 1 },
        ],
        mean: 600,
      },
      { items: [drawn({ itemId: 3, difficulty: 600 })], kinds: [], mean: 600 },
    ]
    const text = (await show(DrawAnswer, { draw: draw({ forms, unknown: 1, estimate: 640 }) })).text()
    expect(text).toContain('Kinds: single choice 1, typed number 1. New lines are worth 1 point each.')
    expect(text).toContain('1 item has no difficulty yet. .64, the mean of the items that fit, stands for it.')
    expect(text).toContain('Proven as far as difficulties are known.')
    expect(text).not.toContain('there is no better draw')
  })

  it('says which standards had too few to be even', async () => {
    const uneven = draw({ uneven: [{ standard: 'M6.RR.1', even: 3, have: 1 }] })
    expect((await show(DrawAnswer, { draw: uneven })).text()).toContain(
      'M6.RR.1 has 1 that fit, not 3; its rest went to the others.',
    )
  })
})
