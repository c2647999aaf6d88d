import { readFileSync } from 'node:fs'
import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { as, leave } from './people.js'

// What cuts would do before anybody has sat, and an assessment that has cuts of its own.
test.afterEach(leave)

const title = 'Grade 6 mathematics, winter benchmark'
const table = (page) => page.getByRole('table', { name: 'Cuts on this form' })
const cut = (page, band) => page.getByRole('slider', { name: `Cut of ${band}` })
/** The expected share of a band, in percent. */
const share = async (page, band) => parseFloat(await table(page).getByRole('row', { name: new RegExp(band) }).getByRole('cell').nth(4).textContent())

async function openCuts(page) {
  await page.goto('/assessments')
  await page.getByRole('link', { name: title, exact: true }).click()
  await page.getByRole('link', { name: /^Cuts/ }).click()
  await expect(page.getByRole('heading', { name: /Expected students at each score/ })).toBeVisible()
}

test('a cut is dragged, the shares move with it, and the cuts are taken and taken back', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await openCuts(page)
  await expect(page.getByText(/from their latest scored work in this subject/)).toBeVisible()
  const schools = page.getByRole('complementary', { name: 'By school' })
  await expect(schools.getByRole('row')).toHaveCount(4)
  const before = await share(page, 'On course')
  const line = cut(page, 'On course')
  const from = Number(await line.getAttribute('aria-valuenow'))

  const box = await line.boundingBox()
  await page.mouse.move(box.x + box.width / 2, box.y + 12)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + 14, { steps: 6 })
  await page.mouse.up()
  await expect.poll(async () => Number(await line.getAttribute('aria-valuenow'))).toBeGreaterThan(from)
  await expect.poll(() => share(page, 'On course')).toBeLessThan(before)
  await accessible(page)

  await page.getByRole('button', { name: /^Round up to/ }).click()
  await expect(table(page).getByRole('textbox', { name: 'Cut of Underway, points' })).toHaveValue('14')
  await page.getByRole('button', { name: 'Use these cuts' }).click()
  await expect(page.getByText('cuts of its own, in place of')).toBeVisible()
  await page.reload()
  await expect(table(page).getByRole('textbox', { name: 'Cut of Underway, points' })).toHaveValue('14')

  await page.getByRole('button', { name: 'Use the set’s cuts' }).click()
  await expect(table(page).getByRole('textbox', { name: 'Cut of Underway, percent' })).toHaveValue('43')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(table(page).getByRole('textbox', { name: 'Cut of Underway, points' })).toHaveValue('14')
})

test('by keys alone a cut moves from score to score, and what cannot be one is refused where it was typed', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await openCuts(page)
  const line = cut(page, 'Beyond')
  await line.focus()
  const from = Number(await line.getAttribute('aria-valuenow'))
  await page.keyboard.press('Shift+ArrowRight')
  await expect(line).toHaveAttribute('aria-valuenow', String(from + 1))
  await expect(line).toHaveAttribute('aria-valuetext', /expected in Beyond/)
  await page.keyboard.press('End')
  await expect(line).toHaveAttribute('aria-valuenow', '32')
  const percent = table(page).getByRole('textbox', { name: 'Cut of Underway, percent' })
  await percent.focus()
  await page.keyboard.press('Control+A')
  await page.keyboard.type('120')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Use at most 100.')).toBeVisible()
  await expect(percent).toHaveValue('120')
  await page.keyboard.press('Control+A')
  await page.keyboard.type('100')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/They begin at the same raw score|begins below/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Cancel' }).press('Enter')
  await expect(line).toHaveAttribute('aria-valuenow', String(from))
})

