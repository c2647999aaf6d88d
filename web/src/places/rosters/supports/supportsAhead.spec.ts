import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { beforeEach, expect, it } from 'vitest'
import type { Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries } from '@/contract/client'
import Ahead from './Ahead.vue'
import GroundsPanel from './GroundsPanel.vue'
import RulesPanel from './RulesPanel.vue'

const place = (part: object) => ({
  assessmentId: 4,
  title: 'Winter',
  opens: '2026-12-01T16:00:00Z',
  closes: '2026-12-04T23:00:00Z',
  sectionId: 5,
  section: '5-1',
  school: 'Heron Point',
  key: 'scribe',
  name: 'Scribe',
  by: 'person' as const,
  students: 2,
  need: 2,
  have: 0,
  lacks: true,
  provider: '',
  ...part,
})
const rule = { support: 'readAloud', part: 'passages', subject: 'reading', standard: '', why: 'Reading is what is measured.' }
const district = {
  grounds: [
    { name: 'IEP', students: 3 },
    { name: 'Temporary', students: 0 },
  ],
  rules: [rule],
  subjects: ['reading'],
  parts: [{ value: 'passages', words: 'passages' }],
  mayChange: true,
}
beforeEach(() => {
  server.on('GET /api/supports/district', () => ({ body: district }))
  server.on('GET /api/supports', () => ({
    body: [
      { key: 'readAloud', name: 'Read aloud', kind: { type: 'picks' as const } },
      { key: 'scribe', name: 'Scribe', kind: { type: 'flag' as const } },
    ],
  }))
})

async function show(component: Component, at = '/') {
  const router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/:all(.*)', component: { template: '' } }] })
  await router.push(at)
  const shown = mount(component, {
    global: { plugins: [router, PrimeVue, [VueQueryPlugin, { queryClient: queries }]] },
    attachTo: document.body,
  })
  await flushPromises()
  return shown
}
const panel = () => document.querySelector<HTMLElement>('.side-panel')!
const press = (name: string) => [...panel().querySelectorAll('button')].find((b) => b.textContent!.trim() === name)!.click()
const asked = (path: string) => server.asked.find((a) => a.method === 'PUT' && a.path === path)?.body

it('lists what is lacking first, and what is seen to when asked', async () => {
  server.on('GET /api/supports/ahead', () => ({
    body: [
      place({}),
      place({ key: 'ownRoom', name: 'Own room', need: 1 }),
      place({ sectionId: 6, section: '5-2', need: 1, have: 1, lacks: false, provider: 'Mr. Lund' }),
    ],
  }))
  const lacking = await show(Ahead)
  expect(lacking.text()).toContain('1 section still lacks people or paper.')
  expect(lacking.findAll('tbody tr').map((r) => r.findAll('td')[3]!.text())).toEqual(['5-1', '5-1'])
  expect(lacking.find('tfoot').text()).toContain('2 rows30')
  expect(lacking.find('a[download]').attributes('href')).toBe('/api/supports/ahead.csv?days=14&lacking=true')
  const all = await show(Ahead, '/?all&days=7')
  expect(all.text()).toContain('Mr. Lund')
  expect(all.find('a[download]').attributes('href')).toBe('/api/supports/ahead.csv?days=7')
  expect(server.asked.at(-1)?.query).toContain('days=7')
})

it('says that nothing is lacking, and that nobody needs anything', async () => {
  server.on('GET /api/supports/ahead', () => ({ body: [place({ have: 2, lacks: false, provider: 'Mr. Lund' })] }))
  expect((await show(Ahead)).text()).toContain('Nobody and nothing is lacking.')
  server.on('GET /api/supports/ahead', () => ({ body: [] }))
  expect((await show(Ahead, '/?days=30')).text()).toContain('No student who sits an assessment in these days')
})

it('sends the grounds with the list that was looked at', async () => {
  server.on('PUT /api/supports/grounds', () => ({ body: district }))
  await show(GroundsPanel)
  expect(panel().textContent).toContain('IEP: 3 students, so it stays on the list')
  const list = panel().querySelector('textarea')!
  list.value = 'IEP\nNewcomer'
  list.dispatchEvent(new Event('input'))
  press('Save')
  await flushPromises()
  expect(asked('/api/supports/grounds')).toEqual({ grounds: ['IEP', 'Newcomer'], was: ['IEP', 'Temporary'] })
})

it('adds a rule beside what stands, and says at its row what is wrong with it', async () => {
  server.on('PUT /api/supports/rules', () => ({
    status: 422,
    body: { status: 422, detail: 'x', errors: [{ pointer: '/rules/1/why', message: 'Say what it breaks.' }] },
  }))
  await show(RulesPanel)
  press('Add a rule')
  await flushPromises()
  const support = panel().querySelector<HTMLSelectElement>('[aria-label="Rule 2, support"]')!
  expect(document.activeElement).toBe(support)
  expect(panel().querySelector('[aria-label="Rule 2, part"]'), 'reading aloud has parts').not.toBeNull()
  support.value = 'scribe'
  support.dispatchEvent(new Event('change'))
  await flushPromises()
  expect(panel().querySelector('[aria-label="Rule 2, part"]')).toBeNull()
  press('Save')
  await flushPromises()
  const added = { support: 'scribe', part: '', subject: '', standard: '', why: '' }
  expect(asked('/api/supports/rules')).toEqual({ rules: [rule, added], was: [rule] })
  expect(panel().querySelector('li.wrong')!.textContent).toContain('Say what it breaks.')
})
