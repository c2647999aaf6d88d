// Takes the pictures of docs/screenshots from a demo district made afresh.
import { chromium } from '@playwright/test'
import { launch } from './chromium.js'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pdf } from './pdf.js'
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

/** A document of two pages with its key half typed. */
async function keyedDocument(p) {
  const outline = { title: 'Grade 6 tide and ferry quiz', shortTitle: '', description: '', instructions: '', subject: 'mathematics', grades: ['06'], purpose: 'practice', language: 'en', year: '' }
  const made = await (await p.request.post('/api/assessments', { data: outline })).json()
  await p.goto(`/assessments/${made.id}/key`)
  await p.getByLabel('PDF of the test').setInputFiles({
    name: 'tide-and-ferry-quiz.pdf',
    mimeType: 'application/pdf',
    buffer: pdf([
      ['Tide and ferry quiz', '', '1  A ferry leaves every 25 minutes. How many leave in 5 hours?', '    A 10    B 12    C 15    D 25', '', '2  The tide rises 0.4 m an hour. How far does it rise in 3 hours?', '    F 0.7 m    G 1.2 m    H 3.4 m    J 12 m', '', '3  A harbor has 16 sailboats and 28 motorboats.', '    What is the ratio of sailboats to motorboats in simplest form?', '    A 4 : 28    B 4 : 7    C 7 : 4    D 4 : 11'],
      ['4  A rope is 3.7 m long. How many centimeters is that?', '', '5  Explain how you found your answer to question 4.'],
    ]),
  })
  await p.locator('canvas').first().waitFor()
  await p.getByLabel('How many, block 1').fill('12')
  await p.getByLabel('Labels of even questions, block 1').fill('F–J')
  await p.getByRole('button', { name: 'Add a block' }).click()
  await p.getByLabel('How many, block 2').fill('2')
  await p.getByLabel('Kind, block 2').selectOption('number')
  await p.getByRole('button', { name: 'Add 14 questions' }).click()
  await p.keyboard.type('bgbhaj')
  await p.getByLabel('Add a standard to the short list').focus()
  for (const code of ['M6.RR', 'M6.NP']) {
    await p.keyboard.type(code)
    await p.keyboard.press('Enter')
  }
  await p.getByLabel('Standard of 1', { exact: true }).focus()
  await p.keyboard.type('11212')
  await p.getByText(/14 lines, 8 incomplete/).waitFor()
}

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
  await picture(c, 'key', null, keyedDocument)
  await picture(c, 'cuts', `/assessments/${weighed}/cuts`)
  await picture(c, 'settings', `/assessments/${out}/settings`)
  await picture(c, 'supports', `/assessments/${out}/supports`)
  const matrix = await (await c.request.get(`/api/assessments/${out}/supports`)).json()
  const several = matrix.rows.toSorted((a, b) => b.cells.length - a.cells.length)[0]
  await picture(c, 'profile', `/assessments/${out}/supports?student=${several.studentId}`)
  await picture(c, 'distribution', `/assessments/${out}/distribution`, (p) => p.getByRole('button', { name: 'All', exact: true }).click())
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
