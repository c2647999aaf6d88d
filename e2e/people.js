import { expect } from '@playwright/test'

/** Opens a browser of its own for somebody of the demo: a role, or a name. */
export async function as(browser, who, options = {}) {
  const context = await browser.newContext(options)
  const page = await context.newPage()
  const people = await (await page.request.get('/api/demo/people')).json()
  const person = people.find((p) => p.role === who || p.name === who)
  expect(person, `${who} is on the sign-in page`).toBeTruthy()
  await signIn(page, person.id)
  return page
}

/** Closes what a story has opened, so that no page of it goes on asking while the next one is told. */
export function leave({ browser }) {
  return Promise.all(browser.contexts().map((context) => context.close()))
}

/** Opens a browser for a person by id. */
export async function asPerson(browser, id, options = {}) {
  const page = await (await browser.newContext(options)).newPage()
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

/** Begins a student's first assessment, or goes on with it, and shows an item. */
export async function startWork(page) {
  await page.goto('/desk')
  await page.getByRole('button', { name: /Start|Go on/ }).first().click()
  const begin = page.getByRole('button', { name: 'Begin' })
  await expect(begin.or(page.locator('.item'))).toBeVisible()
  if (await begin.isVisible()) await begin.click()
  await expect(page.locator('.item')).toBeVisible()
}
