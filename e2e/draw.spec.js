import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { readFile } from 'node:fs/promises'
import { pressBy } from './keys.js'
import { as, asPerson, begin, everyone, everySection, leave, shut, wallClock } from './people.js'

// From a need to lines: each way to start, a draw that can be met and one that cannot.
test.afterEach(leave)

const mark = String(Date.now()).slice(-6)
const part = (page, name) => page.getByRole('navigation', { name: 'Parts' }).getByRole('link', { name: new RegExp(`^${name}`) })

async function start(page, title, grade, way = 'Blank') {
  await page.goto('/assessments')
  await page.getByRole('button', { name: 'Start an assessment' }).click()
  await page.getByRole('radio', { name: way }).check()
  await page.getByLabel('Title', { exact: true }).fill(title)
  await page.getByRole('checkbox', { name: grade, exact: true }).check()
  await page.getByRole('button', { name: 'Start', exact: true }).click()
}

/** Pastes into the cell that has the focus, as from a spreadsheet. */
function paste(cell, text) {
  return cell.evaluate((element, words) => {
    const data = new DataTransfer()
    data.setData('text/plain', words)
    element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  }, text)
}

test('a blueprint is pasted from a spreadsheet, and a draw fills it', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await start(page, `Grade 6 October ${mark}`, '6')
  await page.getByRole('button', { name: 'Add a row', exact: true }).first().click()
  const first = page.getByRole('combobox', { name: 'Standards, with all below, row 1' })
  await paste(first, 'M6.RR\tsingle choice\t\t\t\t\t3\tRatio and rate\nM6\t\t1-2\tmedium\t\t\t4–5\tMiddling, not deep\nM6.FS\t\t\t\t\t\t2 points\tFigures\n')
  await expect(part(page, 'Blueprint')).toContainText('7 items, 3 rows')
  const table = page.getByRole('table', { name: 'Blueprint rows' })
  await expect(table.getByRole('row').nth(1)).toContainText('short 3')

  // A word that cannot be read is said beside its row, and waits in the browser.
  const depth = page.getByRole('textbox', { name: 'Depth, row 2' })
  await depth.fill('7')
  await expect(page.getByRole('status').filter({ hasText: 'Row 2.' })).toContainText('Depths are 1 to 4')
  await page.reload()
  await expect(depth).toHaveValue('7')
  await depth.fill('1–2')
  await expect(page.getByRole('status').filter({ hasText: 'Row 2.' })).toHaveCount(0)

  await page.getByRole('button', { name: 'Draw items' }).click()
  const panel = page.getByRole('complementary', { name: 'Draw items' })
  await panel.getByText('Difficulty, passages, keys, forms').click()
  await panel.getByLabel('Mean difficulty').fill('.6')
  await panel.getByLabel('within ±').fill('.03')
  await panel.getByLabel('Keys differ by at most').fill('2')
  await panel.getByRole('button', { name: 'Draw', exact: true }).click()
  await expect(panel.getByText('Proven: there is no better draw.')).toBeVisible()
  await expect(panel.getByRole('row', { name: /Difficulties outside .60 ± .03/ })).toContainText('0.000')
  await accessible(page)
  await panel.getByRole('button', { name: /^Place \d+ items/ }).click()
  await expect(panel).toHaveCount(0)
  await expect(table.locator('tfoot')).toContainText('even')
  await part(page, 'Lines').click()
  await expect(page.getByRole('table', { name: 'Balance' }).locator('tfoot')).toContainText('even')

  // Several lines at once: marked by key and by mouse, moved, weighed, and all of it taken back.
  const rows = page.getByRole('table', { name: 'Lines' }).locator('tbody tr')
  const stem = (i) => rows.nth(i).locator('td').nth(2).getAttribute('title')
  const [one, third] = [await stem(0), await stem(2)]
  await rows.nth(0).focus()
  await page.keyboard.press('m')
  await rows.nth(2).locator('td').nth(1).click()
  const bar = page.getByRole('group', { name: 'Marked lines' })
  await expect(bar).toContainText('2 lines marked')
  await bar.getByLabel('points each').fill('2')
  await bar.getByRole('button', { name: 'Set' }).click()
  await expect(page.getByLabel('Points of line 3')).toHaveValue('2')
  const last = await rows.count()
  await bar.getByLabel('before line').fill(String(last + 1))
  await bar.getByRole('button', { name: 'Move', exact: true }).click()
  await expect(rows.nth(last - 1).locator('td').nth(2)).toHaveAttribute('title', third)
  expect(await stem(last - 2)).toBe(one)
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo' }).click()
  await expect(rows.nth(0).locator('td').nth(2)).toHaveAttribute('title', one)
  await expect(page.getByLabel('Points of line 3')).toHaveValue('1')
  await bar.getByRole('button', { name: 'none' }).click()

  // The nearest equal of a line is offered with its reason, and undo brings the line back.
  const lines = page.getByRole('table', { name: 'Lines' }).locator('tbody tr')
  const before = await lines.first().locator('td').nth(2).getAttribute('title')
  await lines.first().click()
  await page.getByText('Swap for an equal item').click()
  const offers = page.getByRole('complementary', { name: 'Line 1' }).getByRole('listitem')
  await expect(offers.first()).toContainText('same row')
  await offers.first().getByRole('button', { name: /^Swap for/ }).click()
  await expect(lines.first().locator('td').nth(2)).not.toHaveAttribute('title', before)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(lines.first().locator('td').nth(2)).toHaveAttribute('title', before)
})