test('with half of its lines unknown nothing is predicted, and the reason is said', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const sets = await (await page.request.get('/api/band-sets')).json()
  const started = await page.request.post('/api/assessments', {
    data: { title: 'Of unknown lines', shortTitle: '', description: '', instructions: '', subject: 'mathematics', grades: ['06'], purpose: 'benchmark', language: 'en', year: '' },
  })
  const sheet = await started.json()
  const items = (await (await page.request.get('/api/items?subject=mathematics&grade=06&limit=200')).json()).items.filter((i) => i.difficulty === undefined)
  expect(items.length, 'the bank holds items without a difficulty').toBeGreaterThan(1)
  const lines = await page.request.put(`/api/assessments/${sheet.id}/lines`, {
    headers: { 'If-Match': String(sheet.version) },
    data: { lines: items.slice(0, 2).map((i) => ({ itemId: i.id, points: 1 })) },
  })
  expect(lines.status(), await lines.text()).toBe(200)
  const { version } = await lines.json()
  await page.request.put(`/api/assessments/${sheet.id}/bands`, { headers: { 'If-Match': String(version) }, data: { bandSetId: sets.find((s) => !s.least).id } })
  await page.goto(`/assessments/${sheet.id}/cuts`)
  await expect(page.getByText('Nothing is predicted: of 2 lines the difficulty of 2 is not known.')).toBeVisible()
  await expect(page.getByRole('complementary', { name: 'By school' })).toHaveCount(0)
})

test('a set that the district has locked says so to its schools', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await page.goto('/bands')
  await page.getByRole('row', { name: /Calder mathematics 6–8/ }).click()
  await page.getByRole('checkbox', { name: /^Locked/ }).check()
  await page.getByRole('button', { name: 'Save changes' }).click()
  await expect(page.getByRole('row', { name: /Calder mathematics 6–8/ })).toContainText('locked')

  const school = await as(browser, 'school-coordinator')
  await school.goto('/bands')
  await school.getByRole('row', { name: /Calder mathematics 6–8/ }).click()
  await expect(school.getByText(/Locked by .+ of the district on .+\. Schools cannot use other cuts/)).toBeVisible()
})

test('a set that changes moves no draft: it says what is new, and takes it when asked', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const list = await (await page.request.get('/api/assessments')).json()
  const made = await page.request.post(`/api/assessments/${list.find((a) => a.title === title).id}/copy`, { data: { title: 'Copied for its cuts' } })
  const sheet = await made.json()
  const sets = await (await page.request.get(`/api/band-sets?assessment=${sheet.id}`)).json()
  expect(sets[0].why).toContain('for mathematics, grade 6')
  const chosen = await page.request.put(`/api/assessments/${sheet.id}/bands`, { headers: { 'If-Match': String(sheet.version) }, data: { bandSetId: sets.find((s) => !s.least).id } })
  expect(chosen.status(), await chosen.text()).toBe(200)

  await page.goto('/bands')
  await page.getByRole('row', { name: new RegExp(sets[0].name) }).click()
  await page.getByRole('textbox', { name: 'Cut of band 2', exact: true }).fill('45')
  await page.getByRole('button', { name: 'Save changes' }).click()
  await expect(page.getByRole('row', { name: new RegExp(sets[0].name) })).toContainText('45%')

  await page.goto(`/assessments/${sheet.id}/cuts`)
  const underway = table(page).getByRole('textbox', { name: 'Cut of Underway, percent' })
  await expect(underway).toHaveValue('43')
  await expect(page.getByText('Underway begins at 45% instead of 43%.')).toBeVisible()
  await page.getByRole('button', { name: 'Take the newer cuts' }).click()
  await expect(underway).toHaveValue('45')
  await expect(page.getByText('instead of 43%')).toHaveCount(0)
})

