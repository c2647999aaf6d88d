import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { writeFileSync } from 'node:fs'
import { as, asPerson, leave, openWork, startWork } from './people.js'

// A user's worst day.

test.afterEach(leave)

test('two editors: the slower one is told, and nothing is overwritten', async ({ browser }) => {
  const one = await as(browser, 'Ines Okafor')
  const two = await as(browser, 'Tomás Lindqvist')
  const list = await (await one.request.get('/api/assessments')).json()
  const id = list.find((a) => a.title.startsWith('Grade 7 science')).id
  await one.goto(`/assessments/${id}/outline`)
  await two.goto(`/assessments/${id}/outline`)
  await expect(two.getByLabel('Title', { exact: true })).toHaveValue(/Grade 7 science/) // both have read it before one writes
  await one.getByLabel('Title', { exact: true }).fill('Grade 7 science, first hand')
  await expect(one.getByText(/saved .* Ines Okafor/)).toBeVisible()
  await two.getByLabel('Title', { exact: true }).fill('Grade 7 science, second hand')
  await expect(two.getByRole('alert').first()).toContainText('Ines Okafor changed this meanwhile')
  const kept = await (await one.request.get(`/api/assessments/${id}`)).json()
  expect(kept.outline.title).toBe('Grade 7 science, first hand')
  await expect(two.getByLabel('Title', { exact: true })).toHaveValue('Grade 7 science, second hand')
  await two.getByRole('button', { name: 'Keep mine over theirs' }).click()
  await expect(two.getByText(/saved .* Tomás Lindqvist/)).toBeVisible()
  await one.reload()
  await expect(one.getByLabel('Title', { exact: true })).toHaveValue('Grade 7 science, second hand')
})

test('what is typed just before leaving is kept', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  const list = await (await page.request.get('/api/assessments')).json()
  const id = list.find((a) => a.title.startsWith('Grade 4')).id
  await page.goto(`/assessments/${id}/outline`)
  await page.getByLabel('Description').fill('Typed and left at once')
  await page.getByRole('link', { name: /^Cuts/ }).click()
  await expect(page.getByRole('heading', { name: 'Cuts' })).toBeVisible()
  await page.goBack()
  await expect(page.getByLabel('Description')).toHaveValue('Typed and left at once')
  await expect
    .poll(async () => (await (await page.request.get(`/api/assessments/${id}`)).json()).outline.description)
    .toBe('Typed and left at once')
})

test('two tabs of one coordinator: lines placed in both are all there', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  const list = await (await page.request.get('/api/assessments')).json()
  const id = list.find((a) => a.title.startsWith('Grade 4')).id
  const second = await page.context().newPage()
  for (const tab of [page, second]) {
    await tab.goto(`/assessments/${id}/lines`)
    await expect(tab.getByRole('table', { name: 'Lines' })).toBeVisible()
  }
  const before = (await (await page.request.get(`/api/assessments/${id}`)).json()).lines.length
  const place = async (tab, which) => {
    await tab.getByRole('button', { name: 'Add items' }).click()
    await tab.getByRole('button', { name: /^Place M4/ }).nth(which).click()
  }
  // The second tab does not hear of the first one's line before it writes.
  const old = await (await page.request.get(`/api/assessments/${id}`)).json()
  let hears = false
  await second.route(`**/api/assessments/${id}`, (route) => (hears ? route.continue() : route.fulfill({ json: old })))
  await second.route(`**/api/assessments/${id}/lines`, (route) => {
    hears = true
    return route.continue()
  })
  const count = (tab, n) => expect(tab.getByRole('link', { name: /^Lines/ })).toContainText(`${n}`)
  await place(page, 0)
  await count(page, before + 1)
  await place(second, 1)
  await expect(second.getByText('Their changes and yours both stand.')).toBeVisible()
  await count(second, before + 2)
  expect((await (await page.request.get(`/api/assessments/${id}`)).json()).lines).toHaveLength(before + 2)
})

