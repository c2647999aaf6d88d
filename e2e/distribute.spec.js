import { strToU8, zipSync } from 'fflate'
import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { pressBy } from './keys.js'
import { as, asPerson, draft, everyone, everySection, giveOut, startWork, wallClock } from './people.js'

// A district sends to many schools: whom as entries, when as waves, other dates later, and the way back.
/** A date so many weeks and days after this week's Monday, as a field of the browser takes it. */
function on(weeks, day) {
  const now = new Date()
  const back = (now.getDay() + 6) % 7
  return new Date(now.getFullYear(), now.getMonth(), now.getDate() - back + 7 * weeks + day, 12).toLocaleDateString('sv-SE')
}

test('four waves with a snow day go out by a rule, their dates move, and all of it is recalled', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  const id = await draft(page, 'Harbor walk')
  const sheet = await (await page.request.get(`/api/assessments/${id}`)).json()
  expect((await page.request.post(`/api/assessments/${id}/seal`, { headers: { 'If-Match': String(sheet.version) } })).status()).toBe(200)
  await page.goto('/calendar')
  await page.getByRole('button', { name: 'Days without school' }).click()
  const days = page.getByRole('complementary', { name: 'Days without school' })
  await days.getByLabel('First day').fill(on(10, 1))
  await days.getByLabel('What it is').fill('Snow')
  await days.getByRole('button', { name: 'Add 1 day' }).click()
  await expect(days.getByRole('row', { name: /Snow/ })).toHaveCount(2) // one is the demo's

  await page.goto(`/assessments/${id}/distribution`)
  await page.getByRole('button', { name: 'Add an entry' }).click()
  const entry = page.getByRole('complementary', { name: 'Add an entry' })
  await entry.getByRole('checkbox', { name: 'Mathematics 6' }).check()
  await entry.getByRole('button', { name: 'Add the entry' }).click()
  const account = page.getByRole('table', { name: 'Whom it goes to' })
  await expect(account.getByRole('button', { name: 'All sections of Mathematics 6', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Add an entry' }).click()
  await entry.getByRole('radio', { name: 'It leaves these out' }).check()
  await entry.getByRole('combobox', { name: /^Who/ }).selectOption('sections')
  await entry.getByRole('checkbox', { name: '6-A Mathematics' }).first().check()
  await entry.getByRole('button', { name: 'Add the entry' }).click()
  await expect(account.getByRole('row', { name: /6-A Mathematics.*left out/ })).toContainText('−')

  // The window of all others, then one wave for each school but one.
  const panel = page.getByRole('complementary', { name: /wave$/ })
  await page.getByRole('button', { name: 'The window', exact: true }).click()
  await panel.getByLabel('Window begins').fill(`${on(11, 0)}T08:00`)
  await panel.getByLabel('Window ends').fill(`${on(11, 4)}T15:00`)
  await panel.getByRole('button', { name: 'Save the wave' }).click()
  for (const [n, name] of ['Early', 'Late'].entries()) {
    await page.getByRole('button', { name: 'Add a wave' }).click()
    await panel.getByLabel('Name').fill(name)
    await panel.getByLabel('Window begins').fill(`${on(10, n)}T08:00`)
    await panel.getByLabel('Window ends').fill(`${on(10, 3 + n)}T15:00`)
    await panel.getByRole('checkbox').first().check()
    await panel.getByRole('button', { name: 'Add the wave' }).click()
    await expect(page.getByRole('button', { name, exact: true })).toBeVisible()
  }
  const when = page.getByRole('table', { name: 'When' })
  await expect(when.getByRole('columnheader', { name: /no school/ })).toBeVisible()
  const preflight = page.getByRole('complementary', { name: 'Preflight' })
  await expect(preflight.getByText(/Early loses/)).toBeVisible()
  await expect(preflight.getByText(/Late loses/)).toBeVisible()
  // An end is moved by keys, and the focus stays on it.
  await when.getByRole('button', { name: /Early ends/ }).focus()
  await page.keyboard.press('ArrowRight')
  await expect(when.getByRole('button', { name: new RegExp(`Early ends .*${Number(on(10, 4).slice(8))}, `) })).toBeFocused()
  await accessible(page)

  await page.getByRole('button', { name: 'Review' }).click()
  await expect(page.getByRole('heading', { name: 'Everything once more' })).toBeVisible()
  for (const reason of await page.locator('.caution input').all()) await reason.fill('Agreed with the schools.')
  await page.getByRole('button', { name: /^Send to \d+ students$/ }).click()
  await expect(page.getByRole('heading', { name: 'Rooms' })).toBeVisible()

  await page.goto(`/assessments/${id}/distribution`)
  const out = page.getByRole('region', { name: 'What is out' })
  await expect(out.getByText('Who comes later is taken in.')).toBeVisible()
  await expect(page.getByRole('table', { name: 'Whom it goes to' })).toHaveCount(0) // no empty form
  await out.getByRole('button', { name: 'Move dates' }).click()
  await out.getByRole('button', { name: /Late ends/ }).press('PageUp')
  await out.getByRole('button', { name: 'See what changes' }).click()
  await expect(out.getByText('Nobody is working now.')).toBeVisible()
  await out.getByRole('button', { name: 'Move the dates' }).click()
  await expect(out.getByText('The dates are moved.')).toBeVisible()
  const ends = async (wave) => (await (await page.request.get(`/api/assessments/${id}/sent`)).json())[0].waves.find((w) => w.wave.name === wave).wave.closes
  expect(await ends('Late')).toBe(`${on(11, 4)}T15:00`)
  await out.getByRole('button', { name: 'Undo' }).click()
  await expect(out.getByText('The dates are moved.')).toHaveCount(0)
  expect(await ends('Late')).toBe(`${on(10, 4)}T15:00`)

  await out.getByRole('button', { name: 'Recall', exact: true }).click()
  await out.getByRole('button', { name: 'Recall it' }).click()
  await expect(account.getByRole('button', { name: 'All sections of Mathematics 6', exact: true })).toBeVisible()
  await expect(page.getByRole('region', { name: 'What is out' })).toHaveCount(0)
})

test('a section that comes later is taken in by the rule, and its student sees the assessment', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  const id = await draft(page, 'Tide marks')
  const call = async (method, path, data, version) => {
    const answer = await page.request[method](`/api/assessments/${id}${path}`, { data, headers: version === undefined ? {} : { 'If-Match': String(version) } })
    expect(answer.ok(), await answer.text()).toBe(true)
    return answer.json()
  }
  await call('post', '/seal', undefined, (await call('get', '')).version)
  const { version } = await call('get', '/distribution')
  const waves = [{ ...everyone, opens: `${on(0, 0)}T00:00`, closes: `${on(1, 4)}T15:00` }]
  const put = await call('put', '/distribution', { entries: [everySection], follow: true, waves }, version)
  await call('post', '/distribution', { reasons: Object.fromEntries(put.findings.map((f) => [f.code, 'for the test'])) }, put.version)
  const [before] = await call('get', '/sent')

  const files = {
    'manifest.csv': 'propertyName,value\noneroster.version,1.2\nfile.classes,delta\nfile.users,delta\nfile.roles,delta\nfile.enrollments,delta\n',
    'classes.csv':
      'sourcedId,status,dateLastModified,title,grades,courseSourcedId,classType,schoolSourcedId,termSourcedIds\nc-late,active,,6-L Mathematics,06,math-06,scheduled,s-07,year\n',
    'users.csv': 'sourcedId,status,dateLastModified,enabledUser,username,givenName,familyName,identifier,grades,password\nlate-6,active,,true,888006,Ilse,Marín,888006,06,4711\n',
    'roles.csv': 'sourcedId,status,dateLastModified,userSourcedId,roleType,role,orgSourcedId\nr-late-6,active,,late-6,primary,student,s-07\n',
    'enrollments.csv': 'sourcedId,status,dateLastModified,classSourcedId,schoolSourcedId,userSourcedId,role\ne-late-6,active,,c-late,s-07,late-6,student\n',
  }
  const zip = Buffer.from(zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)]))))
  const begun = await page.request.post('/api/imports?kind=roster&file=late.zip', { data: zip, headers: { 'Content-Type': 'application/octet-stream' } })
  expect(begun.status(), await begun.text()).toBe(202)
  await expect(async () => expect((await call('get', '/sent'))[0].sections).toBe(before.sections + 1)).toPass()
  await page.goto(`/assessments/${id}/distribution`)
  await expect(page.getByText('1 student came in since.')).toBeVisible()
  const { sittings } = await call('get', '')
  const late = sittings.find((s) => s.section === '6-L Mathematics')
  const { seats } = await (await page.request.get(`/api/sittings/${late.id}`)).json()
  const student = await asPerson(browser, seats[0].studentId)
  await student.goto('/desk')
  await expect(student.getByText('Tide marks')).toBeVisible()
})

