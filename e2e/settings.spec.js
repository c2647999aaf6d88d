import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { pressBy } from './keys.js'
import { startLockedBrowser } from './server.js'
import { as, asPerson, draft, giveOut, leave, setting, shut, wallClock } from './people.js'

// How an assessment is given: from a lock of the district to what a student meets.
test.afterEach(leave)

/** The right choices of an assessment's lines, by their words. */
async function keys(page, id) {
  const sheet = await (await page.request.get(`/api/assessments/${id}`)).json()
  const out = []
  for (const l of sheet.lines) {
    const item = await (await page.request.get(`/api/items/${l.itemId}`)).json()
    const place = item.shown.body.find((b) => b.interaction).interaction
    out.push(Object.fromEntries(place.choices.map((c) => [c.id === item.keys[place.response].correct[0] ? 'right' : 'wrong', c.id])))
  }
  return out
}
const choose = (page, value) => page.locator(`.item input[value="${value}"]`).check({ force: true })
async function answerAll(page, values) {
  for (const [i, value] of values.entries()) {
    await choose(page, value)
    if (i < values.length - 1) await page.getByRole('button', { name: 'Next' }).click()
  }
}
async function handIn(page) {
  await page.getByRole('button', { name: 'Look over and hand in' }).click()
  await page.getByRole('button', { name: /^Hand in/ }).click()
  await expect(page.getByRole('heading', { name: 'Handed in' })).toBeVisible()
}

test('a lock of the district holds down to the student, and its change is looked at first', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const id = await draft(page, 'Locked')
  await page.goto('/assessments/defaults')
  const hours = page.getByRole('row', { name: /Hours of the day/ })
  await pressBy(page, hours, 'ArrowDown')
  await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('row', { name: /Access code/ })).toBeFocused()
  await page.keyboard.press('Enter')
  const panel = page.getByRole('complementary', { name: 'Access code' })
  await panel.getByRole('radio', { name: 'asked at the door' }).check()
  await panel.getByLabel('Lock').selectOption({ label: 'Lock it; accommodations pass' })
  await pressBy(page, panel.getByRole('button', { name: 'Save changes' }), 'Enter')
  const look = page.getByRole('complementary', { name: 'What this would change' })
  await expect(look.getByRole('row', { name: /Locked/ })).toContainText('asked at the door')
  await pressBy(page, look.getByRole('button', { name: /Save, and change/ }), 'Enter')
  await expect(look).toBeHidden()
  await expect(page.getByRole('row', { name: /Access code/ })).toContainText('asked at the door')

  await page.goto(`/assessments/${id}/settings?setting=accessCode`)
  await expect(page.getByRole('complementary', { name: 'Access code' })).toContainText('locked it.')
  await expect(page.getByRole('list', { name: 'What each level says' })).toContainText('in force')
  await accessible(page)

  const { sitting, room } = await giveOut(page, id)
  await page.goto(`/rooms/${sitting.id}`)
  await expect(page.locator('.code strong')).toHaveText(room.code)
  const student = await asPerson(browser, room.seats[0].studentId)
  await student.goto(`/desk/${sitting.id}`)
  await student.getByLabel('Access code').fill('WRONG')
  await student.getByRole('button', { name: 'Begin' }).click()
  await expect(student.getByText('That is not the code.')).toBeVisible()
  await student.getByLabel('Access code').fill(room.code.toLowerCase())
  await student.getByRole('button', { name: 'Begin' }).click()
  await expect(student.locator('.item')).toBeVisible()
  await shut(page, sitting)
})

test('feedback is held until its day, and a change of the day takes effect at once', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const id = await draft(page, 'Held')
  for (const [key, value] of [['atHandIn', ['score']], ['later', ['right', 'key']], ['laterDate', await wallClock(page, 24)], ['laterWhen', 'date']])
    await setting(page, { assessment: id }, key, value)
  const { sitting, room } = await giveOut(page, id)
  const student = await asPerson(browser, room.seats[1].studentId)
  const seen = []
  student.on('response', async (r) => seen.push(r.url().includes('/api/my/') ? await r.text().catch(() => '') : ''))
  await student.goto(`/desk/${sitting.id}`)
  if (room.code) await student.getByLabel('Access code').fill(room.code)
  await student.getByRole('button', { name: 'Begin' }).click()
  await answerAll(student, (await keys(page, id)).map((k) => k.right))
  await handIn(student)
  await expect(student.getByText('4 of 4 points')).toBeVisible()
  await expect(student.getByText(/you will also see: which answers were right, the right answers/)).toBeVisible()
  expect(seen.join(''), 'no key before feedback allows it').not.toContain('"correct"')

  await setting(page, { assessment: id }, 'laterDate', await wallClock(page, -1))
  await student.reload()
  await expect(student.getByText('right', { exact: true })).toHaveCount(4)
  await expect(student.locator('.is-key')).toHaveCount(4)
  await accessible(student)
  await setting(page, { assessment: id }, 'laterDate', await wallClock(page, 24))
  await student.reload()
  await expect(student.getByText('4 of 4 points')).toBeVisible()
  await expect(student.locator('.is-key')).toHaveCount(0)
  await shut(page, sitting)
})

