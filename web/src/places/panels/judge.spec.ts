import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { VueQueryPlugin } from '@tanstack/vue-query'
import PrimeVue from 'primevue/config'
import { beforeEach, describe, expect, it } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries, type Schemas } from '@/contract/client'
import { Line, server } from '@/contract/testServer'
import Judge from './Judge.vue'
import { readShare } from './share'

describe('a share as it is typed', () => {
  it.each([
    ['45', 45],
    [' 45 % ', 45],
    ['0.45', 45],
    ['.4', 40],
    ['0,07', 7],
    ['0', 0],
    ['100%', 100],
    ['', -1],
    ['101', undefined],
    ['-1', undefined],
    ['4.5', undefined],
    ['0.455', undefined],
    ['half', undefined],
  ])('%s', (text, share) => expect(readShare(text)).toBe(share))
})

// One judge's page; the server is a small one of its own.
const line = (n: number) =>
  ({
    identifier: `M6-${n}`,
    points: 1,
    shown: { kind: 'single-choice', body: [{ html: `stem ${n}` }] },
    key: 'A',
    keys: {},
    passage: '',
  }) as unknown as Schemas['PanelLine']
const round = (more: Partial<Schemas['PanelOwnRound']> = {}): Schemas['PanelOwnRound'] => ({
  number: 1,
  name: 'Round 1',
  training: false,
  openedAt: '2026-11-20T20:00:00Z',
  ratings: [
    [30, -1],
    [-1, -1],
  ],
  marks: [],
  given: 1,
  of: 4,
  done: false,
  ...more,
})
let rounds: Schemas['PanelOwnRound'][]
let shown: VueWrapper

async function open() {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/panels/:id', component: Judge },
      { path: '/bands/panels', component: { template: '<p>list</p>' } },
    ],
  })
  await router.push('/panels/3')
  shown = mount(
    { template: '<RouterView />' },
    { global: { plugins: [router, PrimeVue, [VueQueryPlugin, { queryClient: queries }]] }, attachTo: document.body },
  )
  await flushPromises()
}
const field = (n: number, cut: string) => shown.find<HTMLInputElement>(`input[aria-label="Line ${n}, ${cut}, percent"]`)
const sent = () => server.calls('PUT /api/panels/3/given/1').map((c) => (c.body as { given: Schemas['PanelGiven'][] }).given)
async function settled() {
  await new Promise((done) => setTimeout(done, 300))
  await flushPromises()
}

beforeEach(() => {
  queries.clear()
  localStorage.clear()
  rounds = [round()]
  const panel = { id: 3, title: 'Fall', method: 'angoff' as const, chair: 'Ines Okafor' }
  server.on('GET /api/panels/3/asked', () => ({
    body: {
      panel,
      probability: 0.67,
      cuts: ['Underway', 'Beyond'],
      lines: [line(1), line(2)],
      passages: [],
      booklet: [],
      total: 2,
    },
  }))
  server.on('GET /api/panels/3/given', () => ({ body: { left: false, ended: false, rounds, notes: [] } }))
  server.on('PUT /api/panels/3/given/1', (a) => {
    for (const g of (a.body as { given: Schemas['PanelGiven'][] }).given) rounds[0]!.ratings[g.cut]![g.line] = g.value
    return { status: 204 }
  })
})

describe('a judge', () => {
  it('sees at once that the chair has closed the round', async () => {
    await open()
    const state = () => shown.find('[role=status]').text()
    expect(state()).toBe('Saved')
    rounds = [round({ closedAt: '2026-10-13T16:00:00Z' })]
    Line.open.filter((l) => l.url === '/events/panels/3').forEach((l) => l.dispatchEvent(new Event('changed')))
    await flushPromises()
    expect(state()).toBe('closed')
  })

  it('gives tens with one key each and goes on to the next line, then to the next cut', async () => {
    await open()
    expect(shown.text()).toContain('1 of 4 given')
    await field(1, 'Underway').trigger('focus')
    for (const [n, cut, key] of [
      [1, 'Underway', '4'],
      [2, 'Underway', 'x'],
      [1, 'Beyond', '0'],
    ] as const)
      await field(n, cut).trigger('keydown', { key })
    expect(document.activeElement).toBe(field(2, 'Beyond').element)
    expect(shown.text()).toContain('3 of 4 given')
    expect(shown.text()).toContain('Saving…')
    await settled()
    expect(shown.text()).toContain('Saved')
    expect(sent()).toEqual([
      [
        { cut: 0, line: 0, value: 40 },
        { cut: 0, line: 1, value: 100 },
        { cut: 1, line: 0, value: 0 },
      ],
    ])
    await field(1, 'Underway').trigger('keydown', { key: 'Backspace' })
    await settled()
    expect(sent()[1]).toEqual([{ cut: 0, line: 0, value: -1 }])
  })

  it('is told when a cut is no higher than the one before', async () => {
    rounds = [
      round({
        ratings: [
          [50, 50],
          [60, 30],
        ],
      }),
    ]
    await open()
    expect(shown.text()).toContain('Beyond: no higher than the cut before')
    await field(2, 'Beyond').trigger('keydown', { key: '9' })
    expect(shown.text()).not.toContain('no higher')
  })

  it('keeps what the server could not be sent, and gives up what it refuses', async () => {
    await open()
    server.on('PUT /api/panels/3/given/1', () => ({ status: 503 }))
    await field(2, 'Underway').trigger('keydown', { key: '7' })
    await settled()
    expect(shown.text()).toContain('Not saved yet, will send when the network is back')
    expect(field(2, 'Underway').element.value).toBe('70')
    shown.unmount()
    await flushPromises()
    server.on('PUT /api/panels/3/given/1', () => ({ status: 409, body: { detail: 'Round 1 is closed.' } }))
    await open()
    await settled()
    expect(shown.text()).toContain('Round 1 is closed.')
    expect(field(2, 'Underway').element.value).toBe('')
  })

  it('never sends to the next round what was given in the one before', async () => {
    await open()
    server.on('PUT /api/panels/3/given/1', () => ({ status: 503 }))
    await field(2, 'Underway').trigger('keydown', { key: '7' })
    await settled()
    shown.unmount()
    await flushPromises()
    server.on('PUT /api/panels/3/given/1', () => ({ status: 409, body: { detail: 'Round 1 is closed.' } }))
    server.on('PUT /api/panels/3/given/2', () => ({ status: 204 }))
    rounds = [round({ closedAt: '2026-11-20T21:00:00Z' }), round({ number: 2, name: 'Round 2' })]
    await open()
    await settled()
    expect(server.calls('PUT /api/panels/3/given/2')).toEqual([])
    expect(field(2, 'Underway').element.value).toBe('')
    expect(shown.text()).toContain('Round 1 is closed.')
  })

  it('changes nothing in a round that is done until it is gone on with', async () => {
    rounds = [round({ done: true })]
    await open()
    await field(2, 'Underway').trigger('keydown', { key: '7' })
    expect(field(2, 'Underway').element.value).toBe('')
    expect(shown.text()).toContain('You are done with this round')
    server.on('PUT /api/panels/3/given/1/done', () => ({ status: 204 }))
    rounds = [round()]
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Go on with it')!
      .trigger('click')
    await flushPromises()
    expect(server.calls('PUT /api/panels/3/given/1/done')[0]!.body).toEqual({ done: false })
    await field(2, 'Underway').trigger('keydown', { key: '7' })
    expect(field(2, 'Underway').element.value).toBe('70')
  })
})
