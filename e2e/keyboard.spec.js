import { expect, test } from './district.js'
import { tabTo } from './keys.js'
import { as } from './people.js'

// The job without a mouse.

test('an assessment is built and sealed with the keyboard alone', async ({ browser }) => {
  test.setTimeout(120_000)
  const page = await as(browser, 'Tomás Lindqvist')
  await page.goto('/today')
  await expect(page.getByRole('heading', { name: 'Today' })).toBeVisible()
  await page.keyboard.press('Control+k')
  await expect(page.getByRole('combobox', { name: 'Go to' })).toBeFocused()
  await page.keyboard.type('assess')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Assessments' })).toBeVisible()

  await tabTo(page, page.getByRole('button', { name: 'Start an assessment' }))
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Title', { exact: true })).toBeFocused()
  await page.keyboard.type('By keys alone')
  await tabTo(page, page.getByRole('checkbox', { name: '3', exact: true }))
  await page.keyboard.press('Space')
  await tabTo(page, page.getByRole('button', { name: 'Start', exact: true }))
  await page.keyboard.press('Enter')

  await expect(page.getByRole('heading', { name: 'Blueprint' })).toBeVisible()
  await tabTo(page, page.getByRole('button', { name: 'Add a row', exact: true }).first())
  await page.keyboard.press('Enter')
  await expect(page.getByRole('combobox', { name: 'Standards, with all below, row 1' })).toBeFocused()
  await page.keyboard.type('M3.OP')
  await tabTo(page, page.getByRole('textbox', { name: 'Plan, row 1' }))
  await page.keyboard.press('Control+a')
  await page.keyboard.type('2')
  await expect(page.getByRole('link', { name: /Blueprint/ })).toContainText('2 items, 1 row')

  await tabTo(page, page.getByRole('link', { name: /^Lines/ }).first())
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Lines' })).toBeVisible()
  await tabTo(page, page.getByRole('button', { name: 'Show items that fit' }).first())
  await page.keyboard.press('Enter')
  const panel = page.getByRole('complementary', { name: /^Add items/ })
  await expect(panel).toBeFocused()
  for (let n = 0; n < 2; n++) {
    await tabTo(page, panel.getByRole('button', { name: /^Place M3/ }).first())
    await page.keyboard.press('Enter')
    await expect(page.getByRole('table', { name: 'Lines' }).locator('tbody tr')).toHaveCount(n + 1)
  }
  await page.keyboard.press('Escape')
  await expect(panel).toHaveCount(0)

  const rows = page.getByRole('table', { name: 'Lines' }).locator('tbody tr')
  const second = await rows.nth(1).locator('td').nth(2).textContent()
  await tabTo(page, rows.nth(0))
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Alt+ArrowUp')
  await expect(rows.nth(0)).toContainText(second)
  await page.keyboard.press('Control+z')
  await expect(rows.nth(1)).toContainText(second)

  await tabTo(page, page.getByRole('button', { name: 'Seal', exact: true }))
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Not yet' })).toBeFocused()
  await expect(page.locator('.p-dialog-enter-active')).toHaveCount(0) // it takes the focus once more when it has come
  await page.keyboard.press('Tab')
  await expect(page.getByRole('button', { name: 'Seal edition 1' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByText('2 lines, sealed')).toBeVisible()
})

test('the skip link, the help of keys and the way back from a panel', async ({ browser }) => {
  const page = await as(browser, 'Ines Okafor')
  await page.goto('/ledger')
  await expect(page.getByRole('table', { name: 'Ledger entries' })).toBeVisible()
  await page.keyboard.press('Tab')
  await expect(page.getByRole('link', { name: 'Skip to the content' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.locator('#main')).toBeFocused()
  await page.goto('/bank')
  await expect(page.getByRole('table', { name: 'Items' })).toBeVisible() // its keys are known by then
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog')).toContainText('pick the item into the tray')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
})
