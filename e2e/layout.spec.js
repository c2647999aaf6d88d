import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { as, asPerson, begin, giveOut, leave, shut } from './people.js'

// Parts with directions and a calculator, and pools of which each student gets some.
test.afterEach(leave)

const mark = String(Date.now()).slice(-6)

/** A copy of the demo's quiz in two parts, opened at its lines. */
async function openCopy(page, title) {
  const list = await (await page.request.get('/api/assessments?words=ratio%20quiz')).json()
  const quiz = list.find((a) => a.title === 'Grade 6 mathematics, ratio quiz')
  const made = await page.request.post(`/api/assessments/${quiz.id}/copy`, { data: { title: `${title} ${mark}` } })
  expect(made.status(), await made.text()).toBe(200)
  const { id } = await made.json()
  await page.goto(`/assessments/${id}/lines`)
  await expect(lines(page)).toHaveCount(12)
  return id
}
const lines = (page) => page.locator('tr.line')
const sheetOf = async (page, id) => (await page.request.get(`/api/assessments/${id}`)).json()
const stands = async (page, id) => (await sheetOf(page, id)).lines.map((l) => `${l.part}${l.pool}`).join(' ')

test('parts and pools are made, walked through by keys, and undone', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const id = await openCopy(page, 'By keys')
  await expect(page.getByText('4 of these 6 for each student')).toBeVisible()
  await expect(page.locator('tfoot').first()).toContainText('12 lines, 10 for each student')
  await expect(page.locator('tr.part').nth(1)).toContainText('10 points')

  // Line 6 walks into the pool and through it; line 5 into the part before.
  await lines(page).nth(5).focus()
  await page.keyboard.press('Alt+ArrowDown')
  await expect(page.getByText('4 of these 7 for each student')).toBeVisible()
  await page.keyboard.press('Alt+ArrowDown')
  await expect(lines(page).nth(6)).toBeFocused()
  await lines(page).nth(4).focus()
  await page.keyboard.press('Alt+ArrowUp')
  await expect.poll(() => stands(page, id)).toBe('10 10 10 10 10 21 21 21 21 21 21 21')
  // Line 6 came into the pool with one point, and the others are worth two.
  await page.getByRole('button', { name: 'Seal', exact: true }).click()
  await expect(page.getByRole('dialog')).toContainText('unlike points')
  await page.keyboard.press('Escape')
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => stands(page, id)).toBe('10 10 10 10 20 20 21 21 21 21 21 21')

  // Two marked lines become a pool.
  await lines(page).nth(0).focus()
  await page.keyboard.press('m')
  await lines(page).nth(2).focus()
  await page.keyboard.press('m')
  await page.getByLabel(/each student gets/).fill('1')
  await page.getByRole('button', { name: 'Make a pool' }).click()
  await expect(page.getByText('1 of these 2 for each student')).toBeVisible()
  await expect.poll(() => stands(page, id)).toBe('12 12 10 10 20 20 21 21 21 21 21 21')

  await page.getByRole('button', { name: 'Parts', exact: true }).click()
  const panel = page.getByRole('complementary', { name: 'Parts and pools' })
  const second = panel.getByRole('region', { name: 'Part 2' })
  await second.getByLabel('begins at line').fill('6')
  await second.getByLabel('begins at line').press('Tab')
  await expect.poll(() => stands(page, id)).toBe('12 12 10 10 10 20 21 21 21 21 21 21')
  await second.getByLabel('Title').fill('At the desk')
  await second.getByLabel('Title').press('Tab')
  await expect(page.locator('tr.part').nth(1)).toContainText('At the desk')
  await second.getByRole('textbox', { name: 'Directions of part 2' }).click()
  await page.keyboard.press('Control+End')
  await page.keyboard.type(' Show your work.')
  await panel.getByRole('button', { name: 'Close' }).click()
  await expect.poll(async () => (await sheetOf(page, id)).layout.parts[1].directions).toContain('now. Show your work.')
  await page.getByRole('button', { name: 'Parts', exact: true }).click()
  await accessible(page)
  await panel.getByRole('region', { name: 'Pool 2' }).getByRole('button', { name: 'Remove the pool' }).click()
  await expect.poll(() => stands(page, id)).toBe('10 10 10 10 10 20 21 21 21 21 21 21')
})

test('a line is dragged into a pool', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const id = await openCopy(page, 'Dragged')
  const items = lines(page).locator('td:nth-child(3)')
  const dragged = await items.first().textContent()
  const [from, to] = await Promise.all([0, 8].map((n) => lines(page).nth(n).locator('.grip').boundingBox()))
  await page.mouse.move(from.x + 8, from.y + 8)
  await page.mouse.down()
  await page.mouse.move(to.x + 8, to.y + 8, { steps: 18 })
  // On a busy machine the line comes after the pointer; it is let go where a person would, once it is there.
  let nudge = 0
  await expect
    .poll(async () => {
      await page.mouse.move(to.x + 8, to.y + 8 + (nudge = 1 - nudge))
      return (await items.allTextContents()).indexOf(dragged)
    })
    .toBeGreaterThan(6)
  await page.mouse.up()
  await expect.poll(async () => (await stands(page, id)).split(' ').filter((s) => s === '21').length).toBe(7)
})

