import AxeBuilder from '@axe-core/playwright'
import { expect, test } from './district.js'
import { as, leave, startWork } from './people.js'

// WCAG 2.2 AA, as far as a machine can tell, on each main view.
async function check(page) {
  await page.waitForLoadState('networkidle')
  await page.waitForTimeout(200) // a panel that slides in
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => `${n.target} ${n.failureSummary}`).join(' | ')}`)).toEqual([])
}

test.afterEach(leave)

test('sign in', async ({ page }) => {
  await page.goto('/signin')
  await expect(page.getByText('Ines Okafor')).toBeVisible()
  await check(page)
})

test('what coordinators see', async ({ browser }) => {
  test.setTimeout(240_000)
  const page = await as(browser, 'district-coordinator')
  const list = await (await page.request.get('/api/assessments')).json()
  const draft = list.find((a) => a.title.startsWith('Grade 4')).id
  const sealed = list.find((a) => a.title.startsWith('Grade 6')).id
  for (const path of ['/today', '/bank?standard=60', '/bank/items/1', '/bank/passages', '/bank/passages/1', '/bank/shelf', '/bank/banks', '/bank/tags', '/bank/standards', '/assessments', `/assessments/${draft}/outline`, `/assessments/${draft}/blueprint`, `/assessments/${draft}/lines`, `/assessments/${sealed}/cuts`, `/assessments/${sealed}/distribution`, '/bands?set=1', '/results/1', '/rosters', '/ledger']) {
    await test.step(path, async () => {
      await page.goto(path)
      await check(page)
    })
  }
  await test.step('imports', async () => {
    await page.goto('/rosters')
    await page.getByRole('button', { name: 'Bring in files' }).click()
    await check(page)
  })
  await test.step('matrix and trail', async () => {
    await page.goto('/results/1/matrix')
    await page.getByRole('button', { name: /line 1:/ }).first().click()
    await expect(page.getByRole('complementary', { name: 'Trail of a score' })).toBeVisible()
    await check(page)
  })
  await test.step('add items', async () => {
    await page.goto(`/assessments/${draft}/lines`)
    await page.getByRole('button', { name: 'Add items' }).click()
    await check(page)
  })
})

test('what a teacher sees', async ({ browser }) => {
  const page = await as(browser, 'teacher')
  await page.goto('/today')
  await check(page)
  await page.getByRole('link', { name: /^5-/ }).first().click()
  await expect(page.getByRole('table', { name: 'Students of this sitting' })).toBeVisible()
  await check(page)
})

test('what a student sees, on a wide and on a narrow screen', async ({ browser }) => {
  for (const viewport of [{ width: 1280, height: 800 }, { width: 390, height: 760 }]) {
    const page = await as(browser, 'student', { viewport })
    await page.goto('/desk')
    await check(page)
    await startWork(page)
    await check(page)
    expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth), 'nothing runs off the side').toBe(true)
    await page.getByRole('button', { name: 'Look over and hand in' }).click()
    await check(page)
  }
})