test('a table of the state comes in from its file, is looked at first, and a cut is taken from it', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await page.goto('/bands')
  await page.getByRole('link', { name: 'Official tables' }).click()
  const list = page.getByRole('table', { name: 'Official tables' })
  await expect(list.getByRole('row').nth(1)).toContainText('Mathematics')
  await accessible(page)
  await page.getByRole('button', { name: 'Import files' }).click()
  const panel = page.getByRole('complementary', { name: 'Import files' })
  // Two grades side by side under merged heads, with a footnote mark and a range, as an office would send it.
  const lines = ['Calder mathematics 2026-27,,,,', ',Grade 6,,Grade 7,', 'Raw,Scale,Level,Scale,Level', '0–12,300,Launching,300,Launching', '13*,320,Underway,310,Launching', '14,350,On course,330,Underway']
  await panel.getByLabel('File', { exact: true }).setInputFiles({ name: 'calder-2027.csv', mimeType: 'text/csv', buffer: Buffer.from(lines.join('\n')) })
  await panel.getByRole('button', { name: 'Look first' }).click()
  await expect(panel.getByText('This was a look: nothing was kept.')).toBeVisible()
  await expect(panel.getByText('was read as raw')).toBeVisible()
  await expect(list.getByRole('row', { name: /calder-2027/ })).toHaveCount(0)
  await panel.getByRole('button', { name: 'Import', exact: true }).click()
  await expect(list.getByRole('row', { name: /calder-2027/ })).toHaveCount(2)
  await panel.getByRole('button', { name: 'Close' }).click()

  await list.getByRole('row', { name: /2026–27 Mathematics 6.*calder-2027/ }).click()
  const opened = page.getByRole('complementary', { name: 'Mathematics, grade 6, 2026–27' })
  await opened.getByRole('combobox', { name: 'Beside' }).selectOption({ label: '2025–26' })
  await expect(opened.getByRole('table', { name: 'Where bands begin' }).getByRole('row', { name: /Underway/ })).toContainText('+49.68') // 13 of 14 beside 19 of 44
  await accessible(page)

  await openCuts(page)
  const note = page.getByText('On course begins at').locator('..')
  await expect(note).toContainText('On course of 2026–27, grade 6 is 14 of 14 points, 100%; here that is 32.')
  await note.getByRole('button', { name: 'Take 32' }).click()
  await expect(table(page).getByRole('textbox', { name: 'Cut of On course, points' })).toHaveValue('32')
  await expect(page.getByText('On course begins at')).toHaveCount(0)
  await page.getByRole('button', { name: 'Use these cuts' }).click()
  await page.reload()
  await table(page).getByRole('link', { name: 'from 2026–27' }).click()
  await expect(page.getByRole('complementary', { name: 'Mathematics, grade 6, 2026–27' })).toBeVisible()
})

test('cuts of results change with a reason, by keys; every result says so, and the earlier ones can be had back', async ({
  browser,
}) => {
  const page = await as(browser, 'district-coordinator')
  await page.goto('/assessments')
  await page
    .getByRole('link', {
      name: 'Grade 6 mathematics, fall benchmark',
      exact: true,
    })
    .click()
  await page.getByRole('link', { name: /^Cuts/ }).click()
  await expect(page.getByRole('button', { name: 'Change the cuts…' })).toBeDisabled()
  const typed = table(page).getByRole('textbox', {
    name: 'Cut of On course, points',
  })
  const sealed = Number(await typed.inputValue())
  await typed.fill(String(Math.ceil(sealed) + 2))
  await page.keyboard.press('Enter')
  await expect(page.getByText('These cuts are only weighed')).toBeVisible()

  await page.getByRole('button', { name: 'Change the cuts…' }).press('Enter')
  const panel = page.getByRole('complementary', {
    name: 'Change the cuts of results',
  })
  await expect(panel.getByText(/students? gets? another band/)).toBeVisible()
  const names = panel.getByRole('table', { name: 'Who moves' }).getByRole('row')
  const moving = (await names.count()) - 1
  await expect(panel.getByText(new RegExp(`^${moving} students? gets? another band`))).toBeVisible()
  const [file] = await Promise.all([page.waitForEvent('download'), panel.getByRole('button', { name: 'Export as CSV' }).press('Enter')])
  const rows = readFileSync(await file.path(), 'utf8').trimEnd().split('\n')
  expect(rows).toHaveLength(moving + 1)
  expect(rows[0]).toBe('\ufeffStudent,Number,School,Section,Points,From,To')
  const apply = panel.getByRole('button', {
    name: /^Change the cuts of \d+ results$/,
  })
  await apply.press('Enter')
  await expect(panel.getByRole('alert')).toHaveText('Say why the cuts change. Everybody who reads the results sees it.')
  await panel.getByLabel('Reason').fill('The state moved its own cut.')
  await apply.press('Enter')
  const history = page.getByRole('table', { name: 'Cuts of record' })
  await expect(history.getByRole('row', { name: /The state moved its own cut/ })).toContainText(/in force/)
  await expect(
    history
      .getByRole('row', { name: /The state moved its own cut/ })
      .getByRole('cell')
      .nth(5),
  ).toHaveText(String(moving))
  await page.getByText('Students near a cut, by name').click()
  await expect(
    page.getByRole('table', { name: 'Students near On course' }).getByRole('cell', { name: 'at the cut' }).first(),
  ).toBeVisible()
  await accessible(page)

  // Results say which cuts they have.
  await page
    .getByRole('link', { name: /^Results/ })
    .last()
    .click()
  await expect(page.getByRole('note').filter({ hasText: 'The state moved its own cut.' })).toContainText(
    'Ines Okafor changed the cuts',
  )

  await page.goBack()
  await history.getByRole('button', { name: 'Weigh these again' }).click()
  await expect(typed).toHaveValue(String(sealed))
  await page.getByRole('button', { name: 'Change the cuts…' }).click()
  await panel.getByLabel('Reason').fill('The state took it back.')
  await apply.click()
  await expect(history.getByRole('row')).toHaveCount(4)
  await expect(history.getByRole('row').nth(1)).toContainText('The state took it back.')
})