test('a student without a network goes on working, and everything arrives later', async ({ browser }) => {
  const page = await as(browser, 'student')
  await startWork(page)
  const strip = page.getByRole('navigation', { name: 'Items' })
  const open = strip.getByRole('button', { name: /not answered/ }).first()
  const item = (await open.getAttribute('aria-label')).match(/\d+/)[0]
  await open.click()
  await page.context().setOffline(true)
  await page.locator('.item label').nth(1).click()
  await expect(page.getByText('Not saved yet, will send when the network is back')).toBeVisible()
  await expect(strip.getByRole('button', { name: `Item ${item}, answered, you are here` })).toBeVisible()
  await page.context().setOffline(false)
  await expect(page.getByText(/^Saved /)).toBeVisible({ timeout: 15_000 })
  expect(await keptOnLine(page, item)).toHaveLength(1)
})

test('a slow network shows that an answer is not kept yet, and a reload in the middle loses none', async ({ browser }) => {
  const page = await as(browser, 'student')
  await startWork(page)
  const slow = async (route) => {
    await new Promise((done) => setTimeout(done, 1_500))
    await route.continue().catch(() => {}) // the page may have gone meanwhile
  }
  await page.route('**/answers', slow)
  const strip = page.getByRole('navigation', { name: 'Items' })
  await strip.getByRole('button', { name: /^Item 8,/ }).click()
  await page.locator('.item label').nth(2).click()
  await expect(page.getByText('Saving…')).toBeVisible()
  await expect(page.getByText(/^Saved /)).toBeVisible()
  await page.locator('.item label').nth(0).click()
  await expect(page.getByText('Saving…')).toBeVisible()
  await page.reload()
  await expect(page.locator('.item label').nth(0)).toHaveClass(/chosen/)
  const chosen = await page.locator('.item input').nth(0).inputValue()
  await expect.poll(() => keptOnLine(page, 8), { timeout: 15_000 }).toEqual([chosen])
})

test('a session that ends in the middle of work is said, and nothing is lost', async ({ browser }) => {
  const people = await (await (await browser.newPage()).request.get('/api/demo/people')).json()
  const who = people.filter((p) => p.role === 'student')[1]
  const page = await asPerson(browser, who.id)
  await startWork(page)
  await page.getByRole('navigation', { name: 'Items' }).getByRole('button', { name: /^Item 9,/ }).click()
  await expect(page.getByRole('heading', { name: /^9/ })).toBeVisible()
  await page.request.delete('/api/session') // the browser's own cookie: signed out in another tab
  await page.locator('.item label').nth(1).click()
  await expect(page.getByRole('alert')).toContainText(/sign in/i)
  await page.request.post('/api/demo/session', { data: { personId: who.id } })
  await page.reload()
  await expect(page.locator('.item label').nth(1)).toHaveClass(/chosen/)
  const chosen = await page.locator('.item input').nth(1).inputValue()
  await expect.poll(() => keptOnLine(page, 9)).toEqual([chosen])
})

/** What the server has on disk for a line of the open attempt. */
async function keptOnLine(page, line) {
  const sitting = page.url().match(/desk\/(\d+)/)[1]
  const take = await (await page.request.post(`/api/my/sittings/${sitting}/attempt`)).json()
  return Object.values(take.lines[line - 1].response)[0]
}

test('no key ever reaches a student’s browser', async ({ browser }) => {
  const page = await as(browser, 'student')
  const bodies = []
  page.on('response', async (r) => {
    if (r.url().includes('/api/')) bodies.push(await r.text().catch(() => ''))
  })
  await startWork(page)
  await page.waitForLoadState('networkidle')
  const all = bodies.join('\n') + (await page.content())
  expect(all).toContain('choices')
  for (const word of ['"correct"', '"key"', 'declarations', '"credit"', 'tolerance']) expect(all).not.toContain(word)
  for (const path of ['/api/items/1', '/api/results/1/matrix', '/api/assessments/1']) expect([403, 404]).toContain((await page.request.get(path)).status())
})

