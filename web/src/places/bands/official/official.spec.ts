import { beforeEach, expect, it } from 'vitest'
import { server } from '@/contract/testServer'
import { queries, type Schemas } from '@/contract/client'
import { fresh, show } from '@/places/assessments/sheet/testSheet'
import Official from './Official.vue'
import OfficialPanel from './OfficialPanel.vue'

const table = (id: number, year: string): Schemas['OfficialTable'] => ({
  id,
  test: '',
  subject: 'mathematics',
  grade: '06',
  year,
  source: 'calder.csv',
  at: '2026-10-13T16:00:00Z',
  most: 2,
  bands: 2,
})

beforeEach(() => fresh())

it('a table tells where its bands begin, and what moved since another year', async () => {
  server.on('GET /api/official-tables/7', (asked) => ({
    body: {
      table: table(7, '2025–26'),
      rows: [
        { raw: 0, scale: 300, band: 'Launching', line: 2 },
        { raw: 1, scale: 320, band: 'On course', line: 3 },
        { raw: 2, scale: 340, band: 'On course', line: 4 },
      ],
      cuts: [
        {
          band: 'On course',
          raw: 1,
          of: 2,
          percent: 50,
          scale: 320,
          line: 3,
          ...(asked.query.includes('beside=5') && { before: 52.5 }),
        },
      ],
      others: [table(5, '2024–25')],
    } satisfies Schemas['OfficialTableOpened'],
  }))
  const panel = await show(OfficialPanel, { id: 7 })
  expect(panel.text()).toContain('Mathematics, grade 6, 2025–26')
  expect(panel.find('.bar').attributes('aria-label')).toBe('Launching 1, On course 2')
  await panel.find('select').setValue(panel.findAll('option')[1]!.element.value)
  await new Promise((done) => setTimeout(done, 10))
  const row = panel.findAll('tbody tr')[0]!
  expect(row.findAll('td').map((d) => d.text())).toEqual(['On course', '1', '50', '320', '52.5', '−2.5'])
})

it('tables are found by words of their rows, and the rest are drawn as one goes down', async () => {
  const many = Array.from({ length: 250 }, (_, i) => ({ ...table(i + 1, `${1800 + i}`), test: i === 7 ? 'Spring' : '' }))
  server.on('GET /api/official-tables', () => ({ body: many }))
  queries.setQueryData(['session'], { roles: ['district-coordinator'], rights: [] })
  const page = await show(Official, {})
  const rows = () => page.findAll('tbody tr').length
  expect(rows()).toBe(100)
  expect(page.find('[role=status]').text()).toBe('250 tables')
  const field = page.find('[data-search]')
  await field.setValue('mathematics spring')
  expect(rows()).toBe(1)
  expect(page.find('[role=status]').text()).toContain('1 of 250 tables')
  await field.setValue('grade 7')
  expect(rows()).toBe(0)
  await page
    .findAll('button')
    .find((b) => b.text() === 'Clear filter')!
    .trigger('click')
  expect(rows()).toBe(100)
})
