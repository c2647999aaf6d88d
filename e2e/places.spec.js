import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { strToU8, zipSync } from 'fflate'
import { writeFileSync } from 'node:fs'
import { as, leave } from './people.js'

// Each place as its people use it.

test.afterEach(leave)

test('the bank is searched by tree, facet and word, and looked at in three ways', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await page.goto('/bank')
  const items = page.getByRole('table', { name: 'Items' }).locator('tbody tr')
  const count = page.locator('p.count')
  const preview = page.getByRole('complementary', { name: 'Preview' })

  await page.getByRole('treeitem', { name: /^Grade 6 mathematics/ }).click()
  await expect(page).toHaveURL(/standard=\d+/)
  await page.getByRole('treeitem', { name: /^DC Data/ }).click()
  const whole = parseInt(await page.getByRole('treeitem', { name: /^DC Data/ }).locator('.count').textContent())
  await expect(count).toContainText(`${whole} items`)
  await page.getByRole('checkbox', { name: /^single choice/ }).check()
  await expect(page).toHaveURL(/kind=single-choice/)
  await expect(count).not.toContainText(`${whole} items`)
  for (const text of await items.allTextContents()) expect(text).toContain('single choice')
  await page.reload()
  await expect(page.getByRole('checkbox', { name: /^single choice/ })).toBeChecked()
  await page.getByRole('button', { name: 'show all' }).click()
  await expect(page).toHaveURL(/\/bank$/)
  await accessible(page)

  // The preview follows the keys.
  await items.first().focus()
  const first = await preview.locator('.mono').first().textContent()
  await page.keyboard.press('ArrowDown')
  await expect(preview.locator('.mono').first()).not.toHaveText(first)

  await page.getByLabel('Words in stem, choices and passage').fill('anemometer nonsense')
  await expect(page.getByText('No item matches.')).toBeVisible()
  await page.getByLabel('Words in stem, choices and passage').fill('ferry')
  await expect(items.first()).toContainText(/ferr/i)
  await page.getByRole('checkbox', { name: /^single choice/ }).check()
  await expect(preview.locator('.is-key')).toHaveCount(1)
  await preview.getByRole('button', { name: 'Without key' }).click()
  await expect(preview.locator('.is-key')).toHaveCount(0)
  await preview.getByRole('button', { name: 'Try it' }).click()
  await expect(preview.getByText('nothing of the key comes with it')).toBeVisible()
  await preview.getByRole('radio').nth(1).check()
  await expect(preview.getByRole('radio').nth(1)).toBeChecked()
})

