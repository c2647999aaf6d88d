import { expect, test } from '@playwright/test'
import { writeFileSync } from 'node:fs'
import { as } from './people.js'

// A user's worst day.

test('two editors: the slower one is told, and nothing is overwritten', async ({ browser }) => {
  const one = await as(browser, 'Ines Okafor')
  const two = await as(browser, 'Tomás Lindqvist')
  const list = await (await one.request.get('/api/assessments')).json()
  const id = list.find((a) => a.title.startsWith('Grade 7 science')).id
  await one.goto(`/assessments/${id}/outline`)
  await two.goto(`/assessments/${id}/outline`)
  await one.getByLabel('Title', { exact: true }).fill('Grade 7 science, first hand')
  await expect(one.getByText(/kept .* Ines Okafor/)).toBeVisible()
  await two.getByLabel('Title', { exact: true }).fill('Grade 7 science, second hand')
  await expect(two.getByRole('alert').first()).toContainText('Ines Okafor changed this meanwhile')
  const kept = await (await one.request.get(`/api/assessments/${id}`)).json()
  expect(kept.outline.title).toBe('Grade 7 science, first hand')
})

test('a student without a network goes on working, and everything arrives later', async ({ browser }) => {
  const page = await as(browser, 'student')
  await page.goto('/work')
  await page.getByRole('button', { name: /Start|Go on/ }).first().click()
  const begin = page.getByRole('button', { name: 'Begin' })
  await expect(begin.or(page.locator('.item'))).toBeVisible()
  if (await begin.isVisible()) await begin.click()
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
  const sitting = page.url().match(/work\/(\d+)/)[1]
  const take = await (await page.request.post(`/api/my/sittings/${sitting}/attempt`)).json()
  expect(Object.values(take.lines[item - 1].response)[0]).toHaveLength(1)
})

test('no key ever reaches a student’s browser', async ({ browser }) => {
  const page = await as(browser, 'student')
  const bodies = []
  page.on('response', async (r) => {
    if (r.url().includes('/api/')) bodies.push(await r.text().catch(() => ''))
  })
  await page.goto('/work')
  await page.getByRole('button', { name: /Start|Go on/ }).first().click()
  await page.waitForURL(/work\/\d+/)
  await page.waitForLoadState('networkidle')
  const all = bodies.join('\n') + (await page.content())
  expect(all).toContain('choices')
  for (const word of ['"correct"', '"key"', 'declarations', '"credit"', 'tolerance']) expect(all).not.toContain(word)
  for (const path of ['/api/items/1', '/api/results/1/matrix', '/api/assessments/1']) expect([403, 404]).toContain((await page.request.get(path)).status())
})

test('a student works with the keyboard alone', async ({ browser }) => {
  const page = await as(browser, 'student')
  await page.goto('/work')
  const start = page.getByRole('button', { name: /Start|Go on/ }).first()
  await start.focus()
  await page.keyboard.press('Enter')
  await expect(page.locator('.item')).toBeVisible()
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
  await page.getByRole('button', { name: 'Bring in files' }).click()
  await page.getByRole('radio', { name: /Items/ }).check()
  await page.getByLabel('File', { exact: true }).setInputFiles(file)
  await page.getByRole('button', { name: 'Bring it in' }).click()
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
  await expect(page.getByText('There is no such thing, or it is not yours to see.')).toBeVisible()
  await page.goto('/nowhere')
  await expect(page.getByText('There is nothing at this address')).toBeVisible()
  await page.keyboard.press('Control+k')
  await page.getByRole('combobox', { name: 'Go to' }).fill('fall')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/assessments\/\d+|results\/\d+/)
})
