import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { beforeEach, describe, expect, it } from 'vitest'
import type { Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries, type Schemas } from '@/contract/client'
import PersonPicker from '@/parts/PersonPicker.vue'
import BankPanel from './banks/BankPanel.vue'
import BulkPanel from './BulkPanel.vue'
import HoldPanel from './HoldPanel.vue'
import ItemList from './ItemList.vue'
import Marked from './Marked.vue'
import SavedSearches from './SavedSearches.vue'
import TagPanel from './TagPanel.vue'
import Differences from './item/Differences.vue'
import OfferEntry from './item/OfferEntry.vue'
import ReportEntry from './item/ReportEntry.vue'
import RealignRow from './standards/RealignRow.vue'
import ShelvedPanel from './shelf/ShelvedPanel.vue'
import DraftTwins from './twins/DraftTwins.vue'

const item = (id: number, more: Partial<Schemas['Item']> = {}): Schemas['Item'] => ({
  id,
  identifier: `I${id}`,
  bank: 'Bank',
  version: 1,
  kind: 'single-choice',
  stem: `Question ${id}`,
  standards: ['M6.RR.1'],
  subject: 'mathematics',
  grade: '06',
  course: '',
  depth: 1,
  language: 'en',
  passage: '',
  uses: 0,
  changedAt: '2026-11-01T12:00:00Z',
  tags: [],
  ...more,
})

beforeEach(() => {
  server.on('GET /api/session', () => ({
    body: { signedIn: true, roles: ['school-coordinator'], rights: ['build' as const], personId: 1 },
  }))
})

async function show(part: Component, props: Record<string, unknown>, path = '/bank') {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:rest(.*)*', component: { template: '<i/>' } }],
  })
  await router.push(path)
  const w = mount(part, {
    props,
    attachTo: document.body,
    global: { plugins: [PrimeVue, router, [VueQueryPlugin, { queryClient: queries }]] },
  })
  await flushPromises()
  return w
}
const body = () => document.body.textContent ?? ''
function button(label: string): HTMLButtonElement {
  const found = [...document.querySelectorAll('button')].find(
    (b) => b.textContent?.trim() === label || b.getAttribute('aria-label') === label,
  )
  if (!found) throw new Error(`no button ${label}`)
  return found
}
async function press(label: string) {
  button(label).click()
  await flushPromises()
}
async function type(selector: string, text: string) {
  const field = document.querySelector<HTMLInputElement>(selector)!
  field.value = text
  field.dispatchEvent(new Event('input', { bubbles: true }))
  field.dispatchEvent(new Event('change', { bubbles: true }))
  await flushPromises()
}
async function send(form: string) {
  document.querySelector<HTMLFormElement>(form)!.dispatchEvent(new Event('submit', { bubbles: true, cancelable: true }))
  await flushPromises()
}

describe('the list of items', () => {
  const list = (more = {}) =>
    show(ItemList, {
      items: [
        item(1, { tags: [{ id: 4, name: 'tide', scope: 'person' }] }),
        item(2, {
          standards: [],
          held: { assessmentId: 3, assessment: 'Winter', reason: '', person: 'Ines', at: '2026-11-01T12:00:00Z' },
          hit: {
            stem: [
              { text: 'The ', hit: false },
              { text: 'ferry', hit: true },
            ],
            choices: [],
            passage: [{ text: 'ferries', hit: true }],
          },
        }),
      ],
      chosen: 1,
      marked: new Set([2]),
      inTray: (id: number) => id === 1,
      mayPick: true,
      ...more,
    })

  it('says what is marked, held, tagged, in the tray, and where words were hit', async () => {
    const w = await list()
    const [first, second] = w.findAll('tbody tr')
    expect(first!.text()).toContain('tide')
    expect(first!.find('.pick').attributes('aria-pressed')).toBe('true')
    expect(second!.text()).toContain('aligned to nothing')
    expect(second!.text()).toContain('on hold for Winter')
    expect(second!.findAll('mark').map((m) => m.text())).toEqual(['ferry', 'ferries'])
    expect(second!.find<HTMLInputElement>('input').element.checked).toBe(true)
  })

  it('looks at a click, opens at two, and marks without looking', async () => {
    const w = await list()
    const second = w.findAll('tbody tr')[1]!
    await second.trigger('click')
    await second.trigger('dblclick')
    await second.find('input').trigger('click', { shiftKey: true })
    await second.find('.pick').trigger('click')
    expect(w.emitted('choose')).toEqual([[2]])
    expect(w.emitted('open')).toEqual([[2]])
    expect(w.emitted('mark')).toEqual([[2, true]])
    expect(w.emitted('pick')).toEqual([[2]])
  })

  it('offers no tray to who does not build', async () => {
    const w = await list({ mayPick: false })
    expect(w.find('.pick').exists()).toBe(false)
  })
})