test('the tray is picked, put back and kept over a reload', async ({ browser }) => {
  const page = await as(browser, 'Tomás Lindqvist')
  await page.goto('/bank?subject=science')
  const items = page.getByRole('table', { name: 'Items' }).locator('tbody tr')
  for (const row of [0, 2, 3]) await items.nth(row).getByRole('button', { name: /in the tray$/ }).click()
  await expect(page.getByRole('button', { name: 'Tray, 3' })).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: 'Tray, 3' }).click()
  const tray = page.getByRole('complementary', { name: 'Tray, 3 items' })
  await tray.getByRole('button', { name: /^Remove .* from the tray/ }).first().click()
  await expect(page.getByRole('complementary', { name: 'Tray, 2 items' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Place 2 items' })).toBeDisabled()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('complementary', { name: /Tray/ })).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'Tray, 2' })).toBeFocused()
})

test('a band set is made, refused where it is wrong, and changed under another’s hands', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await page.goto('/bands')
  await page.getByRole('button', { name: 'Create a band set' }).click()
  const panel = page.getByRole('complementary', { name: 'A new band set' })
  await panel.getByLabel('Name', { exact: true }).fill('Quick check')
  await panel.getByLabel('Name of band 2').fill('Launching')
  await panel.getByRole('button', { name: 'Create band set' }).click()
  await expect(panel.getByText(/used twice/).first()).toBeVisible()
  await panel.getByLabel('Name of band 2').fill('There')
  await panel.getByRole('textbox', { name: 'Cut of band 2' }).fill('101')
  await panel.getByRole('button', { name: 'Create band set' }).click()
  await expect(panel.getByText(/101/).first()).toBeVisible()
  await panel.getByRole('textbox', { name: 'Cut of band 2' }).fill('72.5')
  await panel.getByRole('button', { name: 'Add a band' }).click()
  await panel.getByLabel('Name of band 3').fill('Past it')
  await panel.getByRole('combobox', { name: 'What the cut of band 3 is in' }).selectOption('raw')
  await panel.getByRole('textbox', { name: 'Cut of band 3', exact: true }).fill('18')
  await panel.getByLabel('Total that the cut of band 3 was set for').fill('20')
  await panel.getByRole('button', { name: 'Create band set' }).click()
  const row = page.getByRole('table', { name: 'Band sets' }).getByRole('row', { name: /Quick check/ })
  await expect(row).toContainText('72.5%, 18 pt')
  await expect(row).toContainText('Launching, There, Past it')

  const other = await as(browser, 'Tomás Lindqvist')
  await other.goto(new URL(page.url()).pathname + new URL(page.url()).search)
  const theirs = other.getByRole('complementary', { name: 'Quick check' })
  await theirs.getByLabel('Name of band 2').fill('Arrived')
  await theirs.getByRole('button', { name: 'Save changes' }).click()
  await expect(other.getByRole('row', { name: /Quick check/ })).toContainText('Arrived')

  const mine = page.getByRole('complementary', { name: 'Quick check' })
  await mine.getByLabel('Name of band 3').fill('Far past it')
  await mine.getByRole('button', { name: 'Save changes' }).click()
  await expect(mine.getByRole('alert')).toContainText('Tomás Lindqvist changed this meanwhile')
  await expect(mine.getByLabel('Name of band 3')).toHaveValue('Far past it')
  await mine.getByRole('button', { name: 'Show the newest' }).click()
  await expect(mine.getByLabel('Name of band 2')).toHaveValue('Arrived')
  await accessible(page)
})

const roster = {
  'orgs.csv': 'sourcedId,name,type\nlh,Lighthouse Academy,school\n',
  'courses.csv': 'sourcedId,title,grades,subjects\nlh-m,Mathematics 6,06,Mathematics\n',
  'classes.csv': 'sourcedId,title,grades,courseSourcedId,schoolSourcedId\nlh-c,6-L,06,lh-m,lh\n',
  'users.csv':
    'sourcedId,enabledUser,givenName,familyName,identifier,email,grades,password\n' +
    'lh-t,true,Olga,Brandt,,olga.brandt@lighthouse.example,,a very long secret\n' +
    'lh-s,true,Pia,Novak,777001,,06,4711\nlh-x,true,No,Number,,,06,0000\n',
  'roles.csv': 'userSourcedId,role,orgSourcedId\nlh-t,teacher,lh\nlh-s,student,lh\nlh-x,student,lh\n',
  'enrollments.csv': 'sourcedId,classSourcedId,userSourcedId,role\nlh-e1,lh-c,lh-t,teacher\nlh-e2,lh-c,lh-s,student\n',
}