test('the items of a subject are calibrated, and their pages say where they lie', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await openCuts(page)
  const basis = page.getByRole('status').filter({ hasText: 'Calibrated' })
  const before = await basis.textContent()
  const [answer] = await Promise.all([
    page.waitForResponse((r) => r.url().endsWith('/api/calibrations') && r.request().method() === 'POST'),
    basis.getByRole('button', { name: 'Calibrate again' }).click(),
  ])
  expect(answer.ok()).toBe(true)
  await expect(basis).not.toHaveText(before)
  await expect(basis).toContainText('by Ines Okafor from')
  await expect(page.getByText(/Difficulties: \d+ of 32 lines on the scale of this subject/)).toBeVisible()
  const sheet = await (
    await page.request.get(
      page
        .url()
        .replace(/\/cuts$/, '')
        .replace('/assessments', '/api/assessments'),
    )
  ).json()
  await page.goto(`/bank/items/${sheet.lines[0].itemId}`)
  const scale = page.getByRole('table', {
    name: 'On the scale of its subject',
  })
  await expect(scale.getByRole('row')).toHaveCount(2)
  await expect(scale.getByRole('row').nth(1)).toContainText(/-?\d\.\d\d/)

  // A school's coordinator reads the scale and cannot make one.
  const school = await as(browser, 'school-coordinator')
  const refused = await school.request.post('/api/calibrations', {
    data: { subject: 'mathematics' },
  })
  expect(refused.status()).toBe(403)
})