test('a draw that cannot be met names the rows, the numbers and what they fight over', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await start(page, `Too much ${mark}`, '6')
  await page.getByRole('button', { name: 'Add a row', exact: true }).first().click()
  const first = page.getByRole('combobox', { name: 'Standards, with all below, row 1' })
  await expect(page.getByRole('table', { name: 'Blueprint rows' })).toBeVisible()
  await paste(first, 'M6.RR.1\t\t\t\t\t\t1\tOne\n')
  await expect(part(page, 'Blueprint')).toContainText('1 item')
  const counted = page.getByRole('table', { name: 'Blueprint rows' }).locator('tbody tr td.double[aria-busy=false]').first()
  await expect(counted).toHaveText(/^\d+$/)
  const pool = Number(await counted.textContent())
  expect(pool).toBeGreaterThan(2)
  await paste(first, `M6.RR.1\t\t\t\t\t\t${pool}\tAll of it\nM6.RR.1\t\t\t\t\t\t2\tAnd two more\n`)
  await expect(part(page, 'Blueprint')).toContainText(`${pool + 2} items, 2 rows`)
  await pressBy(page, page.getByRole('button', { name: 'Draw items' }))
  const panel = page.getByRole('complementary', { name: 'Draw items' })
  await pressBy(page, panel.getByRole('button', { name: 'Draw', exact: true }))
  await expect(panel.getByText('This cannot be met.')).toBeVisible()
  await expect(panel.getByText(/row 1 \(All of it\) needs/), 'near copies come once').toContainText(`${pool}; there`)
  await pressBy(page, panel.getByRole('button', { name: 'Draw with near copies' }))
  await expect(panel.getByText(/need together/)).toContainText(`row 1 (All of it), row 2 (And two more) need together ${pool + 2}; there are ${pool}.`)
  await expect(panel.getByText('More than one row wants')).toContainText('M6-RR')
  await expect(panel.getByRole('button', { name: /^Place/ })).toHaveCount(0)
})

test('an assessment starts from a draw that is asked for in a sentence', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await start(page, `A sentence ${mark}`, '6', 'From a draw')
  const panel = page.getByRole('complementary', { name: 'Draw items' })
  await panel.getByLabel('How many items').fill('6')
  await panel.getByLabel(/Evenly over these standards/).fill('M6.RR, M6.EX')
  await panel.getByRole('button', { name: 'Ask for kinds' }).click()
  await panel.getByLabel('How many of kind 1').fill('4')
  await panel.getByRole('button', { name: 'Add another kind' }).click()
  await panel.getByLabel('How many of kind 2').fill('2')
  await panel.getByRole('combobox', { name: 'Kind 2', exact: true }).selectOption('number')
  await panel.getByRole('radio', { name: 'At random' }).check()
  await panel.getByLabel('Seed').fill('26')
  await panel.getByRole('button', { name: 'Draw', exact: true }).click()
  await expect(panel.getByText('Drawn at random')).toBeVisible()
  const drawn = panel.getByRole('table', { name: 'Items drawn' }).locator('tbody tr')
  await expect(drawn).toHaveCount(6)
  const once = await drawn.allTextContents()
  await panel.getByRole('button', { name: 'Draw again' }).click()
  await expect(drawn).toHaveCount(6)
  expect(await drawn.allTextContents(), 'the same seed draws the same').toEqual(once)
  await panel.getByRole('button', { name: 'Place 6 items' }).click()
  await expect(page.getByRole('table', { name: 'Lines' }).locator('tbody tr')).toHaveCount(6)
})

