import { expect } from '@playwright/test'
import { accessible, isNewView, looked, lookIntoPanels } from './axe.js'

/** Opens a browser of its own for somebody of the demo: a role, or a name. */
export async function as(browser, who, options = {}) {
  const context = await browser.newContext(options)
  const page = await context.newPage()
  await lookIntoPanels(page)
  const people = await (await page.request.get('/api/demo/people')).json()
  const person = people.find((p) => p.role === who || p.name === who)
  expect(person, `${who} is on the sign-in page`).toBeTruthy()
  await signIn(page, person.id)
  return page
}

/**
 * Closes what a story has opened, so that no page of it goes on asking while the next one is told.
 * Where the story did not look at a page with axe itself, the page on which it ended is looked at, if it is no view that another
 * ended on.
 */
export async function leave({ browser }, story) {
  const page = browser.contexts().at(-1)?.pages().at(-1)
  if (story.status === 'passed' && page?.url().startsWith('http') && !looked(story) && (await isNewView(page)))
    await accessible(page)
  await Promise.all(browser.contexts().map((context) => context.close()))
}

/** Opens a browser for a person by id. */
export async function asPerson(browser, id, options = {}) {
  const page = await (await browser.newContext(options)).newPage()
  await lookIntoPanels(page)
  await signIn(page, id)
  return page
}

async function signIn(page, personId) {
  const answer = await page.request.post('/api/demo/session', { data: { personId } })
  expect(answer.status()).toBe(200)
}

/** A date and time as a datetime-local field takes it, so many hours from now on the district's wall clock. */
export async function wallClock(page, hours) {
  const { timeZone } = await (await page.request.get('/api/session')).json()
  const at = new Date(Date.now() + hours * 3_600_000)
  return at.toLocaleString('sv-SE', { timeZone }).replace(' ', 'T').slice(0, 16)
}

/** Begins a student's first assessment that is open, or goes on with it, whichever the server says; shows an item. */
export async function startWork(page) {
  await openWork(page, (button) => button.click())
}

/** The same with the mouse or the keys, by what presses a button. */
export async function openWork(page, press) {
  const sittings = await (await page.request.get('/api/my/sittings')).json()
  const { state, title } = sittings.find((s) => s.door === 'open' && s.state !== 'handed in')
  await page.goto('/desk')
  await press(page.getByRole('button', { name: `${state === 'working' ? 'Continue' : 'Start'} ${title}` }))
  if (state === 'not begun') await press(page.getByRole('button', { name: 'Begin' }))
  await expect(page.locator('.item')).toBeVisible()
}

/** The first page of an assessment that is not begun: whose it is, and Begin. */
export async function begin(page) {
  await expect(page.getByText('This is the assessment of')).toBeVisible()
  await page.getByRole('button', { name: 'Begin' }).click()
}

/** An entry of whom something goes to that narrows nothing, and a wave for all. */
export const everySection = { out: false, schools: [], grades: [], courses: [], sections: [], groups: [], students: [] }
export const everyone = { name: '', opens: '', closes: '', schools: [], sections: [] }

/** Seals an assessment, sends it to the first section that it can go to and opens the door there. */
export async function giveOut(page, id, closes) {
  const sheet = await (await page.request.get(`/api/assessments/${id}`)).json()
  const sealed = await page.request.post(`/api/assessments/${id}/seal`, { headers: { 'If-Match': String(sheet.version) } })
  expect(sealed.status(), await sealed.text()).toBe(200)
  const view = await (await page.request.get(`/api/assessments/${id}/distribution`)).json()
  const day = (n) => new Date(Date.now() + n * 86_400_000).toISOString().slice(0, 16)
  const put = await page.request.put(`/api/assessments/${id}/distribution`, {
    headers: { 'If-Match': String(view.version) },
    data: { entries: [{ ...everySection, sections: [view.candidates[0].id] }], follow: false, waves: [{ ...everyone, opens: day(-1), closes: closes ?? day(5) }] },
  })
  expect(put.status(), await put.text()).toBe(200)
  await setting(page, { assessment: id }, 'minutes', 50)
  const ready = await put.json()
  const reasons = Object.fromEntries(ready.findings.map((f) => [f.code, 'for the test']))
  const sent = await page.request.post(`/api/assessments/${id}/distribution`, { headers: { 'If-Match': String(ready.version) }, data: { reasons } })
  expect(sent.status(), await sent.text()).toBe(200)
  const sitting = (await sent.json()).sittings.at(-1)
  expect((await page.request.put(`/api/sittings/${sitting.id}/door`, { data: { door: 'open' } })).status()).toBe(200)
  const room = await (await page.request.get(`/api/sittings/${sitting.id}`)).json()
  return { sitting, room }
}

/** Lets a place say something of a setting. */
export async function setting(page, place, key, value, lock = '') {
  const now = await (await page.request.get(`/api/settings?${new URLSearchParams(place)}`)).json()
  const { here } = now.settings.find((s) => s.key === key)
  const change = { key, value, lock, ...(here && { was: here.value }) }
  const put = await page.request.put('/api/settings', { data: { place, changes: [change], keep: [] } })
  expect(put.status(), await put.text()).toBe(200)
}

/** Closes a door: an open one would make its teacher the first on the sign-in page, where others are looked for. */
export async function shut(page, sitting) {
  expect((await page.request.put(`/api/sittings/${sitting.id}/door`, { data: { door: 'closed' } })).status()).toBe(200)
}

/** A draft of four easy items of the demo's bank, for a purpose. */
export async function draft(page, title) {
  const ask = async (method, path, data, version) => {
    const answer = await page.request[method](`/api${path}`, { data, headers: version ? { 'If-Match': String(version) } : {} })
    expect(answer.ok(), await answer.text()).toBe(true)
    return answer.json()
  }
  const found = await ask('get', '/items?subject=mathematics&grade=06&kind=single-choice&limit=4')
  let sheet = await ask('post', '/assessments', {
    title, shortTitle: title, description: '', instructions: '', subject: 'mathematics', grades: ['06'], purpose: 'practice', language: 'en', year: '',
  })
  sheet = await ask('put', `/assessments/${sheet.id}/lines`, { lines: found.items.slice(0, 4).map((i) => ({ itemId: i.id, points: 1 })) }, sheet.version)
  return sheet.id
}
