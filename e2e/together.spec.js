import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { as, asPerson, leave } from './people.js'

// Two at one assessment: they see each other, nobody's work is lost, everything comes back.
test.afterEach(leave)

const mark = String(Date.now()).slice(-6)

async function start(page, title) {
  await page.goto('/assessments')
  await page.getByRole('button', { name: 'Start an assessment' }).click()
  await page.getByLabel('Title', { exact: true }).fill(title)
  await page.getByRole('checkbox', { name: '6', exact: true }).check()
  await page.getByRole('button', { name: 'Start', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Blueprint' })).toBeVisible()
  return new URL(page.url()).pathname.replace('/blueprint', '')
}

test('two editors see each other; what both changed stands side by side until one is chosen', async ({ browser }) => {
  const ines = await as(browser, 'Ines Okafor')
  const tomas = await as(browser, 'Tomás Lindqvist')
  const path = await start(ines, `Two at work ${mark}`)
  await ines.getByRole('button', { name: 'Add a row', exact: true }).first().click()
  await ines.getByRole('combobox', { name: 'Standards, with all below, row 1' }).fill('M6.RR')
  await expect(ines.getByRole('link', { name: /^Blueprint/ })).toContainText('1 row')
  await tomas.goto(`${path}/blueprint`)
  await expect(tomas.getByText('Ines Okafor is here too, at blueprint')).toBeVisible()
  await expect(ines.getByText('Tomás Lindqvist is here too, at blueprint')).toBeVisible({ timeout: 15_000 })

  // Both type into the same part at once: the second is told, and loses nothing.
  await tomas.context().setOffline(true)
  await tomas.getByRole('textbox', { name: 'Plan, row 1' }).fill('9')
  await ines.getByRole('textbox', { name: 'Plan, row 1' }).fill('6')
  await expect(ines.getByRole('link', { name: /^Blueprint/ })).toContainText('6 items')
  await tomas.context().setOffline(false)
  await expect(tomas.getByText('Ines Okafor changed this meanwhile.')).toBeVisible({ timeout: 20_000 })
  await expect(tomas.getByRole('textbox', { name: 'Plan, row 1' })).toHaveValue('9')
  await tomas.reload()
  await expect(tomas.getByText('Ines Okafor changed this meanwhile.'), 'over a reload too').toBeVisible()
  await tomas.getByRole('button', { name: 'Keep mine over theirs' }).click()
  await expect(tomas.getByRole('link', { name: /^Blueprint/ })).toContainText('9 items')
  await expect(ines.getByRole('textbox', { name: 'Plan, row 1' })).toHaveValue('9', { timeout: 15_000 })

  // The earlier state comes back as a new one.
  await ines.getByRole('button', { name: 'History' }).click()
  const history = ines.getByRole('complementary', { name: 'History' })
  await expect(history.getByRole('listitem').first()).toContainText('Tomás Lindqvist changed the blueprint')
  await accessible(ines)
  await history.getByRole('listitem').filter({ hasText: 'Ines Okafor changed the blueprint' }).first().getByRole('button').click()
  await expect(ines.getByRole('link', { name: /^Blueprint/ })).toContainText('6 items')
  await expect(history.getByRole('listitem').first()).toContainText('Ines Okafor changed the blueprint')
})

test('an assessment is shared with a person who edits it and a school that may look', async ({ browser }) => {
  const ines = await as(browser, 'Ines Okafor')
  const path = await start(ines, `Shared ${mark}`)
  await ines.getByRole('button', { name: 'Shared with nobody else' }).click()
  const panel = ines.getByRole('complementary', { name: 'Shared with' })
  const people = await (await ines.request.get('/api/demo/people')).json()
  const head = people.find((p) => p.role === 'school-coordinator')
  await panel.getByPlaceholder('Name, school or e-mail').fill(head.name)
  await panel.getByRole('list', { name: 'People found' }).getByRole('button').filter({ hasText: head.name }).first().click()
  await panel.getByRole('checkbox', { name: `${head.name} edits it too` }).check() // who is added begins with looking
  await panel.getByRole('combobox', { name: 'At' }).selectOption({ index: 2 })
  await panel.getByRole('button', { name: 'Add', exact: true }).click()
  await panel.getByRole('checkbox', { name: /may print it$/ }).last().uncheck()
  await accessible(ines)
  // What cannot be saved is still there, and the panel can be left without it.
  await ines.route('**/shares', (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()))
  await panel.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(panel.getByRole('alert')).toContainText('The server could not be reached')
  await expect(panel.getByRole('checkbox', { name: `${head.name} edits it too` })).toBeChecked()
  await expect(panel.getByRole('button', { name: 'Close without saving' })).toBeVisible()
  await ines.unroute('**/shares')
  await panel.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(ines.getByRole('button', { name: 'Shared with 2' })).toBeVisible()

  const other = await as(browser, head.name)
  await other.goto('/today')
  await expect(other.getByText(`Ines Okafor shared Shared ${mark} with you.`)).toBeVisible()
  await other.goto(`${path}/outline`)
  await other.getByLabel('Title', { exact: true }).fill(`Shared and edited ${mark}`)
  await expect(other.getByText(/saved .* · /)).toContainText(head.name)
  await other.goto(`${path}/distribution`)
  await expect(other.getByRole('button', { name: /^Send/ })).toHaveCount(0)
})

test('a department looks at what is shared with it; others let themselves in by a link, until it is ended', async ({ browser }) => {
  const ines = await as(browser, 'Ines Okafor')
  const path = await start(ines, `For the department ${mark}`)
  const teachers = (await (await ines.request.get('/api/demo/people')).json()).filter((p) => p.role === 'teacher')
  const colleague = await asPerson(browser, teachers[0].id) // has an open room in mathematics
  await colleague.goto(path)
  await expect(colleague.getByText('Not found, or you don’t have access.')).toBeVisible()

  await ines.getByRole('button', { name: 'Shared with nobody else' }).click()
  const panel = ines.getByRole('complementary', { name: 'Shared with' })
  await panel.getByRole('button', { name: 'Make a link' }).click()
  const address = await panel.getByLabel(/it is shown only now/).inputValue()
  const guest = await asPerson(browser, teachers.at(-1).id)
  await guest.goto(address)
  await expect(guest).toHaveURL(`${path}/lines`)
  await expect(guest.getByRole('heading', { name: 'Lines' })).toBeVisible()
  await expect(guest.getByRole('navigation', { name: 'Parts of the assessment' }).getByRole('link')).toHaveCount(1)
  await expect(guest.getByRole('button', { name: 'Add items' })).toHaveCount(0)
  await accessible(guest)

  await ines.reload()
  await ines.getByRole('button', { name: 'Shared with 1' }).click()
  await expect(panel.getByText('came by the link')).toBeVisible()
  await panel.getByRole('button', { name: 'End the link' }).click()
  await expect(panel.getByRole('button', { name: 'Make a link' })).toBeVisible()
  await colleague.goto(address)
  await expect(colleague.getByText('This link leads nowhere any more.')).toBeVisible()

  await panel.getByRole('combobox', { name: 'Department' }).selectOption('mathematics')
  await panel.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(panel.getByRole('row', { name: /Mathematics department/ })).toContainText('at every school')
  await accessible(ines)
  await panel.getByRole('button', { name: 'Save', exact: true }).click()
  await colleague.goto('/assessments')
  await expect(colleague.getByRole('link', { name: `For the department ${mark}` })).toBeVisible()
  await expect(colleague.getByRole('button', { name: 'Start an assessment' })).toHaveCount(0)
})

test('rows kept in the library of blueprints serve another assessment, and one name is replaced on purpose', async ({ browser }) => {
  const ines = await as(browser, 'Ines Okafor')
  await start(ines, `Planned ${mark}`)
  const source = ines.getByRole('complementary', { name: 'Rows from…' })
  const fromLibrary = async (name) => {
    await ines.getByRole('button', { name: 'Rows from…' }).first().click()
    await source.getByRole('button', { name: 'The library' }).click()
    await source.getByRole('textbox', { name: 'Words in the name of a blueprint' }).fill(name)
    await source.getByRole('radio', { name }).check()
  }
  await fromLibrary('28 items')
  await accessible(ines)
  await source.getByRole('button', { name: 'Take 5 rows' }).click()
  await expect(ines.getByRole('link', { name: /^Blueprint/ })).toContainText('28 items, 5 rows')
  await ines.getByRole('button', { name: 'Remove row 5' }).click()
  await expect(ines.getByRole('link', { name: /^Blueprint/ })).toContainText('24 items, 4 rows')

  const name = `Plan ${mark}`
  const keep = ines.getByRole('complementary', { name: 'Save to library' })
  await ines.getByRole('button', { name: 'Save to library' }).click()
  await keep.getByLabel('Name in the library').fill(name)
  await ines.keyboard.press('Enter')
  await expect(keep).toHaveCount(0)
  await ines.getByRole('button', { name: 'Remove row 4' }).click()
  await expect(ines.getByRole('link', { name: /^Blueprint/ })).toContainText('20 items, 3 rows')
  await ines.getByRole('button', { name: 'Save to library' }).click()
  await keep.getByLabel('Name in the library').fill(name)
  await expect(keep).toContainText('Ines Okafor kept 4 rows under this name')
  await accessible(ines)
  await keep.getByRole('button', { name: 'Replace it' }).click()
  await expect(keep).toHaveCount(0)

  await start(ines, `Planned after it ${mark}`)
  await fromLibrary(name)
  await source.getByRole('button', { name: 'Take 3 rows' }).click()
  await expect(ines.getByRole('link', { name: /^Blueprint/ })).toContainText('20 items, 3 rows')
  await ines.getByRole('button', { name: 'Rows from…' }).first().click()
  await source.getByRole('button', { name: 'The library' }).click()
  await source.getByRole('button', { name: `Remove ${name} from the library` }).click()
  await expect(source.getByRole('radio', { name })).toHaveCount(0)
})
