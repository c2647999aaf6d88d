import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { readFileSync } from 'node:fs'
import { as, leave } from './people.js'

// Items are written: every kind, its key set by answering it, until it is in the bank.

test.afterEach(leave)

const kinds = [
  'single choice', 'multiple choice', 'true or false', 'select in a text', 'menus in a sentence', 'put in order', 'match pairs', 'sort into groups', 'table of boxes',
  'point on a number line', 'spot on a picture', 'typed word', 'typed number', 'short written', 'extended written', 'several parts', 'recorded by an examiner',
]
const picture =
  '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="200" onload="alert(1)"><rect width="400" height="200" fill="#dcebf2"/><circle cx="300" cy="100" r="30" fill="#8a6b45"/></svg>'

async function begin(page, kind) {
  await page.goto('/bank')
  await page.getByRole('button', { name: 'Write an item' }).click()
  await page.getByRole('dialog').getByRole('button', { name: kind, exact: true }).click()
  await expect(page).toHaveURL(/\/bank\/write\/\d+$/)
  await expect(page.getByRole('textbox', { name: 'Question', exact: true })).toBeVisible()
}
async function write(page, name, text) {
  await page.getByRole('textbox', { name, exact: true }).click()
  await page.keyboard.type(text)
}
const kept = (page) => expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible()
const seen = (page) => page.getByRole('region', { name: 'As a student sees it' })

test('an item is written beside itself, answered as it should be, and kept', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await begin(page, 'multiple choice')
  await expect(page.getByRole('button', { name: 'Add to the bank' })).toBeDisabled()
  await write(page, 'Question', 'Which of these are less than ')
  await page.getByRole('button', { name: 'Formula' }).click()
  await page.getByRole('button', { name: 'fraction' }).click()
  await page.keyboard.type('1')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.type('2')
  await expect(page.getByLabel('Formula in TeX')).toHaveValue('\\frac{1}{2}')
  await page.keyboard.press('Enter')
  for (const [i, text] of ['3/8', '5/9', '2/5', '4/8'].entries()) await write(page, `choice ${'ABCD'[i]}`, text)
  await expect(seen(page).locator('mfrac')).toHaveCount(1)

  // A new item begins with what its author wrote last. A problem leads to where it is mended.
  await expect(page.locator('#subject select')).not.toHaveValue('')
  await page.locator('#subject select').selectOption('')
  await page.getByRole('button', { name: 'Subject', exact: true }).click()
  await expect(page.locator('#subject select')).toBeFocused()
  await page.locator('#subject select').selectOption('mathematics')
  await page.getByLabel('Grade').selectOption('05')
  await page.getByRole('combobox', { name: 'Standards' }).fill('M5.FR.1')
  await page.keyboard.press('Enter')

  // The key is the answer; the rule shows what partly right answers earn.
  await seen(page).locator('label', { hasText: '3/8' }).click()
  await seen(page).locator('label', { hasText: '2/5' }).click()
  await expect(seen(page).getByText('Key A, C')).toBeVisible()
  const examples = page.getByRole('table', { name: 'What partly right answers earn' })
  await expect(examples.getByRole('row', { name: 'a key left out 0', exact: true })).toBeVisible()
  await page.getByRole('combobox', { name: 'Credit' }).selectOption('key-minus')
  await expect(examples.getByRole('row', { name: 'a key left out 0.5' })).toBeVisible()
  await page.getByRole('button', { name: 'Try it' }).click()
  await seen(page).locator('label', { hasText: '3/8' }).click()
  await expect(seen(page).getByText('0.5 of a point.')).toBeVisible()

  await page.getByRole('button', { name: 'Add to the bank' }).click()
  await expect(page).toHaveURL(/\/bank$/)
  const preview = page.getByRole('complementary', { name: 'Preview' })
  await expect(preview.getByText('Key A, C')).toBeVisible()
  await expect(preview.locator('mfrac')).toHaveCount(1)

  await page.getByRole('button', { name: 'Write a new version' }).click()
  await expect(page.getByRole('button', { name: 'Save as a new version' })).toBeEnabled()
  await page.getByRole('button', { name: 'Delete choice D' }).click()
  await kept(page)
  await page.getByRole('button', { name: 'Save as a new version' }).click()
  await expect(page).toHaveURL(/\/bank$/)
  await expect(preview.locator('dl')).toContainText('Version2')
})