test('who teaches a section is mailed what goes out, and the mail leads to the room', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  const { mailbox } = await (await page.request.get('/api/session')).json()
  const id = await draft(page, 'Lantern walk')
  await giveOut(page, id)
  const box = await (await browser.newContext()).newPage()
  await expect
    .poll(async () => {
      await box.goto(mailbox)
      return box.getByRole('article').filter({ hasText: 'Lantern walk: sent out' }).count()
    }, { timeout: 30_000 })
    .toBeGreaterThan(0)
  await accessible(box)
  const text = await box.getByRole('article').filter({ hasText: 'Lantern walk' }).first().innerText()
  const [address] = text.match(/http:\/\/\S+\/rooms\/\d+/)
  await page.goto(address)
  await expect(page.getByText('Lantern walk', { exact: false }).first()).toBeVisible()
})

test('the calendar is walked by keys, and leaves as iCalendar', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await page.goto('/calendar')
  const grid = page.getByRole('table', { name: 'Windows by grade and week' })
  const first = grid.getByRole('button').first()
  await first.focus()
  await page.keyboard.press('ArrowDown')
  await expect(grid.getByRole('button', { name: /Winter reading/ })).toBeFocused()
  await page.keyboard.press('Enter')
  const panel = page.getByRole('complementary', { name: 'Winter reading' })
  await expect(panel.getByText('90 for each student')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(grid.getByRole('button', { name: /Winter reading/ })).toBeFocused()
  await page.getByRole('combobox', { name: 'Time' }).selectOption('Fall semester')
  await expect(page.getByText('Aug to Dec 2026')).toBeVisible()
  await expect(grid.getByRole('button', { name: /Fall mathematics/ })).toBeVisible()
  await page.getByRole('combobox', { name: 'Time' }).selectOption('4 months')
  const file = await (await page.request.get(await page.getByRole('link', { name: 'iCalendar file' }).getAttribute('href'))).text()
  expect(file).toContain('SUMMARY:Winter reading\\, grade 5')
  await page.getByRole('button', { name: 'Subscribe' }).click()
  await page.getByRole('button', { name: 'Make an address' }).click()
  const address = await page.getByRole('textbox', { name: 'Address' }).inputValue()
  const outside = await (await browser.newContext()).request.get(address)
  expect(outside.headers()['content-type']).toContain('text/calendar')
  expect(await outside.text()).toContain('Winter reading')
})

