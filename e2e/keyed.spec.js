import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { as, asPerson, begin, giveOut, leave, shut } from './people.js'
import { pdf } from './pdf.js'

// A test that exists on paper: uploaded, keyed at the speed of typing, sealed, taken.
test.afterEach(leave)

const mark = String(Date.now()).slice(-6)
const pages = [
  ['Tide and ferry quiz', '', '1  A ferry leaves every 25 minutes. How many leave in 5 hours?', 'A 10   B 12   C 15   D 25'],
  ['2  The tide rises 0.4 m an hour. How far in 3 hours?', 'F 0.7 m   G 1.2 m   H 3.4 m   J 12 m'],
]
const document = { name: 'tide-quiz.pdf', mimeType: 'application/pdf', buffer: pdf(pages) }

async function start(page, title) {
  await page.goto('/assessments')
  await page.getByRole('button', { name: 'Start an assessment' }).click()
  await page.getByRole('radio', { name: 'From a document' }).check()
  await page.getByLabel('Title', { exact: true }).fill(title)
  await page.getByRole('checkbox', { name: '6', exact: true }).check()
  await page.getByRole('button', { name: 'Start', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Key' })).toBeVisible()
}

test('a document is refused with its reason, then keyed by keys alone from upload to seal', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await start(page, `Tide quiz ${mark}`)
  const upload = page.getByLabel('PDF of the test')
  await upload.setInputFiles({ name: 'notes.pdf', mimeType: 'application/pdf', buffer: Buffer.from('just words') })
  await expect(page.getByText('notes.pdf is not a PDF document.')).toBeVisible()
  await upload.setInputFiles(document)
  await expect(page.getByRole('region', { name: 'tide-quiz.pdf' })).toBeVisible()
  await expect(page.locator('canvas').first()).toBeVisible()
  await expect(page.getByText(/Page 1\. .*ferry leaves every 25 minutes/)).toBeAttached()

  // From here on the keyboard alone.
  await page.getByLabel('How many, block 1').focus()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('48')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Tab')
  await page.keyboard.type('F–J')
  await page.keyboard.press('Enter')
  const rows = page.getByRole('table', { name: 'Key' }).locator('tbody tr')
  await expect(rows).toHaveCount(48)
  await expect(page.getByLabel(/^Key of 1, one of A, B, C, D$/)).toBeFocused()
  const began = Date.now()
  for (let i = 0; i < 48; i++) await page.keyboard.press(i % 2 ? 'g' : 'b')
  await expect(rows.nth(0).locator('input').first()).toHaveValue('B')
  await expect(rows.nth(47).locator('input').first()).toHaveValue('G')

  await page.getByLabel('Add a standard to the short list').focus()
  for (const code of ['M6.RR', 'M6.NP']) {
    await page.keyboard.type(code)
    await page.keyboard.press('Enter')
  }
  await page.getByLabel('Standard of 1', { exact: true }).focus()
  for (let i = 0; i < 48; i++) await page.keyboard.press(i < 30 ? '1' : '2')
  await expect(rows.nth(47).getByLabel('Standard of 48', { exact: true })).toHaveValue('M6.NP')
  expect(Date.now() - began, 'a machine that types takes seconds; a person has three minutes').toBeLessThan(60_000)

  // A wrong press says so and changes nothing; the row above fills this one.
  await page.getByLabel(/^Key of 2, /).focus()
  await page.keyboard.press('x')
  await expect(page.getByRole('status').filter({ hasText: 'x is not one of F, G, H, J' })).toBeAttached()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Points of 2', { exact: true })).toBeFocused()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('2')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Control+d')
  await expect(page.getByLabel('Points of 3', { exact: true })).toHaveValue('2')
  await expect(page.getByText(/48 questions, whole/)).toBeVisible()
  await page.reload()
  await expect(rows.nth(47).locator('input').first()).toHaveValue('G')
  await expect(page.getByLabel('Points of 2', { exact: true })).toHaveValue('2')
  await accessible(page)

  await page.getByRole('link', { name: 'Lines', exact: true }).last().focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Lines' })).toBeVisible()
  await page.getByRole('button', { name: 'Seal' }).focus()
  await page.keyboard.press('Enter')
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('button', { name: /^Seal/ }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByText(/sealed/).first()).toBeVisible()
})