test('what is typed comes back, goes again, and outlives the tab', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await begin(page, 'single choice')
  await write(page, 'choice A', 'herring')
  await kept(page)
  await write(page, 'choice B', 'gull')
  await kept(page)
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('textbox', { name: 'choice B', exact: true })).toHaveText('')
  await expect(page.getByRole('textbox', { name: 'choice A', exact: true })).toHaveText('herring')
  await page.keyboard.press('Control+Shift+z')
  await expect(page.getByRole('textbox', { name: 'choice B', exact: true })).toHaveText('gull')
  await page.getByRole('button', { name: 'choice A: move' }).focus()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByText('choice moved to place 2 of 4')).toBeAttached()
  await page.getByRole('button', { name: 'Pin choice A to its place' }).click()
  await kept(page)

  await page.reload()
  await expect(page.getByRole('textbox', { name: 'choice A', exact: true })).toHaveText('gull')
  await expect(page.getByRole('button', { name: 'Pin choice A to its place' })).toHaveAttribute('aria-pressed', 'true')

  // No network for a while: what is typed waits and is sent.
  await page.context().setOffline(true)
  await write(page, 'choice C', 'seal')
  await expect(page.getByText('Not saved yet, will send when the network is back')).toBeVisible()
  await page.context().setOffline(false)
  await kept(page)

  // Another tab of the same draft: neither writes over the other unasked.
  const other = await page.context().newPage()
  await other.goto(page.url())
  await write(other, 'choice D', 'crab')
  await kept(other)
  await write(page, 'choice D', 'kelp')
  await expect(page.getByText('Another tab has changed this draft.')).toBeVisible()
  await page.getByRole('button', { name: 'Keep this version' }).click()
  await kept(page)
  await other.reload()
  await expect(other.getByRole('textbox', { name: 'choice D', exact: true })).toHaveText('kelp')

  await page.getByRole('button', { name: 'Delete draft' }).click()
  await page.getByRole('button', { name: 'Write an item' }).click()
  await expect(page.getByRole('link', { name: 'without a question yet' })).toHaveCount(0)
})