test('a roster comes in with its refusals, comes again without change, and its people sign in', async ({ browser }, info) => {
  const file = info.outputPath('lighthouse.zip')
  writeFileSync(file, zipSync(Object.fromEntries(Object.entries(roster).map(([name, text]) => [name, strToU8(text)]))))
  const page = await as(browser, 'Ines Okafor')
  await page.goto('/rosters')
  const bring = async (path) => {
    await page.getByLabel('File', { exact: true }).setInputFiles(path)
    await page.getByRole('button', { name: 'Import', exact: true }).click()
  }
  const figure = (name) => page.locator('dt', { hasText: new RegExp(`^${name}$`) }).locator('+ dd')
  await page.getByRole('button', { name: 'Import files' }).click()
  await bring(file)
  await expect(page.getByText('a student signs in with it and a PIN')).toBeVisible()
  await expect(figure('Refused')).not.toHaveText('0')
  await expect(page.getByRole('table').first()).toContainText('Lighthouse Academy')
  await bring(file)
  await expect(figure('Unchanged')).toHaveText('9')
  await expect(figure('New')).toHaveText('0')
  await expect(figure('Changed')).toHaveText('0')
  const importing = async () => (await (await page.request.get('/api/imports')).json()).some((i) => i.state === 'running')
  await expect.poll(importing).toBe(false) // only one runs at a time

  const broken = info.outputPath('broken.zip')
  writeFileSync(broken, 'this is no zip')
  await bring(broken)
  await expect(page.getByText(/Nothing was changed/)).toBeVisible()
  await accessible(page)

  const student = await (await browser.newContext()).newPage()
  await student.goto('/desk')
  await expect(student).toHaveURL(/signin/)
  await student.getByRole('button', { name: 'Student', exact: true }).click()
  await student.getByLabel('Student number').fill('777001')
  await student.getByLabel('PIN').fill('1111')
  await student.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(student.getByRole('alert')).toContainText(/We don’t recognize that/)
  await student.getByLabel('PIN').fill('4711')
  await student.keyboard.press('Enter')
  await expect(student.getByText('There is nothing to do right now.')).toBeVisible()

  const teacher = await (await browser.newContext()).newPage()
  await teacher.goto('/rosters')
  await teacher.getByLabel('E-mail').fill('Olga.Brandt@lighthouse.example')
  await teacher.getByLabel('Password').fill('a very long secret')
  await teacher.keyboard.press('Enter')
  await expect(teacher).toHaveURL(/rosters$/)
  await expect(teacher.getByRole('table').first()).toContainText('Lighthouse Academy')
  await expect(teacher.getByRole('table').first()).not.toContainText('Quarry Road')
  await teacher.getByRole('button', { name: 'Sign out' }).click()
  await expect(teacher).toHaveURL(/signin/)
  await teacher.goBack()
  await expect(teacher).toHaveURL(/signin/)
})

test('the matrix is sorted, narrowed, walked by keys and exported as seen', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await page.goto('/results')
  await page.getByRole('link', { name: 'Grade 6 mathematics, fall benchmark' }).first().click()
  await expect(page.getByRole('heading', { name: 'By band and standard' })).toBeVisible()
  await page.getByRole('button', { name: /Expressions.*show what is below/ }).click()
  await expect(page.getByText('under M6.EX')).toBeVisible()
  await page.getByRole('button', { name: 'Up one level' }).click()
  await expect(page.getByRole('button', { name: /Expressions.*show what is below/ })).toBeVisible()
  await accessible(page)

  await page.getByRole('link', { name: 'Students × lines' }).click()
  const table = page.getByRole('table', { name: 'Students by lines' })
  const rows = table.locator('tbody tr[aria-rowindex]')
  const raws = async () => (await rows.locator('.link-button').allTextContents()).slice(0, 12).map(Number)
  await page.getByRole('button', { name: /^Of 28/ }).click()
  await expect(page.getByRole('columnheader', { name: /^Of 28/ })).toHaveAttribute('aria-sort', /descending|ascending/)
  await expect(table).toHaveAttribute('aria-busy', 'false') // the order before stands until the new one is there
  const once = await raws()
  const sorted = [...once].sort((a, b) => a - b)
  expect([sorted, [...sorted].reverse()]).toContainEqual(once)
  const count = page.getByText(/^\d+ students?$/)
  const all = await count.textContent()
  await page.getByLabel('Band', { exact: true }).selectOption('Beyond')
  await expect(count).not.toHaveText(all) // the best stand first before they are narrowed, too
  await expect(rows.first()).toContainText('Beyond')
  const fit = parseInt(await count.textContent())
  const href = await page.getByRole('link', { name: 'Export as CSV' }).getAttribute('href')
  expect(href).toContain('band=3')
  const csv = await (await page.request.get(href)).text()
  expect(csv.trim().split('\n')).toHaveLength(fit + 1)
  await page.reload()
  await expect(page.getByLabel('Band', { exact: true })).toHaveValue('3')

  await page.getByLabel('Band', { exact: true }).selectOption('all')
  await page.getByRole('button', { name: /, line 1:/ }).first().focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  const trail = page.getByRole('complementary', { name: 'Trail of a score' })
  await expect(trail.getByRole('button', { name: 'Line 2, why' })).toHaveAttribute('aria-expanded', 'true')
  await accessible(page)
  await page.keyboard.press('Escape')
  await expect(trail).toHaveCount(0)
  await page.getByLabel('Name or number').fill('nobody at all')
  await expect(page.getByText('No score matches.')).toBeVisible()
})