test('a retake asks only what was missed, and the rest is carried over', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const id = await draft(page, 'Again')
  for (const [key, value] of [['attempts', 2], ['retake', 'missed'], ['keep', 'last'], ['retakePenalty', 5], ['atHandIn', ['score']]])
    await setting(page, { assessment: id }, key, value)
  const { sitting, room } = await giveOut(page, id)
  const right = await keys(page, id)
  const student = await asPerson(browser, room.seats[2].studentId)
  await student.goto(`/desk/${sitting.id}`)
  await expect(student.getByText('You can take this up to 2 times.')).toBeVisible()
  if (room.code) await student.getByLabel('Access code').fill(room.code)
  await student.getByRole('button', { name: 'Begin' }).click()
  await answerAll(student, [right[0].right, right[1].wrong, right[2].right, right[3].wrong])
  await handIn(student)
  await expect(student.getByText('2 of 4 points')).toBeVisible()
  await student.getByRole('button', { name: 'Take it again (2 of 2)' }).click()
  if (room.code) await student.getByLabel('Access code').fill(room.code)
  await student.getByRole('button', { name: 'Begin' }).click()
  await expect(student.getByText('0 of 2 answered')).toBeVisible()
  await answerAll(student, [right[1].right, right[3].wrong])
  await handIn(student)
  // 3 of 4 right, less 5% of 4 points.
  await expect(student.getByText('2.8 of 4 points')).toBeVisible()
  await expect(student.getByText('0.2 points are taken off because it was a retake.')).toBeVisible()
  await shut(page, sitting)
})

test('late work is taken with its penalty', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const id = await draft(page, 'Late')
  for (const [key, value] of [['lateWork', 'penalty'], ['lateDays', 2], ['latePenalty', 25], ['atHandIn', ['score']]]) await setting(page, { assessment: id }, key, value)
  const { sitting, room } = await giveOut(page, id, await wallClock(page, 65 / 3600)) // the next whole minute
  const student = await asPerson(browser, room.seats[3].studentId)
  const ends = Date.parse(sitting.closesAt)
  await expect.poll(() => Date.now(), { timeout: 120_000, intervals: [1_000] }).toBeGreaterThan(ends)
  await student.goto(`/desk/${sitting.id}`)
  if (room.code) await student.getByLabel('Access code').fill(room.code)
  await student.getByRole('button', { name: 'Begin' }).click()
  await answerAll(student, (await keys(page, id)).map((k) => k.right))
  await handIn(student)
  await expect(student.getByText('3 of 4 points')).toBeVisible()
  await expect(student.getByText('1 point is taken off because it came late.')).toBeVisible()
  await shut(page, sitting)
})

test('on managed devices only: another device is told so, a locked browser gets in', async ({ browser, district }) => {
  const page = await as(browser, 'district-coordinator')
  const id = await draft(page, 'Managed')
  await setting(page, { assessment: id }, 'managedOnly', true)
  const { sitting, room } = await giveOut(page, id)
  const other = await asPerson(browser, room.seats[4].studentId)
  await other.goto(`/desk/${sitting.id}`)
  await expect(other.getByText('This opens only on a device of your school.')).toBeVisible()
  const locked = await startLockedBrowser(district.data, district.url)
  try {
    const student = await asPerson(browser, room.seats[4].studentId, { baseURL: locked.url })
    await student.goto('/launch')
    await expect(student.getByRole('link', { name: 'Open Pine Ledger' })).toBeVisible()
    await student.goto(`/desk/${sitting.id}`)
    if (room.code) await student.getByLabel('Access code').fill(room.code)
    await student.getByRole('button', { name: 'Begin' }).click()
    await expect(student.locator('.item')).toBeVisible()
    await other.reload()
    await expect(other.getByText('This opens only on a device of your school.')).toBeVisible()
  } finally {
    await locked.stop()
  }
  await shut(page, sitting)
})
