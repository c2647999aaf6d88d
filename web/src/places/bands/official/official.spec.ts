import { beforeEach, expect, it } from 'vitest'
import { server } from '@/contract/testServer'
import type { Schemas } from '@/contract/client'
import { fresh, show } from '@/places/assessments/sheet/testSheet'
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
