import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { as, leave } from './people.js'

// Face to face: an adult asks, presses one key, and the child sees the picture alone.

test.afterEach(leave)

test('a child is recorded by keys, the second window shows no key, and the score counts', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  const today = await (await page.request.get('/api/today')).json()
  const sitting = today.sittings.find((s) => s.title.startsWith('Kindergarten') && s.door === 'open')
  await page.goto(`/rooms/${sitting.id}`)
  const link = page.getByRole('link', { name: /^Record/ }).filter({ hasText: 'record' }).first()
  const name = (await link.getAttribute('aria-label')).replace('Record ', '')
  await link.click()
  await expect(page.getByRole('heading', { name: 'Line 1, 1 of 10' })).toBeVisible()
  const adult = page.getByRole('region', { name: 'For the adult' })
  await expect(adult).toContainText('How many dots are there?')
  await expect(adult).toContainText('Right is six')
  await accessible(page, 'main')

  const [child] = await Promise.all([page.context().waitForEvent('page'), page.getByRole('button', { name: 'Second window for the child' }).click()])
  await expect(child.locator('img')).toBeVisible()
  const first = await child.locator('img').getAttribute('src')
  const asked = []
  child.on('request', (r) => asked.push(r.url()))

  for (const key of ['r', 'w', 'n', 'r', 'r', 'r', 'r', 'r', 'r']) await page.keyboard.press(key)
  await expect(page.getByRole('heading', { name: 'Line 10, 10 of 10' })).toBeVisible()
  await expect(child.locator('img')).not.toHaveAttribute('src', first)
  expect(await child.content()).not.toMatch(/six|Right is|Say:/)
  expect(asked.filter((u) => u.includes('/api/')).length, 'the child’s window asks for nothing').toBe(0)

  await page.keyboard.press('Backspace')
  await page.keyboard.press('w') // line 9 after all
  await page.keyboard.press('r')
  await expect(page.getByText('10 of 10 recorded')).toBeVisible()

  await page.keyboard.press('t')
  const turned = page.getByRole('dialog', { name: 'The child’s picture' }).or(page.getByRole('dialog', { name: "The child's picture" }))
  await expect(turned.locator('img')).toBeVisible()
  await expect(turned).not.toContainText('Right is')
  await page.keyboard.press('Escape')

  await page.reload() // at once: what is not sent yet stands
  await expect(page.getByText('10 of 10 recorded · saved')).toBeVisible()
  await page.getByRole('button', { name: 'Done with this child' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'Done with this child' }).click()
  await page.getByRole('button', { name: 'Back to the room' }).click()
  const row = page.getByRole('row', { name })
  await expect(row).toContainText('handed in')
  const { rows } = await (await page.request.get(`/api/results/${sitting.distributionId}/matrix?limit=500`)).json()
  const mine = rows.find((r) => r.student.split(' ').every((part) => name.includes(part)))
  expect([mine.raw, mine.outcomes]).toEqual([7, 'rworrrrrwr'])
})

test('the order is mixed for each child and stays so for that child', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  const today = await (await page.request.get('/api/today')).json()
  const sitting = today.sittings.find((s) => s.title.startsWith('Kindergarten') && s.door === 'open')
  await page.goto(`/rooms/${sitting.id}`)
  await page.getByRole('link', { name: /^Record/ }).filter({ hasText: 'record' }).last().click()
  const strip = page.getByRole('navigation', { name: 'Lines' })
  const order = async () => (await strip.getByRole('button').allTextContents()).map((t) => parseInt(t))
  await expect(strip).toBeVisible()
  expect(await order()).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10])
  await page.getByLabel('Mix the order for each child').check()
  const mixed = await order()
  expect(mixed).not.toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10])
  await page.reload()
  await expect(strip).toBeVisible()
  expect(await order()).toEqual(mixed)
  await page.getByLabel('Mix the order for each child').uncheck()
})