it('marks only what was hit, and shows the rest as text', async () => {
  const w = await show(Marked, {
    runs: [
      { text: '<b>', hit: false },
      { text: 'tide', hit: true },
    ],
  })
  expect(w.text()).toBe('<b>tide')
  expect(w.find('b').exists()).toBe(false)
})

describe('tags from the list', () => {
  beforeEach(() => {
    server.on('GET /api/tags', () => ({
      body: {
        tags: [
          { id: 1, name: 'tide', scope: 'person' as const, scopeId: 7, for: '', items: 3, mayRename: true },
          { id: 2, name: 'tidal', scope: 'everyone' as const, scopeId: 0, for: '', items: 9, mayRename: false },
          { id: 3, name: 'rates', scope: 'everyone' as const, scopeId: 0, for: '', items: 2, mayRename: false },
        ],
        scopes: [
          { scope: 'person' as const, scopeId: 7, for: '' },
          { scope: 'everyone' as const, scopeId: 0, for: '' },
        ],
      },
    }))
    server.on('POST /api/item-tags', () => ({ status: 204 }))
  })

  it('are typed with commas or picked from those in use for the same people', async () => {
    const w = await show(TagPanel, { items: [1, 2], shown: [item(1)] })
    await type('form input', 'low water, ti')
    expect([...document.querySelectorAll('.offers button')].map((b) => b.textContent!.trim())).toEqual(['tide 3'])
    await type('form select', '1')
    document.querySelector<HTMLSelectElement>('form select')!.selectedIndex = 1
    document.querySelector('form select')!.dispatchEvent(new Event('change', { bubbles: true }))
    await flushPromises()
    const offer = document.querySelector<HTMLButtonElement>('.offers button')!
    expect(offer.textContent).toContain('tidal')
    offer.click()
    await flushPromises()
    expect(document.querySelector<HTMLInputElement>('form input')!.value).toBe('low water, tidal, ')
    await send('#tags')
    expect(server.calls('POST /api/item-tags')[0]!.body).toEqual({
      items: [1, 2],
      tags: 'low water, tidal, ',
      scope: 'everyone',
      scopeId: 0,
      off: [],
    })
    expect(w.emitted('done')).toHaveLength(1)
  })

  it('are taken off where the marked items carry them', async () => {
    const carried = [{ id: 3, name: 'rates', scope: 'everyone' as const }]
    await show(TagPanel, {
      items: [1],
      shown: [item(1, { tags: carried }), item(9, { tags: [{ id: 8, name: 'other', scope: 'person' }] })],
    })
    expect([...document.querySelectorAll('.carried')].map((l) => l.textContent!.trim())).toHaveLength(1)
    const box = document.querySelector<HTMLInputElement>('.carried input')!
    box.checked = true
    box.dispatchEvent(new Event('change', { bubbles: true }))
    await flushPromises()
    await send('#tags')
    expect((server.calls('POST /api/item-tags')[0]!.body as { off: number[] }).off).toEqual([3])
  })
})

describe('a change to many items', () => {
  const outcome = (id: number) => ({
    id,
    changed: 2,
    unchanged: 1,
    refused: 1,
    rows: [
      { identifier: 'I9', stem: 'x', changes: [], why: 'Only its owner changes an item.' },
      { identifier: 'I1', stem: 'y', changes: [{ what: 'course', before: '', after: 'Harbor math', text: [] }], why: '' },
    ],
  })

  it('is looked at before it is done, and undone', async () => {
    server.on('GET /api/banks', () => ({ body: [] }))
    server.on('POST /api/item-changes', (asked) => ({ body: outcome((asked.body as { apply: boolean }).apply ? 5 : 0) }))
    server.on('DELETE /api/item-changes/5', () => ({ body: { ...outcome(0), changed: 2, refused: 0, rows: [] } }))
    await show(BulkPanel, { items: [1, 2, 9] })
    expect(button('Change').disabled).toBe(true)
    await type('input[placeholder="as it is"]', 'Harbor math')
    await type('input[placeholder^="codes, such"]', 'M6.RR.1, M6.RR.2')
    await send('#bulk')
    expect(server.asked.find((a) => a.method === 'POST')!.body).toEqual({
      items: [1, 2, 9],
      change: { course: 'Harbor math', align: ['M6.RR.1', 'M6.RR.2'], unalign: [] },
      apply: false,
    })
    expect(body()).toContain('2 items will change')
    expect(body()).toContain('Only its owner changes an item.')
    await press('Change 2 items')
    expect(body()).toContain('2 items have changed')
    await press('Undo')
    expect(body()).toContain('Undone: 2 items as before.')
  })
})