test('keys of other kinds are set by answering, too', async ({ browser }) => {
  test.setTimeout(120_000)
  const page = await as(browser, 'Tomás Lindqvist')
  await test.step('spot', async () => {
    await begin(page, 'spot on a picture')
    await page.locator('.left input[type=file][accept="image/*"]').setInputFiles({ name: 'pier.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(picture) })
    const shown = seen(page).locator('.picture')
    await expect(shown.locator('img')).toBeVisible()
    const box = await shown.boundingBox()
    await shown.click({ position: { x: (box.width * 300) / 400, y: box.height / 2 } })
    await expect(seen(page).locator('.area.key')).toHaveCount(1)
    const svg = page.getByRole('group', { name: 'Areas on the picture' })
    /** Drags from one place of the picture to another, in its own units. */
    const drag = async (from, to) => {
      await svg.scrollIntoViewIfNeeded()
      const on = await svg.boundingBox()
      const at = ([x, y]) => [on.x + (x * on.width) / 400, on.y + (y * on.height) / 200]
      await page.mouse.move(...at(from))
      await page.mouse.down()
      await page.mouse.move(...at(to), { steps: 4 })
      await page.mouse.up()
    }
    const drawn = svg.locator('g > rect:first-child')
    const spans = async () => (await Promise.all(['x', 'y', 'width', 'height'].map((n) => drawn.getAttribute(n)))).map((v) => Math.round(v))
    const near = (wanted) => expect.poll(async () => (await spans()).every((v, i) => Math.abs(v - wanted[i]) <= 3), { message: `near ${wanted}` }).toBe(true)
    await drag([40, 20], [140, 80])
    await near([40, 20, 100, 60])
    await drag([90, 50], [190, 100]) // by its middle
    await near([140, 70, 100, 60])
    await drag([240, 130], [260, 150]) // by its corner
    await near([140, 70, 120, 80])
    await expect(svg.locator('g')).toHaveCount(2)
    await svg.locator('g').last().press('Delete')
    await expect(svg.locator('g')).toHaveCount(1)
    await page.getByRole('button', { name: 'Picture', exact: true }).click()
    await page.keyboard.press('Tab')
    await page.getByLabel('Alternative text').fill('A harbor with a brown pier')
    await page.getByLabel('Alternative text').blur()
    await kept(page)
    const file = await (await page.request.get(await shown.locator('img').getAttribute('src'))).text()
    expect(file).not.toContain('onload')
  })
  await test.step('menus', async () => {
    await begin(page, 'menus in a sentence')
    await page.getByLabel('The sentence').fill('The tide [rises|falls] twice a [day|week].')
    await page.getByLabel('The sentence').blur()
    await seen(page).getByLabel('Menu 1 of 2').selectOption({ label: 'rises' })
    await seen(page).getByLabel('Menu 2 of 2').selectOption({ label: 'day' })
    await page.getByLabel('The sentence').fill('The tide [sinks|rises|falls] twice a [day|week].')
    await page.getByLabel('The sentence').blur()
    await expect(seen(page).getByLabel('Menu 1 of 2')).toHaveText(/rises/)
    await expect(seen(page).getByLabel('Menu 1 of 2').locator('option:checked')).toHaveText('rises')
  })
  await test.step('parts', async () => {
    await begin(page, 'several parts')
    await page.getByRole('combobox', { name: 'Kind' }).nth(1).selectOption('number')
    await write(page, 'Question of part 2', 'How many?')
    await seen(page).getByRole('textbox').fill('12')
    await expect(page.getByLabel('Accepted answers')).toHaveValue('12')
    await expect(page.getByRole('combobox', { name: 'Counts only with' })).toHaveValue('RESPONSE1')
    await page.getByRole('button', { name: 'Add a part' }).click()
    await expect(page.getByRole('heading', { name: 'Part 3' })).toBeVisible()
  })
  await test.step('two languages', async () => {
    await begin(page, 'true or false')
    await write(page, 'Question', 'The tide rises twice a day.')
    await kept(page)
    await page.getByText('In Spanish', { exact: true }).click()
    await page.getByRole('button', { name: 'Write it in Spanish too' }).click()
    await expect(page.getByText('3 of 3 texts are missing')).toBeVisible()
    await write(page, 'Text in Spanish', 'La marea sube dos veces al día.')
    await expect(page.getByText('2 of 3 texts are missing')).toBeVisible()
    await seen(page).getByRole('button', { name: 'Español' }).click()
    await expect(seen(page).getByText('La marea sube dos veces al día.')).toBeVisible()
    await seen(page).getByRole('button', { name: 'English' }).click()
  })
})

test('the editor of each kind is accessible', async ({ browser }) => {
  test.setTimeout(240_000)
  const page = await as(browser, 'Ines Okafor')
  const codes = [
    'single-choice', 'multiple-choice', 'true-false', 'select-text', 'menus', 'order', 'match', 'sort', 'box-table',
    'number-line', 'spot', 'text', 'number', 'short-written', 'extended-written', 'parts', 'examiner',
  ]
  expect(codes).toHaveLength(kinds.length)
  for (const kind of codes) {
    await test.step(kind, async () => {
      const draft = await page.request.post('/api/item-drafts', { data: { kind } })
      expect(draft.status(), await draft.text()).toBe(200)
      await page.goto(`/bank/write/${(await draft.json()).id}`)
      await expect(page.getByRole('textbox', { name: 'Question', exact: true })).toBeVisible()
      await accessible(page, 'main')
    })
  }
})

test('a true or false item is written without a mouse', async ({ browser }) => {
  const page = await as(browser, 'Tomás Lindqvist')
  await page.goto('/bank')
  await page.getByRole('button', { name: 'Write an item' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('dialog').getByRole('button', { name: 'true or false' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Question', exact: true }).focus()
  await page.keyboard.type('Kelp takes up energy from sunlight.')
  await kept(page)
  await seen(page).getByRole('radio').first().focus()
  await page.keyboard.press('Space')
  await expect(seen(page).getByRole('radio').first()).toBeChecked()
  await page.locator('#subject select').focus()
  await page.keyboard.type('Sci')
  await kept(page)
  await page.getByRole('button', { name: 'Add to the bank' }).focus()
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/bank$/)
  await expect(page.getByRole('table', { name: 'Items' }).locator('tbody tr').first()).toContainText('Kelp takes up energy')
})

test('items go out as a package and come in again unchanged', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await page.goto('/bank?kind=spot')
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'QTI 3.0' }).click()])
  const buffer = readFileSync(await download.path())
  await page.goto('/rosters')
  await page.getByRole('button', { name: 'Import files' }).click()
  const panel = page.getByRole('complementary', { name: 'Import files' })
  const bring = async (name, bytes) => {
    await panel.getByLabel(/^Items/).check()
    await panel.getByLabel('File', { exact: true }).setInputFiles({ name, mimeType: 'application/zip', buffer: bytes })
    await panel.getByRole('button', { name: 'Import', exact: true }).click()
    await expect(panel.getByRole('heading', { name: new RegExp(`${name}.*(done|failed)`) })).toBeVisible()
  }
  await bring('items.zip', buffer)
  await expect(panel.locator('dl')).toContainText('Unchanged12')
  await bring('broken.zip', buffer.subarray(0, 400))
  await expect(panel.getByText('Nothing was changed.')).toBeVisible()
})

