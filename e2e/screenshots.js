// Takes the pictures of docs/screenshots from a demo district made afresh.
import { chromium } from '@playwright/test'
import { launch } from './chromium.js'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startWork } from './people.js'
import { startServer } from './server.js'

const data = mkdtempSync(join(tmpdir(), 'pineledger-pictures-'))
const server = await startServer(data)
const base = server.url
const browser = await chromium.launch(launch)

async function as(role) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: base })
  const people = await (await page.request.get('/api/demo/people')).json()
  await page.request.post('/api/demo/session', { data: { personId: people.find((p) => p.role === role).id } })
  return page
}

async function picture(page, name, path, prepare) {
  if (path) await page.goto(path)
  await page.waitForLoadState('networkidle')
  await prepare?.(page)
  await page.waitForTimeout(400)
  await page.screenshot({ path: `../docs/screenshots/${name}.png` })
  console.log(name)
}

const now = new Date()
const monthBefore = new Date(now.getFullYear(), now.getMonth() - 1, 1, 12).toLocaleDateString('sv-SE')

try {
  const c = await as('district-coordinator')
  const list = await (await c.request.get('/api/assessments')).json()
  const id = (title) => list.find((a) => a.title.startsWith(title)).id
  const [draft, weighed, out] = [id('Grade 4'), id('Grade 6 mathematics, winter'), id('Grade 5')]
  const results = await (await c.request.get('/api/results')).json()
  const given = results.find((r) => r.title.includes('fall')).id
  await picture(c, 'today', '/today')
  await picture(c, 'bank', '/bank?subject=mathematics&grade=06', async (p) => {
    const rows = p.getByRole('table', { name: 'Items' }).locator('tbody tr')
    for (const row of [1, 3, 4]) await rows.nth(row).getByRole('button', { name: /in the tray$/ }).click()
    await rows.nth(2).click()
  })
  const spot = (await (await c.request.get('/api/items?kind=spot&subject=science')).json()).items.find((i) => i.stem.includes('crest'))
  const written = await (await c.request.post('/api/item-drafts', { data: { item: spot.id } })).json()
  await picture(c, 'write', `/bank/write/${written.id}`)
  await picture(c, 'blueprint', `/assessments/${draft}/blueprint`)
  await picture(c, 'draw', `/assessments/${draft}/blueprint`, async (p) => {
    await p.getByRole('button', { name: 'Draw items' }).click()
    await p.getByText('Difficulty, passages, keys, forms').click()
    await p.getByLabel('Mean difficulty').fill('.62')
    await p.getByRole('button', { name: 'Draw', exact: true }).click()
    await p.getByText('Proven').waitFor()
    await p.getByText('Difficulty, passages, keys, forms').click()
  })
  await picture(c, 'lines', `/assessments/${draft}/lines`)
  await picture(c, 'cuts', `/assessments/${weighed}/cuts`)
  await picture(c, 'settings', `/assessments/${out}/settings`)
  await picture(c, 'supports', `/assessments/${out}/supports`)
  await picture(c, 'distribution', `/assessments/${weighed}/distribution`)
  await picture(c, 'progress', `/assessments/${out}/progress`)
  await picture(c, 'calendar', `/calendar?from=${monthBefore}`)
  const panels = await (await c.request.get('/api/panels')).json()
  await picture(c, 'panel', `/bands/panels/${panels.find((p) => p.ended).id}`)
  await picture(c, 'results', `/results/${given}`)
  await picture(c, 'matrix-and-trail', `/results/${given}/matrix`, async (p) => {
    await p.getByRole('button', { name: /line 2:/ }).nth(2).click()
  })
  await picture(c, 'ledger', '/ledger')

  const today = await (await c.request.get('/api/today')).json()
  const check = today.sittings.find((s) => s.title.startsWith('Kindergarten') && s.door === 'open')
  await picture(c, 'record', `/rooms/${check.id}`, async (p) => {
    await p.getByRole('link', { name: /^Record/ }).filter({ hasText: 'record' }).first().click()
    await p.getByRole('heading', { name: /^Line 1/ }).waitFor()
    for (const key of ['r', 'r', 'w']) await p.keyboard.press(key)
  })

  const t = await as('teacher')
  await picture(t, 'room', '/today', async (p) => {
    await p.getByRole('link', { name: /^5-/ }).first().click()
    await p.waitForLoadState('networkidle')
  })

  const s = await as('student')
  await picture(s, 'student', null, async (p) => {
    await startWork(p)
    await p.locator('.item label').nth(1).click()
    await p.getByRole('button', { name: 'Highlighter' }).click()
    for (const name of ['Next sentence', 'Next sentence', 'Highlight it']) await p.getByRole('button', { name, exact: true }).click()
  })
} finally {
  await browser.close()
  await server.stop()
  rmSync(data, { recursive: true, force: true })
}