describe('a hold', () => {
  it('for oneself needs a last day, for an assessment it does not', async () => {
    server.on('GET /api/assessments', () => ({
      body: [
        { id: 4, title: 'Winter', state: 'draft' },
        { id: 5, title: 'Fall', state: 'closed' },
      ],
    }))
    server.on('POST /api/item-holds', () => ({
      status: 422,
      body: { status: 422, detail: 'Say until which day, or for which assessment.', errors: [] },
    }))
    await show(HoldPanel, { items: [1], title: 'I1' })
    expect([...document.querySelectorAll('option')].map((o) => o.textContent)).toEqual(['none, for myself', 'Winter'])
    expect(document.querySelector<HTMLInputElement>('input[type=date]')!.required).toBe(true)
    await send('#hold')
    expect(body()).toContain('Say until which day')
    const select = document.querySelector('select')!
    select.selectedIndex = 1
    select.dispatchEvent(new Event('change', { bubbles: true }))
    await flushPromises()
    expect(document.querySelector<HTMLInputElement>('input[type=date]')!.required).toBe(false)
  })
})

describe('kept searches', () => {
  it('are named, found again, and forgotten', async () => {
    let kept = [{ id: 1, name: 'Tides', query: 'words=tide' }]
    server.on('GET /api/saved-searches', () => ({ body: kept }))
    server.on('POST /api/saved-searches', (asked) => ({ body: [...kept, { id: 2, ...(asked.body as object) }] }))
    server.on('DELETE /api/saved-searches/1', () => ({ body: (kept = []) }))
    await show(SavedSearches, {}, '/bank?words=tide&grade=06')
    await press('Save this search')
    await type('form input', 'Grade 6 tides')
    await send('form')
    expect(server.calls('POST /api/saved-searches')[0]!.body).toEqual({ name: 'Grade 6 tides', query: 'words=tide&grade=06' })
    expect([...document.querySelectorAll('li a')].map((a) => a.textContent)).toEqual(['Tides', 'Grade 6 tides'])
    expect(document.querySelector('li a[aria-current]')!.textContent).toBe('Grade 6 tides')
    await press('Delete the search Tides')
    expect(document.querySelectorAll('li')).toHaveLength(0)
  })
})

describe('a bank', () => {
  const bank: Schemas['Bank'] = {
    id: 3,
    name: 'Tide writers',
    kind: 'group',
    schoolId: 0,
    school: '',
    about: '',
    noCopy: false,
    noPrint: true,
    version: 4,
    items: 2,
    standing: 'keeper',
    write: true,
    members: [{ id: 1, name: 'Ada Hale', email: 'ada@x.example', standing: 'keeper' }],
  }

  it('is kept with its terms and members, at the version that was read', async () => {
    server.on('PUT /api/banks/3', () => ({
      status: 422,
      body: { status: 422, detail: 'x', errors: [{ pointer: '/members', message: 'A group’s bank needs a keeper.' }] },
    }))
    await show(BankPanel, { bank })
    await press('Take Ada Hale off')
    await send('#bank')
    const asked = server.calls('PUT /api/banks/3')[0]!
    expect([asked.ifMatch, asked.body]).toEqual([
      '4',
      { name: 'Tide writers', about: '', noCopy: false, noPrint: true, members: [] },
    ])
    expect(body()).toContain('needs a keeper')
  })

  it('shows a reader its terms and nothing to keep', async () => {
    await show(BankPanel, { bank: { ...bank, standing: 'reader', members: [] } })
    expect(document.querySelector<HTMLFieldSetElement>('fieldset')!.disabled).toBe(true)
    expect(body()).not.toContain('Members')
    expect(() => button('Save')).toThrow()
  })

  it('of the district is made by its coordinators alone', async () => {
    await show(BankPanel, {})
    expect([...document.querySelectorAll('option')].map((o) => o.value)).toEqual(['group', 'school'])
  })
})

it('tells people of one name apart by school and e-mail', async () => {
  server.on('GET /api/staff', () => ({
    body: [
      { id: 1, name: 'Mei Sato', email: 'mei@x.example', where: 'Heron Point' },
      { id: 2, name: 'Mei Sato', email: 'm.sato@x.example', where: '' },
      { id: 3, name: 'Mei Lund', email: 'ml@x.example', where: '' },
    ],
  }))
  const w = await show(PersonPicker, { label: 'Add', without: [3] })
  await type('input', 'mei')
  await new Promise((r) => setTimeout(r, 250))
  await flushPromises()
  const people = w.findAll('li')
  expect(people.map((p) => p.text())).toEqual(['Mei Sato Heron Point mei@x.example', 'Mei Sato whole district m.sato@x.example'])
  await people[1]!.find('button').trigger('click')
  expect((w.emitted('pick')![0]![0] as { id: number }).id).toBe(2)
})