test('an assessment starts from a copy, without its dates', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await page.goto('/assessments')
  await page.getByRole('button', { name: 'Start an assessment' }).click()
  await page.getByRole('radio', { name: 'From a copy' }).check()
  await expect(page.getByText('Its dates do not come along: set them again.')).toBeVisible()
  await page.getByRole('radio', { name: /Grade 6 mathematics, fall benchmark/ }).check()
  await expect(page.getByLabel('Title of the copy')).toHaveValue(/Grade 6 mathematics, fall benchmark, version \d/)
  await page.getByRole('button', { name: 'Copy', exact: true }).click()
  await expect(page.getByText(/A copy of/)).toContainText('Grade 6 mathematics, fall benchmark')
  await expect(part(page, 'Lines')).toContainText('28 lines')
  await expect(part(page, 'Distribution')).toContainText('not begun')
})

test('twin forms are drawn with nothing in common, and are given side by side in one room', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await start(page, `Twins ${mark}`, '6')
  await page.getByRole('button', { name: 'Add a row', exact: true }).first().click()
  await paste(page.getByRole('combobox', { name: 'Standards, with all below, row 1' }), 'M6.RR\t\t\t\t\t\t4\tRatio\nM6.EX\t\t\t\t\t\t3\tExpressions\n')
  await expect(part(page, 'Blueprint')).toContainText('7 items')
  await page.getByRole('button', { name: 'Draw items' }).click()
  const panel = page.getByRole('complementary', { name: 'Draw items' })
  await panel.getByText('Difficulty, passages, keys, forms').click()
  await panel.getByRole('combobox', { name: /^Forms/ }).selectOption('2')
  await panel.getByLabel('Mean difficulty').fill('.6')
  await panel.getByRole('button', { name: 'Draw', exact: true }).click()
  await expect(panel.getByRole('group', { name: 'Forms' })).toContainText('Form B: 7 items', { timeout: 20_000 })
  await expect(panel.getByRole('row', { name: /Expected scores of the forms differ by/ })).toBeVisible()
  await panel.getByRole('button', { name: /^Place 7 items/ }).click()
  await expect(panel).toHaveCount(0)
  const forms = page.getByRole('navigation', { name: 'Forms' })
  await expect(forms.getByRole('link')).toHaveCount(2)
  await forms.getByRole('link', { name: 'Form B' }).click()
  await expect(part(page, 'Lines')).toContainText('7 lines')

  // Both go out over the seats of a section, by keys.
  const [b] = page.url().match(/(?<=assessments.)\d+/)
  const sheet = await (await page.request.get(`/api/assessments/${b}`)).json()
  const a = sheet.forms.find((f) => f.letter === 'A').id
  for (const id of [a, b]) {
    const { version } = await (await page.request.get(`/api/assessments/${id}`)).json()
    expect((await page.request.post(`/api/assessments/${id}/seal`, { headers: { 'If-Match': String(version) } })).status()).toBe(200)
  }
  const { candidates, version } = await (await page.request.get(`/api/assessments/${a}/distribution`)).json()
  const section = candidates[1]
  const chosen = await page.request.put(`/api/assessments/${a}/distribution`, {
    headers: { 'If-Match': String(version) },
    data: {
      entries: [{ ...everySection, sections: [section.id] }],
      follow: true,
      waves: [{ ...everyone, opens: await wallClock(page, -24), closes: await wallClock(page, 96) }],
    },
  })
  expect(chosen.status(), await chosen.text()).toBe(200)
  await page.goto(`/assessments/${a}/distribution`)
  await pressBy(page, page.getByRole('radio', { name: 'Form A alone' }), 'ArrowDown')
  await expect(page.getByRole('radio', { name: /^One after the other/ })).toBeChecked()
  await expect(page.getByRole('img', { name: /: A B A B/ })).toBeVisible()
  await expect(page.getByText('Saved.', { exact: true })).toBeVisible()
  await accessible(page)
  await pressBy(page, page.getByRole('button', { name: 'Review' }))
  for (const why of await page.getByLabel(/Why send it anyway/).all()) await why.fill('for the test')
  await pressBy(page, page.getByRole('button', { name: /^Send to \d+ students$/ }))
  await expect(page).toHaveURL(/\/rooms$/)
  const { sittings } = await (await page.request.get(`/api/assessments/${b}`)).json()
  expect(sittings, 'one room for both forms').toHaveLength(1)
  await page.goto(`/rooms/${sittings[0].id}`)
  await pressBy(page, page.getByRole('button', { name: /^Open the door/ }))
  const seats = (await (await page.request.get(`/api/sittings/${sittings[0].id}`)).json()).seats
  for (const seat of seats.slice(0, 2)) {
    const student = await asPerson(browser, seat.studentId)
    await student.goto(`/desk/${seat.sittingId}`)
    await begin(student)
    await expect(student.locator('.item')).toBeVisible()
    await expect(page.getByRole('row', { name: seat.name })).toContainText(new RegExp(`${seat.form}\\s*working`))
    await student.context().close()
  }
  expect(new Set(seats.slice(0, 2).map((s) => s.form)).size).toBe(2)
  await shut(page, sittings[0])
})