test('a student works with the keyboard alone', async ({ browser }) => {
  const page = await as(browser, 'student')
  await openWork(page, (button) => button.press('Enter'))
  await page.getByRole('navigation', { name: 'Items' }).getByRole('button', { name: /^Item 6,/ }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: /^6/ })).toBeFocused()
  await page.keyboard.press('Tab') // mark for later
  await page.keyboard.press('Tab') // the choices
  await page.keyboard.press('Space')
  await page.keyboard.press('ArrowDown')
  const chosen = page.locator('.item label.chosen')
  await expect(chosen).toHaveCount(1)
  await expect(page.getByText(/^Saved /)).toBeVisible()
})

test('a file with bad rows comes in without them and says why', async ({ browser }, info) => {
  const page = await as(browser, 'district-coordinator')
  const file = info.outputPath('more.items.csv')
  writeFileSync(file, 'identifier,bank,kind,subject,grade,standards,stem,choice_1,choice_2,key\nE1,Own bank,single-choice,Science,05,S5.EW.1,Is the sea salty?,yes,no,A\nE2,Own bank,single-choice,Science,05,S5.EW.1,Is it?,yes,no,D\n')
  await page.goto('/rosters')
  await page.getByRole('button', { name: 'Import files' }).click()
  await page.getByRole('radio', { name: /Items/ }).check()
  await page.getByLabel('File', { exact: true }).setInputFiles(file)
  await page.getByRole('button', { name: 'Import', exact: true }).click()
  await expect(page.getByText('"D" is not the letter of one of the 2 choices')).toBeVisible()
  const report = await (await page.request.get(await page.getByRole('link', { name: 'Download the report' }).getAttribute('href'))).text()
  expect(report).toContain('more.items.csv')
  await page.goto('/bank?words=salty')
  await expect(page.getByRole('table', { name: 'Items' })).toContainText('Is the sea salty?')
  await expect(page.getByRole('table', { name: 'Items' })).not.toContainText('Is it?')
})

test('the back button undoes a search, and a strange address says so', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  await page.goto('/bank')
  await page.getByRole('checkbox', { name: /^reading/ }).check()
  await expect(page).toHaveURL(/subject=reading/)
  await page.goBack()
  await expect(page.getByRole('checkbox', { name: /^reading/ })).not.toBeChecked()
  await page.goto('/assessments/99999/lines')
  await expect(page.getByText('Not found, or you don’t have access.')).toBeVisible()
  await page.goto('/nowhere')
  await expect(page.getByText('Not found, or you don’t have access.')).toBeVisible()
  await page.keyboard.press('Control+k')
  await page.getByRole('combobox', { name: 'Go to' }).fill('fall')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/assessments\/\d+|results\/\d+/)
})

test('staff pages fit a phone, and a screen at 400 %', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  const paths = ['/today', '/bank', '/assessments/1/lines', '/assessments/6/blueprint', '/assessments/1/distribution', '/results/1/matrix', '/rosters', '/ledger', '/bank/items/1']
  for (const path of paths) {
    await page.goto(path)
    const head = page.locator('main').getByRole('heading').first()
    await expect(head).toBeAttached()
    for (const [width, height] of [
      [390, 844],
      [320, 256],
    ]) {
      await page.setViewportSize({ width, height })
      expect(await page.evaluate(() => document.documentElement.scrollWidth), `${path} at ${width} px is not wider than the screen`).toBeLessThanOrEqual(width)
      const cut = await page.getByRole('main').evaluate((main) =>
        [...main.querySelectorAll('h1, h2')].filter((h) => !h.matches('.out-of-sight') && h.scrollWidth > h.clientWidth + 1).map((h) => h.textContent),
      )
      expect(cut, `titles of ${path} at ${width} px are whole`).toEqual([])
    }
  }
})
