import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { strToU8, zipSync } from 'fflate'
import { pressBy } from './keys.js'
import { as, asPerson, begin, leave, startWork } from './people.js'

// What a morning brings: devices that change hands, doors that close on who is idle, a day that goes on.
test.afterEach(leave)

/** The sitting of the demo that is open, with the students who have not begun. */
async function openSitting(page) {
  const { sittings } = await (await page.request.get('/api/today')).json()
  for (const sitting of sittings.filter((s) => s.door === 'open')) {
    const room = await (await page.request.get(`/api/sittings/${sitting.id}`)).json()
    const working = room.seats.filter((s) => s.state === 'working')
    const waiting = room.seats.filter((s) => s.state === 'not begun')
    if (working.length > 1 && waiting.length) return { sitting, working, waiting }
  }
  throw new Error('the demo has no open room with students who work and students who have not begun')
}
const door = async (page, sitting, to) =>
  expect((await page.request.put(`/api/sittings/${sitting.id}/door`, { data: { door: to } })).status()).toBe(200)

test('a door that closes on a student who is idle is seen at once, and goes on with the time that is left', async ({ browser }) => {
  const coordinator = await as(browser, 'district-coordinator')
  const { sitting, working } = await openSitting(coordinator)
  const page = await asPerson(browser, working[0].studentId)
  const answers = []
  page.on('response', async (r) => {
    if (new URL(r.url()).pathname.endsWith('/attempt')) answers.push(await r.json().catch(() => ({})))
  })
  await page.goto(`/desk/${sitting.id}`)
  await expect(page.locator('.item')).toBeVisible()

  await door(coordinator, sitting, 'closed')
  await expect(page.getByText('Your teacher has closed the door. Your answers are saved.')).toBeVisible({ timeout: 2_000 })
  await expect(page.locator('.item')).toHaveCount(0)
  await page.reload()
  await expect(page.getByText('Your teacher has closed the door. Your answers are saved.')).toBeVisible()
  const shut = answers.at(-1)
  expect(shut.lines, 'behind a closed door nothing of the items is sent').toEqual([])
  await page.waitForTimeout(5_000)

  await door(coordinator, sitting, 'open')
  await expect(page.locator('.item')).toBeVisible({ timeout: 2_000 })
  await expect.poll(() => answers.at(-1).lines.length).toBeGreaterThan(0)
  // It runs again from when the door opened, which is a moment before the page asks.
  expect(shut.leftSeconds - answers.at(-1).leftSeconds, 'time stood still while the door was closed').toBeLessThan(5)
})

test('a device that changes hands says so, and begins nobody’s attempt by itself', async ({ browser }) => {
  const coordinator = await as(browser, 'district-coordinator')
  const { sitting, working, waiting } = await openSitting(coordinator)
  const first = await asPerson(browser, working[1].studentId)
  await first.goto(`/desk/${sitting.id}`)
  await expect(first.locator('.item')).toBeVisible()
  await expect(first.getByRole('banner')).toContainText(working[1].name.split(', ')[0])

  // In the same browser somebody else signs in at another tab.
  const answer = await first.context().request.post('/api/demo/session', { data: { personId: waiting[0].studentId } })
  expect(answer.status()).toBe(200)
  await first.getByRole('button', { name: 'Mark for later' }).click()
  await expect(first.getByText(/^Somebody else has signed in on this device/)).toBeVisible()
  await expect(first.getByText('Not saved: sign in again to send it')).toBeVisible()

  await first.reload()
  await expect(first.getByText(`This is the assessment of`)).toBeVisible()
  await expect(first.getByRole('main')).toContainText(waiting[0].name.split(', ')[0])
  const room = await (await coordinator.request.get(`/api/sittings/${sitting.id}`)).json()
  expect(room.seats.find((s) => s.studentId === waiting[0].studentId).state, 'a reload begins nothing').toBe('not begun')
  await begin(first)
  await expect(first.locator('.item')).toBeVisible()
})