test('a teacher has the own room and no other', async ({ browser }) => {
  const page = await as(browser, 'teacher')
  await page.goto('/today')
  await expect(page.getByRole('link', { name: 'Results' })).toBeVisible()
  for (const place of ['Bands', 'Ledger']) await expect(page.getByRole('link', { name: place })).toHaveCount(0)
  await accessible(page)
  await page.getByRole('link', { name: /^5-/ }).first().click()
  await page.waitForURL(/rooms\/\d+$/)
  const mine = page.url()
  await page.getByRole('button', { name: /^Pause/ }).click()
  await expect(page.getByText('door paused')).toBeVisible()
  await page.getByRole('button', { name: /^Open the door/ }).click()
  await expect(page.getByText('door open')).toBeVisible()
  await expect(page.getByRole('table', { name: 'Students of this sitting' }).locator('tfoot')).toContainText(/\d+ not begun, \d+ working, \d+ handed in/)
  await accessible(page)

  const id = Number(mine.match(/\d+$/)[0])
  for (const other of [id + 1, id - 1, 99999]) {
    if ((await page.request.get(`/api/sittings/${other}`)).ok()) continue // also theirs
    await page.goto(`/rooms/${other}`)
    await expect(page.getByText('Not found, or you don’t have access.')).toBeVisible()
  }
  await page.goto('/assessments')
  await expect(page.getByText('No assessment is shared with you.')).toBeVisible()
  await page.goto('/assessments/1/lines')
  await expect(page.getByText('Not found, or you don’t have access.')).toBeVisible()
  await page.goto('/bands')
  await expect(page).toHaveURL(/today$/) // a place that the role does not have leads home
})

test('a school coordinator reads the district’s benchmark and does not bend it', async ({ browser }) => {
  const page = await as(browser, 'school-coordinator')
  const list = await (await page.request.get('/api/assessments')).json()
  const draft = list.find((a) => a.title.startsWith('Grade 4')).id
  await page.goto(`/assessments/${draft}/lines`)
  await expect(page.getByRole('table', { name: 'Lines' })).toBeVisible()
  for (const name of ['Seal', 'Add items', 'Undo']) await expect(page.getByRole('button', { name, exact: true })).toHaveCount(0)
  await page.goto(`/assessments/${draft}/outline`)
  await expect(page.getByLabel('Title', { exact: true })).toBeDisabled()
  await accessible(page)
  await page.goto('/assessments')
  await page.getByRole('button', { name: 'Start an assessment' }).click()
  await page.getByLabel('Title', { exact: true }).fill('A school’s own quiz')
  await page.getByRole('checkbox', { name: '5', exact: true }).check()
  await page.getByRole('button', { name: 'Start', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Blueprint' })).toBeVisible()
  const other = await as(browser, 'district-coordinator')
  await other.goto('/assessments')
  await expect(other.getByRole('link', { name: 'A school’s own quiz' })).toBeVisible()
})

test('the ledger is searched and an entry opened', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await page.goto('/ledger')
  const rows = page.getByRole('table', { name: 'Ledger entries' }).locator('tbody tr')
  await page.getByLabel('Person, act or thing').fill('sealed fall benchmark')
  await expect(rows).toHaveCount(1)
  await rows.filter({ hasText: 'sealed' }).focus()
  await page.keyboard.press('Enter')
  const entry = page.getByRole('complementary', { name: /^Entry \d+/ })
  await expect(entry.getByLabel('After')).toContainText('fingerprint')
  await accessible(page)
  await page.getByLabel('Person, act or thing').fill('zebra')
  await expect(page.getByText('No entry has these words.')).toBeVisible()

  await page.getByRole('button', { name: 'Close' }).click()
  await page.getByRole('link', { name: 'Its last entry on paper' }).click()
  const [last] = await (await page.request.get('/api/ledger?limit=1')).json()
  await expect(page.getByLabel('Hash of the entry')).toHaveText(last.hash.match(/.{8}/g).join(' '))
  await expect(page.getByText(`--paper "${last.number} ${last.hash.slice(0, 8)} `)).toBeVisible()
  await accessible(page)
})
