// Takes one picture of a page of a running server, for looking at a screen while
// working on it: node shot.js BASE PERSON PATH FILE [WIDTHxHEIGHT]
import { chromium } from '@playwright/test'
import { launch } from './chromium.js'

const [base, person, path, file, size = '1280x800'] = process.argv.slice(2)
const [width, height] = size.split('x').map(Number)
const browser = await chromium.launch(launch)
const page = await browser.newPage({ viewport: { width, height } })
page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text()))
page.on('pageerror', (e) => console.log('page error:', e.message))
if (person !== '-') {
  const people = await (await page.request.get(`${base}/api/demo/people`)).json()
  const p = people.find((x) => x.role === person || x.name === person)
  await page.request.post(`${base}/api/demo/session`, { data: { personId: p.id } })
}
await page.goto(base + path)
await page.waitForLoadState('networkidle')
await page.waitForTimeout(400)
await page.screenshot({ path: file })
await browser.close()