test('an assessment is tried as a student gets it, and printed with its key', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await page.goto('/assessments')
  await page.getByRole('link', { name: 'Grade 5 reading, winter benchmark', exact: true }).click()
  await page.getByRole('link', { name: 'Try it' }).click()
  await expect(page.getByRole('button', { name: 'Begin' })).toBeVisible()
  await page.evaluate(() => document.fonts.ready.then(() => true)) // letters that come late move the button
  await page.getByRole('button', { name: 'Begin' }).click()
  await expect(page.getByRole('heading', { name: 'Two Whistles: The Cannery at North Jetty' })).toBeVisible()
  await page.getByRole('radio').first().check({ force: true })
  await expect(page.getByText('Trying it: nothing is kept · 1 of 15 answered')).toBeVisible()
  // With the supports of a student: they stay from item to item and over a reload.
  await page.getByRole('combobox', { name: 'Print' }).selectOption('1.5')
  for (const contrast of ['light on dark', 'dark on yellow']) {
    await page.getByRole('combobox', { name: 'Contrast' }).selectOption(contrast)
    await accessible(page)
  }
  await expect(page.getByText('1 of 15 answered'), 'what was answered stays').toBeVisible()
  await page.getByRole('checkbox', { name: 'calculator throughout' }).check()
  await page.getByRole('button', { name: 'Next' }).click()
  await expect(page.getByRole('button', { name: 'Calculator' })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('combobox', { name: 'Contrast' })).toHaveValue('dark-on-yellow')
  expect(await page.locator('section.answer').evaluate((e) => getComputedStyle(e).zoom)).toBe('1.5')
  await page.getByRole('button', { name: 'Look over and hand in' }).click()
  await page.getByRole('button', { name: /^Hand in/ }).click()
  await expect(page.getByText('Nothing of your try was kept.')).toBeVisible()
  await page.getByRole('button', { name: 'Back to the assessment' }).click()

  await page.getByRole('link', { name: 'Print', exact: true }).click()
  const paper = page.getByRole('main')
  await expect(paper.getByRole('heading', { name: 'Two Whistles: The Cannery at North Jetty' })).toHaveCount(1)
  await expect(paper.locator('.line')).toHaveCount(15)
  await page.getByRole('combobox', { name: 'Size' }).selectOption('18')
  expect(await paper.evaluate((e) => getComputedStyle(e).fontSize)).toBe('24px')
  await expect(page.getByRole('checkbox', { name: 'two columns' })).toBeDisabled()
  await accessible(page)
  await page.getByRole('radio', { name: 'Key' }).check()
  await expect(paper.getByRole('row')).toHaveCount(16)
  await expect(paper.getByRole('row').nth(1)).toContainText('R5.IT.1')

  // The same for the print shop.
  const saved = async () => {
    const downloading = page.waitForEvent('download')
    await page.getByRole('button', { name: 'PDF for the print shop' }).click()
    const download = await downloading
    const file = await readFile(await download.path())
    expect(file.subarray(0, 5).toString()).toBe('%PDF-')
    return download.suggestedFilename()
  }
  expect(await saved()).toBe('Grade 5 reading, winter benchmark, key.pdf')
  await page.getByRole('radio', { name: 'Booklet' }).check()
  expect(await saved()).toBe('Grade 5 reading, winter benchmark, booklet.pdf')
})
