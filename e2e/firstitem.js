// Measures what a student's browser loads before the first item shows, and how long
// that takes with an empty cache, beside the answer to one request on the same line.
import { chromium } from '@playwright/test'
import { launch } from './chromium.js'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startServer } from './server.js'

const data = mkdtempSync(join(tmpdir(), 'pineledger-first-'))
const server = await startServer(data)
const base = server.url
const browser = await chromium.launch(launch)
const middle = (list) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)]

/** A student who can go on with an assessment whose door is open. */
async function student() {
  const staff = await browser.newContext({ baseURL: base })
  const people = await (await staff.request.get('/api/demo/people')).json()
  await staff.request.post('/api/demo/session', { data: { personId: people.find((p) => p.role === 'district-coordinator').id } })
  const today = await (await staff.request.get('/api/today')).json()
  const open = today.sittings.find((s) => s.door === 'open' && s.title.includes('reading'))
  const room = await (await staff.request.get(`/api/sittings/${open.id}`)).json()
  await staff.close()
  return { id: room.seats.find((s) => s.state === 'working').studentId, sitting: open.id }
}

try {
  const { id, sitting } = await student()
  const times = []
  const bare = []
  let script = 0
  for (let n = 0; n < 5; n++) {
    const context = await browser.newContext({ baseURL: base })
    await context.request.post('/api/demo/session', { data: { personId: id } })
    const page = await context.newPage()
    const cdp = await context.newCDPSession(page)
    await cdp.send('Network.enable')
    const scripts = new Map()
    let sum = 0
    cdp.on('Network.responseReceived', (e) => e.type === 'Script' && scripts.set(e.requestId, true))
    cdp.on('Network.loadingFinished', (e) => scripts.has(e.requestId) && (sum += e.encodedDataLength))
    const start = performance.now()
    await page.goto(`/desk/${sitting}`)
    const begin = page.getByRole('button', { name: 'Begin' })
    await page.locator('.item').or(begin).first().waitFor()
    if (await begin.isVisible()) await begin.click()
    await page.locator('.item').waitFor()
    times.push(performance.now() - start)
    script = sum
    const one = performance.now()
    await context.request.get('/api/session')
    bare.push(performance.now() - one)
    await context.close()
  }
  const kB = script / 1000
  const say = (what, figure) => console.log(what.padEnd(66), figure)
  say('script before the first item on a student’s screen, compressed', `${kB.toFixed(0)} kB (aim: at most 180 kB)`)
  say('first item on a student’s screen, empty cache', `${middle(times).toFixed(0)} ms, one request ${middle(bare).toFixed(1)} ms`)
  if (kB > 180) process.exitCode = 1
} finally {
  await browser.close()
  await server.stop()
  rmSync(data, { recursive: true, force: true })
}