test('standards that can be told, and values that are reported for scores, stand with the cuts', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await openCuts(page)
  const mastery = page.getByRole('table', { name: 'Mastery by standard' })
  await expect(page.getByText(/^\d+ of \d+ standards have 3 points or more and can be told\./)).toBeVisible()
  await expect(mastery.getByRole('row', { name: /M6\.EX\.3/ })).toContainText('too few points: nothing is told of it')
  await page.getByRole('combobox', { name: 'Set for mastery by standard' }).selectOption({ label: 'not told' })
  await expect(mastery).toHaveCount(0)
  await page.getByRole('combobox', { name: 'Set for mastery by standard' }).selectOption({ label: 'Calder mastery by standard (for any)' })
  await expect(mastery).toBeVisible()

  // A range begins where the one before ends; what is left over is refused at its row and stays typed.
  await page.getByText('Reported values').first().click()
  await page.getByRole('button', { name: 'Add a range' }).click()
  await page.getByLabel('Last score of range 1').fill('13.6')
  await page.getByLabel('Value of range 1').fill('1')
  await page.getByRole('button', { name: 'Add a range' }).click()
  await page.getByLabel('Last score of range 2').fill('20')
  await page.getByLabel('Value of range 2').fill('2')
  await page.getByRole('button', { name: 'Save changes' }).click()
  const ranges = page.getByRole('list', { name: 'Reported values' }).getByRole('listitem')
  await expect(ranges.nth(1).getByRole('alert')).toContainText('The scores from 20.2 to 32 are in no range.')
  await page.getByLabel('Last score of range 2').fill('32')
  await page.getByRole('button', { name: 'Save changes' }).click()
  await expect(page.getByRole('button', { name: 'Save changes' })).toHaveCount(0)
  await page.reload()
  await expect(ranges.nth(1)).toContainText('13.8')
  await expect(page.getByLabel('Value of range 2')).toHaveValue('2')
})

test('results say how many have mastered which standard', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await page.goto('/results')
  await page.getByRole('link', { name: 'Grade 6 mathematics, fall benchmark' }).first().click()
  const mastery = page.getByRole('table', { name: 'Mastery by standard' })
  const strand = mastery.getByRole('row', { name: /M6\.RR Ratio and rate/ })
  await expect(strand.getByRole('img')).toHaveAccessibleName(/^Not yet \d+, Nearly \d+, Met \d+$/)
  await expect(strand.getByRole('cell').last()).toHaveText(/^\d+%$/)
  await expect(page.getByText(/Not told: \d+ standards with fewer than 3 points/)).toBeVisible()
})

test('a school opens into its sections, and another set stands beside the cuts', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await openCuts(page)
  const schools = page.getByRole('table', { name: 'Expected by school' })
  const first = schools.getByRole('button').first()
  const students = Number(await schools.getByRole('row').nth(1).getByRole('cell').nth(1).textContent())
  await first.press('Enter')
  await expect(first).toHaveAttribute('aria-expanded', 'true')
  const sections = schools.getByRole('row', { name: /6-[A-Z] Mathematics/ })
  await expect(sections.first()).toBeVisible()
  const counts = await sections.evaluateAll((rows) => rows.map((r) => Number(r.cells[1].textContent)))
  expect(counts.reduce((a, b) => a + b, 0)).toBe(students)
  await first.press('Enter')
  await expect(sections).toHaveCount(0)

  await page.getByRole('combobox', { name: 'Another set' }).selectOption({ label: 'Calder reading 3–5' })
  const beside = page.getByRole('table', { name: 'With the cuts of Calder reading 3–5' })
  await expect(beside.getByRole('row', { name: /^On course/ })).toContainText('20.8')
  await expect(beside.getByRole('row', { name: /^On course/ })).toContainText(/\d+\.\d%/)
})

test('a form has a scale by a table that holds all its scores, and a cut may be typed on it', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await openCuts(page)
  await page.getByRole('combobox', { name: 'Table of scale scores' }).selectOption({ label: 'Winter benchmark, grade 6, 2026–27' })
  const scale = table(page).getByRole('textbox', { name: 'Cut of On course, scale score' })
  await scale.fill('660')
  await scale.press('Enter')
  await expect(table(page).getByRole('textbox', { name: 'Cut of On course, points' })).not.toHaveValue('20.2')
  const kept = page.waitForResponse((r) => r.request().method() === 'PUT' && r.url().endsWith('/cuts'))
  await page.getByRole('button', { name: 'Use these cuts' }).click()
  expect((await kept).status()).toBe(200)
  await page.reload()
  await expect(scale).toHaveValue('660')
  await page.getByRole('button', { name: 'Use the set’s cuts' }).click()
  await page.getByRole('combobox', { name: 'Table of scale scores' }).selectOption({ label: 'no other scale' })
  await expect(scale).toHaveCount(0)
})