test('who should have opened by now is seen over the district, who was away makes it up, and all doors of a school close at once', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  const list = await (await page.request.get('/api/assessments')).json()
  const reading = (list.items ?? list).find((a) => a.title === 'Grade 5 reading, winter benchmark')
  await page.goto(`/assessments/${reading.id}/progress`)
  await expect(page.getByRole('heading', { name: /sections should have opened by now/ })).toBeVisible()
  await expect(page.getByRole('table', { name: 'Progress by school' }).getByRole('row', { name: /schools/ })).toBeVisible()
  await page.getByRole('button', { name: 'Remind their teachers' }).click()
  await expect(page.getByText('Their teachers see a reminder on Today.')).toBeVisible()
  await page.getByRole('combobox', { name: 'Who has' }).selectOption('begun, not finished')
  const absent = page.getByRole('table', { name: 'Who has not handed in' })
  await expect(absent.getByText('not begun')).toHaveCount(0)
  await expect(absent.getByText('not finished').first()).toBeVisible()

  // A makeup by keys, for the first who has not begun in each of two sections.
  await page.getByRole('combobox', { name: 'Who has' }).selectOption('not begun')
  await expect(absent.getByText('not finished')).toHaveCount(0)
  const found = (await (await page.request.get(`/api/assessments/${reading.id}/absent?begun=false&met=true`)).json()).students
  const away = [found[0], found.find((s) => s.sittingId !== found[0].sittingId)]
  for (const s of away) await pressBy(page, absent.getByRole('checkbox', { name: `Choose ${s.name}`, exact: true }).first(), 'Space')
  await page.getByRole('button', { name: 'Arrange a makeup for 2' }).press('Enter')
  const panel = page.getByRole('complementary', { name: 'Arrange a makeup' })
  await expect(panel.getByText('2 students of 2 sections')).toBeVisible()
  await pressBy(page, panel.getByLabel('Room'), 'End')
  await page.keyboard.type('Library')
  await panel.getByLabel('From').fill(await wallClock(page, -1))
  await panel.getByLabel('to', { exact: true }).fill(await wallClock(page, 24))
  await pressBy(page, panel.getByRole('button', { name: 'Arrange it' }))
  await expect(page.getByRole('heading', { name: 'Makeup, Library' })).toBeVisible()
  const room = page.getByRole('table', { name: 'Students of this sitting' })
  for (const s of away) await expect(room.getByRole('row', { name: s.name })).toContainText(s.section)
  await pressBy(page, page.getByRole('button', { name: 'Open the door of Makeup, Library' }))
  await expect(page.getByText('door open')).toBeVisible()
  const student = await asPerson(browser, away[1].studentId)
  await student.goto('/desk')
  await expect(student.getByText('Makeup in Library')).toBeVisible()
  await startWork(student)
  await expect(room.getByRole('row', { name: away[1].name })).toContainText('working')
  await page.getByRole('button', { name: 'Take it back' }).press('Enter') // who is at work stays
  await expect(room.getByRole('row', { name: away[0].name })).toHaveCount(0)
  await expect(room.getByRole('row', { name: away[1].name })).toContainText('working')

  await page.goto(`/assessments/${reading.id}/rooms`)
  await page.getByRole('combobox', { name: /^School/ }).selectOption('Pilot House Elementary')
  await page.getByRole('button', { name: 'Close the doors' }).click()
  await page.getByRole('button', { name: /^Close \d+ doors?$/ }).click()
  await expect(page.getByRole('button', { name: 'Close the doors' })).toHaveCount(0)
  await expect(page.getByRole('table', { name: 'Sittings' }).getByText('closed')).toHaveCount(2)
})
