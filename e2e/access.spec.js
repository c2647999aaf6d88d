import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { as, leave, startWork } from './people.js'

// Views that no other story dwells on; the others are checked where a story has filled them.

test.afterEach(leave)

test('sign in', async ({ page }) => {
  await page.goto('/signin')
  await expect(page.getByText('Ines Okafor')).toBeVisible()
  await accessible(page)
})

test('what coordinators see', async ({ browser }) => {
  const page = await as(browser, 'district-coordinator')
  for (const path of ['/today', '/assessments', '/ledger']) {
    await test.step(path, async () => {
      await page.goto(path)
      await expect(page.locator('main').getByRole('listitem').or(page.locator('main tbody tr')).first()).toBeVisible()
      await accessible(page)
    })
  }
})

test('a student at 400 % reads the whole item, and the bars scroll away', async ({ browser }) => {
  const page = await as(browser, 'student', { viewport: { width: 320, height: 256 } })
  await startWork(page)
  await accessible(page)
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth), 'nothing runs off the side').toBe(true)
  const cue = page.getByRole('button', { name: /^To item/ })
  if (await cue.isVisible()) await cue.click()
  await page.locator('.item label').first().scrollIntoViewIfNeeded()
  const seen = await page.evaluate(() => {
    const { top, bottom } = document.querySelector('.item label').getBoundingClientRect()
    return document.elementsFromPoint(160, (top + bottom) / 2).some((e) => e.closest('.item'))
  })
  expect(seen, 'no bar lies over the choice').toBe(true)
})

test('what is chosen, answered and current stays visible in the colors of the system', async ({ browser }) => {
  const page = await as(browser, 'student', { forcedColors: 'active' })
  await startWork(page)
  const look = (part) => page.locator(part).first().evaluate((e) => [getComputedStyle(e).backgroundColor, getComputedStyle(e).borderTopWidth].join())
  await page.locator('.item label').first().click()
  expect(await look('.item label.chosen .letter')).not.toBe(await look('.item label:not(.chosen) .letter'))
  const cells = 'nav[aria-label=Items] button'
  expect(await look(`${cells}.done`)).not.toBe(await look(`${cells}:not(.done)`))
  expect(await look(`${cells}.here`)).not.toBe(await look(`${cells}:not(.here)`))
})

test('what a student sees, on a wide and on a narrow screen', async ({ browser }) => {
  for (const viewport of [{ width: 1280, height: 800 }, { width: 390, height: 760 }]) {
    const page = await as(browser, 'student', { viewport })
    await page.goto('/desk')
    await expect(page.getByRole('button', { name: /Start|Continue/ }).first()).toBeVisible()
    await accessible(page)
    await startWork(page)
    await accessible(page)
    expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth), 'nothing runs off the side').toBe(true)
    await page.getByRole('button', { name: 'Look over and hand in' }).click()
    await accessible(page)
  }
})

test('a student reads everything in Spanish until they sign out', async ({ browser }) => {
  const page = await as(browser, 'student')
  await startWork(page)
  await page.getByLabel('Language').selectOption('es')
  await expect(page.getByRole('button', { name: 'Revisar y entregar' })).toBeVisible()
  await expect(page.locator('html')).toHaveAttribute('lang', 'es')
  await page.reload()
  await page.getByRole('button', { name: 'Revisar y entregar' }).click()
  await expect(page.getByRole('heading', { name: 'Revisar' })).toBeVisible()
  await accessible(page)
  await page.goto('/desk')
  await page.getByRole('button', { name: 'Salir' }).click()
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible()
  await expect(page.locator('html')).toHaveAttribute('lang', 'en')
  const student = (await (await page.request.get('/api/demo/people')).json()).find((p) => p.role === 'student')
  await page.getByRole('button', { name: new RegExp(`^${student.name}`) }).first().click()
  await expect(page.getByRole('heading', { name: 'My assessments' })).toBeAttached() // the next one begins in English
})