test('texts hold tables, pictures, sound and word help, and feedback goes with wrong answers', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await begin(page, 'single choice')
  await write(page, 'Question', 'Look and listen.')
  await page.getByRole('button', { name: 'Table', exact: true }).click()
  await page.keyboard.type('Month')
  await page.keyboard.press('Tab')
  await page.keyboard.type('Herons')
  await page.keyboard.press('Tab')
  await page.keyboard.type('Ospreys')
  await page.getByRole('button', { name: 'row below' }).click()
  await expect(seen(page).locator('table tr')).toHaveCount(4)
  await expect(seen(page).locator('th').first()).toHaveText('Month')

  const choose = async (tool, file) => {
    await page.getByRole('textbox', { name: 'Question', exact: true }).click()
    const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('toolbar').getByRole('button', { name: tool }).click()])
    await chooser.setFiles(file)
  }
  await choose('Picture', { name: 'pier.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(picture) })
  await expect(seen(page).locator('.text img')).toBeVisible()
  await expect(page.getByText('a picture has no alternative text')).toBeVisible()
  await page.locator('#body .sheet img[src]').click()
  await page.getByLabel('Alternative text').fill('A brown pier')
  await page.getByLabel('Alternative text').press('Tab')
  await expect(page.getByText('a picture has no alternative text')).toHaveCount(0)
  await expect(seen(page).locator('.text img')).toHaveAttribute('alt', 'A brown pier')

  const wav = Buffer.concat([Buffer.from('RIFF\x24\x00\x00\x00WAVEfmt \x10\x00\x00\x00\x01\x00\x01\x00\x40\x1f\x00\x00\x40\x1f\x00\x00\x01\x00\x08\x00data\x00\x00\x00\x00', 'latin1'), Buffer.alloc(64)])
  await choose('Sound', { name: 'bell.wav', mimeType: 'audio/wav', buffer: wav })
  await expect(seen(page).locator('audio')).toHaveAttribute('src', /^\/media\/[0-9a-f]{64}$/)
  await choose('Picture', { name: 'letter.txt', mimeType: 'text/plain', buffer: Buffer.from('hello') })
  await expect(page.getByText('letter.txt is text, not a drawing in SVG.')).toBeVisible()

  await write(page, 'choice A', 'the pier')
  await page.keyboard.press('Control+Shift+ArrowLeft') // the word that was typed last, to be explained
  await page.getByRole('toolbar').getByRole('button', { name: 'Word help' }).click()
  await expect(page.getByText('the help for "pier" is not written')).toBeVisible()
  await write(page, 'pier, explained in English', 'where boats lie')
  await page.getByRole('combobox', { name: 'Explain pier in another language' }).selectOption('es')
  await page.keyboard.type('muelle')
  await write(page, 'choice B', 'the moon')
  await page.getByRole('button', { name: 'Delete choice D' }).click()
  await page.getByRole('button', { name: 'Delete choice C' }).click()
  await expect(page.getByText('is not written')).toHaveCount(0)
  await seen(page).locator('label', { hasText: 'the pier' }).click()
  await page.getByText('Feedback', { exact: true }).click()
  await write(page, 'What to go over again after B', 'Go over what floats.')
  await kept(page)
  await page.reload()
  await page.getByText('Feedback', { exact: true }).click()
  await expect(page.getByRole('textbox', { name: 'What to go over again after B' })).toHaveText('Go over what floats.')
  await expect(page.locator('#body .sheet table tr')).toHaveCount(4)
  await expect(page.getByRole('textbox', { name: 'pier, explained in Spanish' })).toHaveText('muelle')
  expect(await seen(page).innerHTML()).not.toContain('Go over what floats')
})

test('a student reads an item in the other language and keeps the answer', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await page.goto('/bank?words=eelgrass+sunlight')
  await page.getByRole('button', { name: 'Try it' }).click()
  const preview = page.getByRole('complementary', { name: 'Preview' })
  await preview.getByRole('radio').nth(3).check()
  await preview.getByRole('button', { name: 'Español' }).click()
  await expect(preview.getByText('¿Qué ser vivo produce su propio alimento con la luz del sol?')).toBeVisible()
  await expect(preview.getByRole('radio').nth(3)).toBeChecked()
  await expect(preview.locator('.item')).toHaveAttribute('lang', 'es')
  await page.reload()
  await page.getByRole('button', { name: 'Try it' }).click()
  await expect(preview.getByText('la zostera marina')).toBeVisible() // the language stays
  await preview.getByRole('button', { name: 'English' }).click()
  await expect(preview.getByText('eelgrass')).toBeVisible()
})
