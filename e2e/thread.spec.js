import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { as, asPerson, begin, wallClock } from './people.js'

// The whole thread once: built, cut, sealed and sent by a coordinator, opened by a
// teacher, taken by a student on two devices, read by everyone.
test.describe.configure({ mode: 'serial' })

const mark = String(Date.now()).slice(-6) // a second try finds its own
const title = `Grade 7 mathematics, thread ${mark}`
let coordinator
let sheetPath
let section
let student

test.beforeAll(async ({ browser }) => {
  coordinator = await as(browser, 'district-coordinator')
})

test('a coordinator starts an assessment and plans it', async () => {
  const page = coordinator
  await page.goto('/assessments')
  await page.getByRole('button', { name: 'Start an assessment' }).click()
  await page.getByLabel('Title', { exact: true }).fill(title)
  await page.getByRole('button', { name: 'Start', exact: true }).click()
  await expect(page.getByText('Choose one grade at least.').first()).toBeVisible()
  await page.getByRole('checkbox', { name: '7', exact: true }).check()
  await page.getByRole('button', { name: 'Start', exact: true }).click()

  await expect(page.getByRole('heading', { name: 'Blueprint' })).toBeVisible()
  sheetPath = new URL(page.url()).pathname.replace('/blueprint', '')
  await page.getByRole('button', { name: 'Rows from…' }).first().click()
  const panel = page.getByRole('complementary', { name: 'Rows from…' })
  await panel.getByLabel('Level').selectOption('Strand')
  await panel.getByRole('button', { name: 'Select these' }).click()
  await panel.getByRole('button', { name: 'Make 5 rows' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the row, row 1' })).toHaveValue('Ratio and rate')
  for (const row of [1, 2, 3, 4, 5]) await page.getByRole('textbox', { name: `Plan, row ${row}` }).fill(row === 1 || row === 3 ? '2' : '0')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('navigation', { name: 'Parts' }).getByText('4 items, 5 rows')).toBeVisible()
  await accessible(page)
})

test('items are picked in the bank and placed', async () => {
  const page = coordinator
  await page.goto('/bank?grade=07&subject=mathematics')
  await page.getByLabel('Words in stem, choices and passage').fill('kilograms of clams')
  const rows = page.getByRole('table', { name: 'Items' }).locator('tbody tr')
  await expect(rows.first()).toContainText('kilograms of clams')
  await expect(page).toHaveURL(/words=kilograms/)
  await rows.nth(0).getByRole('button', { name: /in the tray$/ }).click()
  await rows.nth(1).focus()
  await page.keyboard.press('p')
  await expect(page.getByRole('button', { name: 'Tray, 2' })).toBeVisible()
  await page.getByRole('button', { name: 'Tray, 2' }).click()
  await page.getByRole('combobox', { name: 'Which draft' }).selectOption({ label: title })
  await page.getByRole('button', { name: 'Place 2 items' }).click()

  await expect(page.getByRole('heading', { name: 'Lines' })).toBeVisible()
  const balance = page.getByRole('table', { name: 'Balance' })
  await expect(balance.getByRole('row', { name: /Expressions/ })).toContainText('short 2')
  await page.getByRole('button', { name: 'Show items that fit' }).first().click()
  const place = page.getByRole('button', { name: /^Place M7-EX/ })
  await place.first().click()
  await expect(page.getByRole('table', { name: 'Lines' }).locator('tbody tr')).toHaveCount(3)
  await place.first().click()
  await expect(balance.getByRole('row', { name: /Items/ })).toContainText('even')
  await accessible(page)
  await page.getByRole('button', { name: 'Close', exact: true }).click()
})

test('lines are moved, weighted, taken off and brought back', async () => {
  const page = coordinator
  await page.goto(`${sheetPath}/lines`)
  const rows = page.getByRole('table', { name: 'Lines' }).locator('tbody tr')
  await expect(rows).toHaveCount(4)
  const third = await rows.nth(2).locator('td').nth(2).textContent()
  await rows.nth(2).focus()
  await page.keyboard.press('Alt+ArrowUp')
  await expect(rows.nth(1)).toContainText(third)
  await expect(rows.nth(1)).toBeFocused()
  await page.keyboard.press('Delete')
  await expect(rows).toHaveCount(3)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(rows).toHaveCount(4)
  await expect(rows.nth(1)).toContainText(third)
  await page.getByLabel('Points of line 1').fill('2')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('table', { name: 'Lines' }).locator('tfoot')).toContainText('5')

  const last = await rows.nth(3).locator('td').nth(2).textContent()
  await rows.nth(3).locator('.grip').dragTo(rows.nth(0).locator('.grip'), { targetPosition: { x: 8, y: 3 } })
  await expect(rows.nth(0)).toContainText(last)
  await expect(page.getByText(/ · saved /)).toBeVisible() // and not only shown
  await page.reload()
  await expect(rows.nth(0)).toContainText(last)
  await accessible(page)
})