test('a preview shows what a seed draws', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const id = await openCopy(page, 'Previewed')
  await page.getByRole('link', { name: 'Try it' }).click()
  await expect(page.getByText('0 of 10 answered')).toBeVisible()
  const drawn = async () => (await (await page.request.get(`/api/assessments/${id}/preview?seed=${await page.getByLabel('As drawn with seed').inputValue()}`)).json()).lines.map((l) => l.line).join()
  const first = await drawn()
  await page.getByRole('button', { name: 'Draw again' }).click()
  await expect(page.getByLabel('As drawn with seed')).toHaveValue('2')
  expect(await drawn()).not.toBe(first)
  await expect(page.getByRole('navigation', { name: 'Items' }).getByRole('button')).toHaveCount(10)
})

test('a student gets the part’s directions and calculator, and the lines that were drawn', async ({ browser }) => {
  const coordinator = await as(browser, 'district-coordinator')
  const id = await openCopy(coordinator, 'Taken')
  const { sitting, room } = await giveOut(coordinator, id)
  const student = await asPerson(browser, room.seats[0].studentId)
  await student.goto('/desk')
  await student.getByRole('listitem').filter({ hasText: `Taken ${mark}` }).getByRole('button').click()
  await begin(student)
  await expect(student.getByText('Put your calculator away.')).toBeVisible()
  await expect(student.getByRole('button', { name: 'Calculator' })).toHaveCount(0)
  await student.getByRole('button', { name: /^Item 5,/ }).click()
  await student.getByRole('button', { name: 'Calculator' }).click()
  const pad = student.getByRole('complementary', { name: 'Calculator' })
  await expect(pad).toBeVisible()
  await student.keyboard.type('2.4*5=')
  await expect(pad.getByRole('status')).toHaveText('12')
  await accessible(student)
  await student.keyboard.press('Escape')
  await expect(pad).toHaveCount(0)
  await student.getByRole('button', { name: /^Item 10,/ }).click()
  await expect(student.getByText('You may use the calculator')).toBeHidden()
  await student.getByText('With a calculator').click()
  await expect(student.getByText('You may use the calculator')).toBeVisible()
  await student.reload()
  await expect(student.getByRole('navigation', { name: 'Items' }).getByRole('button')).toHaveCount(10)
  await student.getByRole('button', { name: 'Look over and hand in' }).click()
  await student.getByRole('button', { name: /Hand in with 10/ }).click()
  await expect(student.getByRole('heading', { name: 'Handed in' })).toBeVisible()
  const matrix = await (await coordinator.request.get(`/api/results/${sitting.distributionId}/matrix`)).json()
  expect([...matrix.rows[0].outcomes].filter((o) => o === 'g'), 'two of the twelve were not drawn').toHaveLength(2)
  await coordinator.goto(`/results/${sitting.distributionId}/matrix`)
  await expect(coordinator.getByRole('button', { name: /not given, 0/ })).toHaveCount(2)
  await shut(coordinator, sitting)
})

test('a passage’s lines move as one, what is odd is said, and the draft is shelved, brought back and deleted', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const id = await openCopy(page, 'With a passage')
  const reading = (await (await page.request.get('/api/assessments?words=reading')).json()).find((a) => a.title.startsWith('Grade 5 reading'))
  const passage = (await sheetOf(page, reading.id)).lines.slice(0, 3).map((l) => l.itemId)
  const before = await sheetOf(page, id)
  const first = before.lines.slice(0, 2).map(({ itemId, versionId, points }) => ({ itemId, versionId, points }))
  const put = await page.request.put(`/api/assessments/${id}/lines`, {
    headers: { 'If-Match': String(before.version) },
    data: { lines: [...first, ...passage.map((itemId) => ({ itemId, points: 1 }))], layout: { parts: [], pools: [] } },
  })
  expect(put.status(), await put.text()).toBe(200)
  await page.reload()
  await expect(page.locator('tr.line.set')).toHaveCount(3)
  await expect(page.getByText('The item is for reading, grade 5.').first()).toBeVisible()
  await accessible(page)

  // Pressed fast, the set goes past both lines, and the line in hand is still the same.
  await lines(page).nth(3).focus()
  await page.keyboard.press('Alt+ArrowUp')
  await expect(lines(page).nth(2)).toBeFocused()
  await page.keyboard.press('Alt+ArrowUp')
  await page.keyboard.press('Alt+ArrowUp')
  const order = async () => (await sheetOf(page, id)).lines.map((l) => l.itemId)
  await expect.poll(order).toEqual([passage[1], passage[0], passage[2], first[0].itemId, first[1].itemId])
  await page.keyboard.press('Alt+Shift+ArrowDown')
  await page.keyboard.press('Alt+Shift+ArrowDown')
  await expect.poll(order).toEqual([passage[0], passage[2], passage[1], first[0].itemId, first[1].itemId])

  await page.getByRole('button', { name: 'Shelve it' }).click()
  await expect(page.getByRole('button', { name: 'Add items' })).toHaveCount(0)
  await page.goto('/assessments?state=shelved')
  await page.getByRole('link', { name: `With a passage ${mark}` }).click()
  await page.getByRole('button', { name: 'Bring it back' }).first().click()
  await expect(page.getByRole('button', { name: 'Add items' })).toBeVisible()
  await page.getByRole('button', { name: 'Delete draft' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Delete draft' }).click()
  await expect(page).toHaveURL(/\/assessments$/)
  expect((await page.request.get(`/api/assessments/${id}`)).status()).toBe(404)
})