test('who hands in without a network is handed in later, and can sign out where they are', async ({ browser }) => {
  const page = await as(browser, 'student')
  await startWork(page)
  await page.getByRole('button', { name: 'Look over and hand in' }).click()
  await page.context().setOffline(true)
  await page.getByRole('button', { name: /^Hand in/ }).click()
  await expect(page.getByText('Your work will be handed in by itself when you are.')).toBeVisible()
  await page.context().setOffline(false)
  await expect(page.getByRole('heading', { name: 'Handed in' })).toBeVisible()
  await page.getByRole('main').getByRole('button', { name: 'Sign out' }).click()
  await expect(page).toHaveURL(/signin/)
  expect((await (await page.request.get('/api/session')).json()).signedIn).toBe(false)
})

test('a page that is loaded again without a network goes on, and what came too late is decided by the teacher', async ({ browser }) => {
  const coordinator = await as(browser, 'district-coordinator')
  const { sitting, waiting } = await openSitting(coordinator)
  const student = waiting.at(-1)
  const page = await asPerson(browser, student.studentId)
  await page.goto(`/desk/${sitting.id}`)
  await begin(page)
  await expect(page.locator('.item')).toBeVisible()
  const mark = page.getByRole('button', { name: 'Mark for later' })
  await mark.click()
  await expect(page.getByText(/^Saved/)).toBeVisible()
  await expect
    .poll(() => page.evaluate(async () => (await caches.open('pine-ledger-page')).match('/desk').then((r) => !!r && !!navigator.serviceWorker.controller)))
    .toBe(true)
  await expect.poll(() => page.evaluate(async () => (await (await caches.open('pine-ledger-assets')).keys()).length)).toBeGreaterThan(5)

  await page.context().setOffline(true)
  await page.reload()
  await expect(page.locator('.item')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Marked for later', exact: true }), 'as it was left').toBeVisible()
  await page.locator('.item').getByRole('radio').first().check()
  await expect(page.getByText('will send when the network is back')).toBeVisible()

  // While the device is away, the work is handed in on another one.
  const other = await asPerson(browser, student.studentId)
  await other.goto(`/desk/${sitting.id}`)
  await expect(other.locator('.item')).toBeVisible()
  await expect(other.getByText('You have this open on another device too')).toBeVisible()
  await other.getByRole('button', { name: 'Look over and hand in' }).click()
  await other.getByRole('button', { name: /^Hand in/ }).click()
  await expect(other.getByRole('heading', { name: 'Handed in' })).toBeVisible()
  await page.context().setOffline(false)
  await expect(page.getByText('your teacher has it and decides whether it counts')).toBeVisible()

  await coordinator.goto(`/rooms/${sitting.id}`)
  await coordinator.getByRole('button', { name: 'Look at late answers' }).click()
  const panel = coordinator.getByRole('complementary', { name: 'Late answers' })
  await expect(panel.getByRole('table')).toContainText('in time')
  await accessible(coordinator)
  await panel.getByRole('button', { name: 'Leave out' }).click()
  await expect(panel.getByText('left out')).toBeVisible()
  await panel.getByRole('button', { name: 'Close' }).click()
  await coordinator.getByText('1 late answer left out.').getByRole('button', { name: 'Look at late answers' }).click() // it was left out too soon
  await panel.getByRole('button', { name: 'Count 1 answer' }).click()
  await expect(panel.getByText('counted')).toBeVisible()
  await expect(coordinator.getByRole('button', { name: 'Look at late answers' })).toHaveCount(0)
})

/** A class as the demo's roster calls it. */
function classOf({ school, grade, section }) {
  const schools = ['Heron Point', 'Saltgrass', 'North Jetty', 'Pilot House', 'Cannery Row', 'Gull Ledge']
  return `c-s-0${schools.findIndex((s) => school.startsWith(s)) + 1}-${grade}-home-${section.match(/-(\d)/)[1]}`
}

test('a substitute sees to a room for a day by a link, until it is taken back', async ({ browser }) => {
  const coordinator = await as(browser, 'district-coordinator')
  const { sitting } = await openSitting(coordinator)
  await coordinator.goto(`/rooms/${sitting.id}`)
  await pressBy(coordinator, coordinator.getByRole('button', { name: 'Substitute' }))
  const panel = coordinator.getByRole('complementary', { name: 'Substitute' })
  await panel.getByLabel('First and last name').fill('Dana')
  await coordinator.keyboard.press('Enter')
  await expect(panel.getByRole('alert')).toContainText('the first and the last name')
  await panel.getByLabel('First and last name').fill('Dana Reyes')
  await coordinator.keyboard.press('Enter')
  const link = await panel.getByLabel('The link of Dana Reyes').inputValue()

  const dana = await (await browser.newContext()).newPage()
  await dana.goto(link)
  await expect(dana.getByRole('heading', { name: 'Dana Reyes' })).toBeVisible()
  await accessible(dana)
  await dana.keyboard.press('Tab')
  await dana.keyboard.press('Enter')
  await expect(dana.getByRole('heading', { name: 'Today' })).toBeVisible()
  await dana.getByRole('button', { name: 'Pause' }).click()
  await expect(dana.getByText('paused', { exact: true })).toBeVisible()
  await dana.getByRole('button', { name: /Open/ }).click()
  await dana.goto('/bank')
  await expect(dana, 'the bank is not for substitutes').toHaveURL(/\/today$/)

  await expect(panel.getByText('has come', { exact: false })).toBeVisible({ timeout: 30_000 })
  await panel.getByRole('button', { name: 'Take the link back' }).click()
  await expect(panel.getByRole('button', { name: 'Take the link back' })).toHaveCount(0)
  await dana.reload()
  await expect(dana).toHaveURL(/signin/)
  await dana.goto(link)
  await expect(dana.getByRole('alert')).toContainText('This link is not good any more')
})

test('who joins a section late is given a seat by keys, and can begin', async ({ browser }) => {
  const coordinator = await as(browser, 'district-coordinator')
  const { sitting } = await openSitting(coordinator)
  const inClass = classOf(sitting)
  const files = {
    'manifest.csv': 'propertyName,value\noneroster.version,1.2\nfile.users,delta\nfile.roles,delta\nfile.enrollments,delta\n',
    'users.csv': 'sourcedId,status,dateLastModified,enabledUser,username,givenName,familyName,identifier,grades,password\nlate-1,active,,true,888001,Hugo,Costa,888001,05,4711\n',
    'roles.csv': `sourcedId,status,dateLastModified,userSourcedId,roleType,role,orgSourcedId\nr-late-1,active,,late-1,primary,student,${inClass.slice(2, 6)}\n`,
    'enrollments.csv': `sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role\ne-late-1,active,,${inClass},${inClass.slice(2, 6)},late-1,student\n`,
  }
  const zip = Buffer.from(zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)]))))
  const begun = await coordinator.request.post('/api/imports?kind=roster&file=late.zip', { data: zip, headers: { 'Content-Type': 'application/octet-stream' } })
  expect(begun.status(), await begun.text()).toBe(202)

  await coordinator.goto(`/rooms/${sitting.id}`)
  await expect(async () => {
    await coordinator.reload()
    await expect(coordinator.getByText('1 student joined this section after the assessment went out.')).toBeVisible({ timeout: 1_000 })
  }).toPass()
  await pressBy(coordinator, coordinator.getByRole('button', { name: 'Add to this room' }))
  await expect(coordinator.getByRole('row', { name: /Costa, Hugo.*not begun/ })).toBeVisible()
  await expect(coordinator.getByRole('heading', { level: 1 }), 'what was pressed is gone').toBeFocused()
  const { seats } = await (await coordinator.request.get(`/api/sittings/${sitting.id}`)).json()
  const student = await asPerson(browser, seats.find((s) => s.number === '888001').studentId)
  await student.goto(`/desk/${sitting.id}`)
  await begin(student)
  await expect(student.locator('.item')).toBeVisible()
})