test('a key is pasted, finished later, and the state says what is missing', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await start(page, `Tide quiz, later ${mark}`)
  await page.getByLabel('PDF of the test').setInputFiles(document)
  await page.getByLabel('How many, block 1').fill('5')
  await page.getByRole('button', { name: 'Add a block' }).click()
  await page.getByLabel('How many, block 2').fill('1')
  await page.getByLabel('Kind, block 2').selectOption('number')
  await page.getByRole('button', { name: 'Add 6 questions' }).click()
  const first = page.getByLabel(/^Key of 1, /)
  await first.evaluate((cell) => {
    const data = new DataTransfer()
    data.setData('text/plain', 'A\nX\nC\nD\n')
    cell.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  })
  await expect(page.getByRole('alert').filter({ hasText: '2: X' })).toBeVisible()
  await expect(page.getByText(/6 questions, 3 without a key, 6 without a standard/)).toBeVisible()
  await expect(page.getByRole('navigation', { name: 'Parts' }).getByText('6 lines, 3 incomplete')).toBeVisible()

  // An extended answer is read by a rubric, which is written here too.
  await page.getByLabel('How many, block 1').fill('1')
  await page.getByLabel('Kind, block 1').selectOption('extended-written')
  await page.getByRole('button', { name: 'Add 1 question' }).click()
  await expect(page.getByText(/7 questions, 4 without a key/)).toBeVisible()
  await page.getByLabel(/^How 7 is read/).focus()
  await page.keyboard.press('Enter')
  const rubric = page.getByRole('complementary', { name: 'Question 7: how it is read' })
  await rubric.getByRole('button', { name: 'Add a trait' }).click()
  await rubric.getByLabel('Trait', { exact: true }).fill('Reasons')
  for (const [k, words] of ['all given', 'some given', 'none'].entries()) await rubric.getByLabel(new RegExp(`^Level ${k + 1} of`)).fill(words)
  await page.keyboard.press('Escape')
  await expect(page.getByLabel(/^How 7 is read/)).toHaveValue('by rubric')
  await expect(page.getByText(/7 questions, 3 without a key/)).toBeVisible()
  await expect(page.getByRole('navigation', { name: 'Parts' }).getByText('7 lines, 3 incomplete')).toBeVisible()

  await page.getByRole('link', { name: 'Lines', exact: true }).last().click()
  await page.getByRole('button', { name: 'Seal' }).click()
  await expect(page.getByRole('dialog')).toContainText('Line 2: there is no key')
})

test('a student reads the document beside the answers, also on a small screen', async ({ browser }) => {
  const coordinator = await as(browser, 'district-coordinator')
  await start(coordinator, `Tide quiz, taken ${mark}`)
  await coordinator.getByLabel('PDF of the test').setInputFiles(document)
  await coordinator.getByLabel('How many, block 1').fill('2')
  await coordinator.getByLabel('Labels of even questions, block 1').fill('F–J')
  await coordinator.getByRole('button', { name: 'Add 2 questions' }).click()
  await coordinator.getByLabel(/^Key of 1, /).focus()
  await coordinator.keyboard.type('bg')
  await expect(coordinator.getByText(/2 questions, 2 without a standard/)).toBeVisible()
  const id = Number(new URL(coordinator.url()).pathname.split('/')[2])
  await expect.poll(async () => (await (await coordinator.request.get(`/api/assessments/${id}`)).json()).faults.length).toBe(0)
  const { sitting, room } = await giveOut(coordinator, id)

  const student = await asPerson(browser, room.seats[0].studentId, { viewport: { width: 900, height: 760 } })
  await student.goto(`/desk`)
  await student.getByRole('listitem').filter({ hasText: `taken ${mark}` }).getByRole('button').click()
  await begin(student)
  await expect(student.locator('canvas').first()).toBeVisible()
  const answers = student.getByRole('region', { name: 'Answers' })
  await answers.getByRole('radio', { name: 'B', exact: true }).check()
  await answers.getByRole('radio', { name: 'G', exact: true }).check()
  await expect(student.getByText('2 of 2 answered')).toBeVisible()
  await student.setViewportSize({ width: 390, height: 760 })
  await expect(student.locator('canvas').first()).toBeInViewport()
  await expect(answers.getByRole('radio', { name: 'G', exact: true })).toBeChecked()
  await accessible(student)
  await student.getByRole('button', { name: 'Look over and hand in' }).click()
  await student.getByRole('button', { name: 'Hand in', exact: true }).click()
  await expect(student.getByRole('heading', { name: 'Handed in' })).toBeVisible()
  const matrix = await (await coordinator.request.get(`/api/results/${sitting.distributionId}/matrix`)).json()
  expect(matrix.rows[0].raw, 'both are right by the key').toBe(2)
  await shut(coordinator, sitting)
})