test('bands are chosen and show percent and points side by side', async () => {
  const page = coordinator
  await page.goto(`${sheetPath}/cuts`)
  const sets = page.getByRole('combobox', { name: 'Band set' })
  await sets.selectOption({ label: await sets.getByRole('option', { name: /Calder mathematics.*for mathematics/ }).textContent() })
  const row = page.getByRole('table', { name: 'Cuts on this form' }).getByRole('row', { name: /On course/ })
  await expect(row.getByRole('textbox', { name: /percent/ })).toHaveValue('63')
  await expect(row.getByRole('textbox', { name: /points/ })).toHaveValue('4') // of 5
  await accessible(page)
})

test('it is sealed, aimed, reviewed and sent', async () => {
  const page = coordinator
  await page.goto(`${sheetPath}/lines`)
  await page.getByRole('button', { name: 'Seal', exact: true }).click()
  await page.getByRole('button', { name: 'Seal edition 1' }).click()
  await expect(page.getByText('4 lines, sealed')).toBeVisible()

  await page.goto(`${sheetPath}/settings`)
  await page.getByRole('row', { name: /Time limit/ }).click()
  await page.getByRole('spinbutton', { name: 'Time limit' }).fill('45')
  await page.getByRole('button', { name: 'Save changes' }).click()
  await expect(page.getByRole('row', { name: /Time limit/ })).toContainText('45 minutes')

  await page.goto(`${sheetPath}/distribution`)
  await page.getByRole('button', { name: 'Add an entry' }).click()
  const entry = page.getByRole('complementary', { name: 'Add an entry' })
  await entry.getByRole('combobox', { name: /^Who/ }).selectOption('sections')
  await entry.getByRole('checkbox', { name: '7-A Mathematics' }).first().check()
  await entry.getByRole('button', { name: 'Add the entry' }).click()
  const account = page.getByRole('table', { name: 'Whom it goes to' })
  await expect(account.getByRole('button', { name: /^7-A Mathematics/ })).toBeVisible()
  await expect(page.getByText('The window needs a first and a last time.')).toBeVisible()
  await page.getByRole('button', { name: 'The window', exact: true }).click()
  const wave = page.getByRole('complementary', { name: 'The wave' })
  await wave.getByLabel('Window begins').fill(await wallClock(page, -1))
  await wave.getByLabel('Window ends').fill(await wallClock(page, 48))
  await wave.getByRole('button', { name: 'Save the wave' }).click()
  await page.getByRole('button', { name: 'Add an entry' }).click()
  await entry.getByRole('radio', { name: 'It leaves these out' }).check()
  await entry.getByRole('combobox', { name: /^Who/ }).selectOption('students')
  await entry.getByRole('combobox', { name: /^Section/ }).selectOption({ label: (await account.getByRole('button', { name: /^7-A Mathematics/ }).textContent()).trim() })
  await entry.getByRole('list', { name: 'Students' }).getByRole('checkbox').first().check()
  await entry.getByRole('button', { name: 'Add the entry' }).click()
  await expect(account.getByRole('row', { name: /Goes to/ }).getByRole('cell', { name: '25', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Review' }).click()
  const send = page.getByRole('button', { name: 'Send to 25 students' })
  await expect(send).toBeDisabled()
  await expect(page.getByLabel(/The window has already begun/)).toBeVisible()
  await accessible(page)
  for (const reason of await page.locator('.caution input').all()) await reason.fill('Agreed this morning.')
  await send.click()
  await expect(page.getByRole('heading', { name: 'Rooms' })).toBeVisible()
  await expect(page.getByRole('table', { name: 'Sittings' })).toContainText('waiting')
})

test('the teacher opens the door', async ({ browser }) => {
  const sheet = await (await coordinator.request.get(`/api${sheetPath}`)).json()
  section = sheet.sittings[0]
  const room = await (await coordinator.request.get(`/api/sittings/${section.id}`)).json()
  student = room.seats[0].studentId
  const schools = await (await coordinator.request.get('/api/schools')).json()
  const school = schools.find((s) => s.name === section.school)
  const teacherName = (await (await coordinator.request.get(`/api/schools/${school.id}/sections`)).json()).find((s) => s.id === section.sectionId).teacher
  const waiting = await asPerson(browser, student)
  await waiting.goto('/desk')
  await expect(waiting.getByText('Waiting for your teacher to open the door.')).toBeVisible()

  const named = await (await coordinator.request.get(`/api/staff?words=${encodeURIComponent(teacherName)}`)).json()
  const teacher = named.find((p) => p.name === teacherName && p.where.includes(section.school))
  expect(teacher, `${teacherName} of ${section.school}`).toBeTruthy()
  const page = await asPerson(browser, teacher.id)
  await page.goto(`/rooms/${section.id}`)
  await page.getByRole('button', { name: /Open the door/ }).click()
  await expect(page.getByText('door open')).toBeVisible()
  await expect(waiting.getByRole('button', { name: /Start/ })).toBeVisible({ timeout: 2_000 })
})

test('a student works, reloads, goes on at another device and hands in', async ({ browser }) => {
  const page = await asPerson(browser, student)
  await page.goto('/desk')
  await page.getByRole('button', { name: /Start/ }).click()
  await begin(page)
  const strip = page.getByRole('navigation', { name: 'Items' })
  await expect(strip.getByRole('button')).toHaveCount(4)
  await answerShown(page)
  await page.getByRole('button', { name: 'Mark for later' }).click()
  await expect(page.getByText(/^Saved .* · 1 of 4 answered, 1 marked|^Saved .* · 1 of 4 answered · 1 marked/)).toBeVisible()
  await page.getByRole('button', { name: 'Next' }).click()
  await answerShown(page)
  await expect(page.getByText(/^Saved .* 2 of 4/)).toBeVisible()
  await page.reload()
  await expect(strip.getByRole('button', { name: 'Item 1, answered, marked for later' })).toBeVisible()
  await expect(strip.getByRole('button', { name: 'Item 2, answered, you are here' })).toBeVisible()

  const other = await asPerson(browser, student)
  await other.goto('/desk')
  await other.getByRole('button', { name: /Continue/ }).click()
  await expect(other.getByRole('heading', { name: /^3/ })).toBeVisible()
  await answerShown(other)
  await expect(other.getByText(/^Saved .* 3 of 4/)).toBeVisible()
  await other.getByRole('button', { name: 'Look over and hand in' }).click()
  await expect(other.getByText('One item is not answered.')).toBeVisible()
  await other.getByRole('button', { name: 'Hand in with 1 not answered' }).click()
  await expect(other.getByRole('heading', { name: 'Handed in' })).toBeVisible()

  await expect(page.getByRole('heading', { name: 'Handed in' }), 'the first device is told').toBeVisible({ timeout: 2_000 })
})

test('the teacher closes the door and nobody gets in any more', async ({ browser }) => {
  const page = coordinator
  await page.goto(`/rooms/${section.id}`)
  await page.getByRole('button', { name: 'Close the door' }).click()
  await expect(page.getByText('door closed')).toBeVisible()
  const room = await (await page.request.get(`/api/sittings/${section.id}`)).json()
  const late = await asPerson(browser, room.seats[1].studentId)
  await late.goto('/desk')
  await expect(late.getByText('Your teacher has closed the door. Your answers are saved.')).toBeVisible()
  await expect(late.getByRole('button', { name: /Start|Continue/ })).toHaveCount(0)
})

test('everyone reads the result down to its trail', async () => {
  const page = coordinator
  await page.goto(`/results/${section.distributionId}`)
  await expect(page.getByText('1 of 25 handed in')).toBeVisible()
  await page.getByRole('link', { name: 'Students × lines' }).click()
  await page.getByRole('button', { name: /where .* score comes from/ }).click()
  const trail = page.getByRole('complementary', { name: 'Trail of a score' })
  await expect(trail.getByText(/of 5 points/).first()).toBeVisible()
  await trail.getByRole('button', { name: 'Line 1, why' }).click()
  await expect(trail.getByText(/the key is|the keys are/).first()).toBeVisible()
  const csv = await (await page.request.get(await page.getByRole('link', { name: 'Export as CSV' }).getAttribute('href'))).text()
  expect(csv.split('\n')[0]).toContain('Family name,Given name,Number,School,Section,Raw,Percent,Band')

  await page.goto('/ledger')
  await page.getByLabel('Person, act or thing').fill(`sealed ${mark}`)
  await expect(page.getByRole('table', { name: 'Ledger entries' }).locator('tbody tr')).toHaveCount(1)
})

/** Answers whatever item is shown: the first choice, or a number. */
async function answerShown(page) {
  await expect(page.locator('.item')).toBeVisible()
  const choice = page.locator('.item label').first()
  if (await choice.count()) await choice.click()
  else await page.locator('.item input').fill('12')
}