describe('a file of the shelf', () => {
  it('has a panel with a name while nothing of it has come', async () => {
    server.on('GET /api/shelf/abc', () => 'no network')
    await show(ShelvedPanel, { hash: 'abc' })
    expect(document.querySelector('aside.side-panel h2')?.textContent).toBe('A file of the shelf')
  })
})

describe('differences', () => {
  it('strike out what is gone and underline what is new', async () => {
    const w = await show(Differences, {
      list: [
        {
          what: 'stem',
          before: 'a b',
          after: 'a c',
          text: [
            { words: 'a', in: 'both' },
            { words: 'b', in: 'before' },
            { words: 'c', in: 'after' },
          ],
        },
        { what: 'key', before: 'A', after: 'B', text: [] },
        { what: 'order of the choices', before: '', after: '', text: [] },
      ],
    })
    expect(w.findAll('del').map((d) => d.text())).toEqual(['b', 'A'])
    expect(w.findAll('ins').map((d) => d.text())).toEqual(['c', 'B'])
    expect(w.text()).toContain('changed')
  })
})

describe('a report and an offer', () => {
  const report: Schemas['ItemReport'] = {
    id: 6,
    itemId: 1,
    identifier: 'I1',
    stem: 'Question',
    version: 1,
    newest: 2,
    fault: 'wrong key',
    words: 'It is B.',
    person: 'Vesna',
    at: '2026-11-01T12:00:00Z',
    state: 'open',
    answer: '',
    closer: '',
    mayMend: true,
    uses: [],
  }

  it('are answered with words', async () => {
    server.on('POST /api/item-reports/6', () => ({ status: 204 }))
    await show(ReportEntry, { report })
    expect(body()).toContain('version 2 is the newest')
    await press('Answer')
    expect(button('It is fixed').disabled).toBe(true)
    await type('textarea', 'B it is.')
    await press('It is fixed')
    expect(server.calls('POST /api/item-reports/6')[0]!.body).toEqual({ mended: true, answer: 'B it is.' })
  })

  it('are only read by who may not mend', async () => {
    await show(ReportEntry, { report: { ...report, mayMend: false } })
    expect(() => button('Answer')).toThrow()
  })

  it('are accepted at once, returned with words alone', async () => {
    server.on('POST /api/offers/2', () => ({ body: { toDecide: [], mine: [] } }))
    const offer = {
      id: 2,
      itemId: 1,
      identifier: 'I1',
      stem: 'Q',
      bank: 'Bank',
      person: 'Ada',
      words: '',
      at: report.at,
      state: 'waiting',
      answer: '',
      decider: '',
    }
    await show(OfferEntry, { offer })
    await press('Return or decline')
    expect(button('Return it').disabled).toBe(true)
    await type('textarea', 'Say which day.')
    await press('Decline it')
    expect(server.calls('POST /api/offers/2')[0]!.body).toEqual({ state: 'declined', answer: 'Say which day.' })
  })
})

it('aligns again only what was looked at', async () => {
  server.on('POST /api/standards/4/realignment', (asked) => ({
    body: { id: (asked.body as { apply: boolean }).apply ? 8 : 0, changed: 3, unchanged: 0, refused: 0, rows: [] },
  }))
  const row = {
    id: 4,
    code: 'S5.EW.1',
    text: 'Tides',
    items: 3,
    proposals: [{ code: 'S5.EW.1', otherCode: 'S5.EW.1@2028', otherText: 'Tides', framework: 'New', kind: 'replacedBy' }],
  }
  await show(RealignRow, { row })
  await press('see what changes')
  await type('input', 'S5.EW.2@2028') // typed anew: to be looked at anew
  expect(() => button('align 3 items')).toThrow()
  await press('see what changes')
  await press('align 3 items')
  expect(server.calls('POST /api/standards/4/realignment').map((a) => a.body)).toEqual([
    { to: ['S5.EW.1@2028'], drop: false, apply: false },
    { to: ['S5.EW.2@2028'], drop: false, apply: false },
    { to: ['S5.EW.2@2028'], drop: false, apply: true },
  ])
  expect(body()).toContain('3 items aligned')
})

it('shows a draft beside its twins, and joins only what one may change', async () => {
  const shown = { kind: 'single-choice', body: [{ html: 'Which tide?' }] }
  const twin = (id: number, mayJoin: boolean) => ({ item: item(id), shown, key: 'A', keys: {}, likeness: 934, mayJoin })
  const w = await show(DraftTwins, { draft: { shown, keys: {} }, twins: [twin(1, true), twin(2, false)] })
  expect(body()).toContain('93.4% alike')
  expect([...document.querySelectorAll('button')].filter((b) => b.textContent?.includes('next version'))).toHaveLength(1)
  await press('Keep yours as its next version')
  await press('Keep both')
  await press('Delete my draft')
  expect([w.emitted('join'), w.emitted('keep')!.length, w.emitted('drop')!.length]).toEqual([[[1]], 1, 1])
})
