import { chromium } from '@playwright/test'
import { launch } from './chromium.js'
const [base, person, path, file, ...clicks] = process.argv.slice(2)
const browser = await chromium.launch(launch)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text()))
page.on('pageerror', (e) => console.log('page error:', e.message))
const people = await (await page.request.get(`${base}/api/demo/people`)).json()
const p = people.find((x) => x.role === person || x.name === person) ?? { id: Number(person) }
await page.request.post(`${base}/api/demo/session`, { data: { personId: p.id } })
await page.goto(base + path)
await page.waitForLoadState('networkidle')
for (const c of clicks) {
  if (c.startsWith('key:')) await page.keyboard.press(c.slice(4))
  else if (c.startsWith('type:')) await page.keyboard.type(c.slice(5))
  else if (c.startsWith('css:')) await page.locator(c.slice(4)).first().click()
  else await page.getByText(c, { exact: true }).first().click()
  await page.waitForTimeout(400)
}
await page.screenshot({ path: file })
await browser.close()
