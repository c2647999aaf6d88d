import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { everyone, everySection, as, asPerson, begin, wallClock } from './people.js'

// Each kind of item, answered in the browser by mouse and by keys, down to its credit.
test.describe.configure({ mode: 'serial' })

const kinds = ['single-choice', 'multiple-choice', 'true-false', 'order', 'match', 'sort', 'box-table', 'text', 'number', 'number-line', 'select-text', 'menus', 'spot', 'parts', 'short-written', 'extended-written']
const written = ['short-written', 'extended-written'] // these wait for a reader
let coordinator
let items // of each kind one, with its key
let sitting
let seats

/** Asks the API as the coordinator and gives the answer. */
async function ask(method, path, data, version) {
  const headers = version === undefined ? {} : { 'If-Match': String(version) }
  const answer = await coordinator.request[method](`/api${path}`, { data, headers })
  expect(answer.ok(), `${method} ${path}: ${answer.ok() ? '' : await answer.text()}`).toBe(true)
  return answer.json()
}

test.beforeAll(async ({ browser }) => {
  coordinator = await as(browser, 'Ines Okafor')
  items = []
  for (const kind of kinds) {
    const ofGrade = await ask('get', `/items?kind=${kind}&subject=mathematics&grade=06&limit=1`)
    const page = ofGrade.items.length ? ofGrade : await ask('get', `/items?kind=${kind}&limit=1`)
    items.push(await ask('get', `/items/${page.items[0].id}`))
  }
  let sheet = await ask('post', '/assessments', {
    title: 'One of each kind', shortTitle: 'Each kind', description: '', instructions: '', subject: 'mathematics', grades: ['06'], purpose: 'practice', language: 'en', year: '',
  })
  sheet = await ask('put', `/assessments/${sheet.id}/lines`, { lines: items.map((i) => ({ itemId: i.item.id, points: 2 })) }, sheet.version)
  sheet = await ask('post', `/assessments/${sheet.id}/seal`, undefined, sheet.version)
  const before = await ask('get', `/assessments/${sheet.id}/distribution`)
  const chosen = before.candidates.at(-1).id
  const put = await ask(
    'put',
    `/assessments/${sheet.id}/distribution`,
    { entries: [{ ...everySection, sections: [chosen] }], follow: false, waves: [{ ...everyone, opens: await wallClock(coordinator, -1), closes: await wallClock(coordinator, 24) }] },
    0,
  )
  const reasons = Object.fromEntries(put.findings.map((f) => [f.code, 'tried out']))
  sheet = await ask('post', `/assessments/${sheet.id}/distribution`, { reasons }, put.version)
  sitting = sheet.sittings[0]
  seats = (await ask('put', `/sittings/${sitting.id}/door`, { door: 'open' })).seats
})

test.afterAll(async () => {
  await ask('put', `/sittings/${sitting.id}/door`, { door: 'closed' })
})

const plain = (html) => html.replace(/<[^>]*>/g, '').replaceAll('&lt;', '<').replaceAll('&gt;', '>').replaceAll('&#39;', "'").replaceAll('&#34;', '"').replaceAll('&amp;', '&').trim()

/** How a person presses a thing: with the mouse, or with the keyboard once it has the focus. */
const ways = {
  mouse: (thing) => thing.click(),
  keys: async (thing) => {
    await thing.focus()
    await thing.press((await thing.evaluate((e) => e.tagName)) === 'INPUT' ? 'Space' : 'Enter')
  },
}

/** Answers every place of an item as its key says. */
async function answer(page, item, press) {
  const places = item.shown.body.flatMap((b) => (b.interaction ? [b.interaction] : []))
  let boxes = 0
  for (const place of places) {
    const kind = place.kind ?? item.item.kind
    if (['text', 'number', ...written].includes(kind)) await typeInto(page.locator('.item').getByRole('textbox').nth(boxes++), item, place)
    else await answerPlace(page, { kind, place, key: item.keys[place.response] }, press)
  }
}
const typeInto = (box, item, place) => box.fill(item.keys[place.response].correct[0])

async function answerPlace(page, { kind, place, key }, press) {
  const { choices = [], targets = [] } = place
  const correct = key.correct
  const name = (list, id) => plain(list.find((c) => c.id === id).html)
  const body = page.locator('.item')
  switch (kind) {
    case 'spot': {
      if (choices.length) {
        for (const id of correct) await press(body.getByRole('button', { name: name(choices, id), exact: true }))
        return
      }
      const { shape, at } = key.areas[0]
      const [x, y] = shape === 'circle' ? at : [(at[0] + at[2]) / 2, (at[1] + at[3]) / 2]
      const picture = body.locator('.picture')
      if (press === ways.mouse) {
        const box = await picture.boundingBox()
        return picture.click({ position: { x: (x * box.width) / place.picture.width, y: (y * box.height) / place.picture.height } })
      }
      await picture.focus()
      await page.keyboard.press('Enter') // the middle of the picture
      for (let now = place.picture.width / 2; Math.round(now) !== Math.round(x); now += Math.sign(Math.round(x) - Math.round(now)))
        await page.keyboard.press(x > now ? 'Shift+ArrowRight' : 'Shift+ArrowLeft')
      for (let now = place.picture.height / 2; Math.round(now) !== Math.round(y); now += Math.sign(Math.round(y) - Math.round(now)))
        await page.keyboard.press(y > now ? 'Shift+ArrowDown' : 'Shift+ArrowUp')
      return
    }
    case 'number-line': {
      const line = place.line.places
      const range = body.getByRole('slider')
      const at = line.indexOf(correct[0])
      if (press === ways.mouse) {
        const box = await range.boundingBox()
        await page.mouse.click(box.x + 12 + ((box.width - 24) * at) / (line.length - 1), box.y + box.height / 2)
      } else {
        await range.focus()
        await page.keyboard.press('Home')
        await page.keyboard.press('Enter')
        for (let n = 0; n < at; n++) await page.keyboard.press('ArrowRight')
      }
      await expect(body.getByText(`Put at ${correct[0].replace('-', '−')}.`)).toBeVisible()
      return
    }
    case 'select-text':
      for (const id of correct) await press(body.getByRole('button', { name: name(choices, id), exact: true }))
      return
    case 'menus':
      for (const [choice, gap] of correct.map((p) => p.split(' '))) {
        const menu = body.getByRole('combobox').nth(Number(gap.slice(1)) - 1)
        if (press === ways.mouse) await menu.selectOption(choice)
        else {
          await menu.focus()
          await page.keyboard.type(name(choices, choice)) // a menu goes to what is typed
        }
      }
      return
    case 'order':
      for (const [at, id] of correct.entries()) {
        const row = body.locator('li', { hasText: name(choices, id) })
        const place = async () => Number(await row.locator('.place').textContent()) - 1
        while ((await place()) > at) {
          const now = await place()
          await press(row.getByRole('button', { name: /^Move .* up$/ }))
          await expect(row.locator('.place')).toHaveText(String(now))
        }
      }
      if (await body.locator('.hint button').isVisible()) await press(body.locator('.hint button'))
      return
    case 'match':
    case 'sort':
      for (const [choice, target] of correct.map((p) => p.split(' '))) {
        await press(body.locator('.pool').getByRole('button', { name: name(choices, choice), exact: true }))
        await press(body.getByRole('button', { name: `Put ${name(choices, choice)} to ${name(targets, target)}`, exact: true }))
      }
      return
    case 'box-table':
      for (const [choice, target] of correct.map((p) => p.split(' ')))
        await press(body.locator(`input[aria-labelledby$="-${choice} ${await column(body, target)}"]`))
      return
    default:
      for (const id of correct) await press(body.locator(`input[value="${id}"][name$="${place.response}"]`))
  }
}
const column = (body, target) => body.locator(`thead th[id$="-${target}"]`).getAttribute('id')

async function take(browser, student, press, each) {
  const page = await asPerson(browser, student)
  await page.goto('/desk')
  await page.getByRole('button', { name: 'Start Each kind' }).click()
  await begin(page)
  for (const [i, item] of items.entries()) {
    await test.step(item.item.kind, async () => {
      await page.getByRole('navigation', { name: 'Items' }).getByRole('button', { name: new RegExp(`^Item ${i + 1},`) }).click()
      await expect(page.getByRole('heading', { name: new RegExp(`^${i + 1}`) })).toBeVisible()
      await answer(page, item, press)
      await expect(page.getByRole('button', { name: new RegExp(`^Item ${i + 1}, answered`) })).toBeVisible()
      await each?.(page)
    })
  }
  await expect(page.getByText(/^Saved .* 16 of 16 answered/)).toBeVisible()
  await page.reload()
  await expect(page.getByRole('navigation', { name: 'Items' }).getByRole('button', { name: /, answered/ })).toHaveCount(kinds.length)
  await page.getByRole('button', { name: 'Look over and hand in' }).click()
  await page.getByRole('button', { name: 'Hand in', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Handed in' })).toBeVisible()
}

async function credits(student) {
  const { rows } = await ask('get', `/results/${sitting.distributionId}/matrix`)
  const row = rows.find((r) => r.number === student.number)
  return row && [...row.credits.map((credit, i) => (row.outcomes[i] === 'u' ? 'unread' : credit))]
}

for (const [way, press] of Object.entries(ways)) {
  test(`right answers by ${way} earn everything`, async ({ browser }) => {
    test.setTimeout(120_000)
    const student = seats[Object.keys(ways).indexOf(way)]
    await take(browser, student.studentId, press)
    expect(await credits(student)).toEqual(kinds.map((k) => (written.includes(k) ? 'unread' : 2)))
  })
}

test('each kind is accessible, on a narrow screen too', async ({ browser }) => {
  test.setTimeout(180_000)
  const page = await asPerson(browser, seats[2].studentId, { viewport: { width: 390, height: 760 } })
  await page.goto('/desk')
  await page.getByRole('button', { name: /Each kind/ }).click()
  await begin(page)
  for (const i of kinds.keys()) {
    await test.step(kinds[i], async () => {
      await page.getByRole('navigation', { name: 'Items' }).getByRole('button', { name: new RegExp(`^Item ${i + 1},`) }).click()
      await expect(page.getByRole('heading', { name: new RegExp(`^${i + 1}`) })).toBeVisible()
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth), 'nothing runs off the side').toBe(true)
      await accessible(page, 'main')
    })
  }
})

test('the trail says what was put where, and what the key is', async () => {
  const page = coordinator
  await page.goto(`/results/${sitting.distributionId}/matrix`)
  const trail = page.getByRole('complementary', { name: 'Trail of a score' })
  for (const [line, why] of [
    [4, /Put [A-D ]+; the key is [A-D ]+\./],
    [6, /Gave [A-E]–\d.*; the key is [A-E]–\d.*parts right\./],
  ]) {
    await page.getByRole('button', { name: `line ${line}:` }).first().click()
    await expect(trail.getByText(why)).toBeVisible()
    await page.keyboard.press('Escape')
  }
})

test('things are dragged, too', async () => {
  const page = coordinator
  await page.goto('/bank?kind=sort')
  await page.getByRole('button', { name: 'Try it' }).click()
  const preview = page.getByRole('complementary', { name: 'Preview' })
  const chip = preview.locator('.pool .chip').first()
  const words = (await chip.textContent()).trim()
  await chip.dragTo(preview.locator('.target').nth(1))
  await expect(preview.locator('.target').nth(1)).toContainText(words)
  await preview.locator('.target').nth(1).locator('.chip').dragTo(preview.locator('.target').nth(0))
  await expect(preview.locator('.target').nth(0)).toContainText(words)

  await page.goto('/bank?kind=order')
  await page.getByRole('button', { name: 'Try it' }).click()
  const rows = preview.locator('.item li')
  const first = (await rows.nth(0).locator('.text').textContent()).trim()
  await rows.nth(0).locator('.grip').dragTo(rows.nth(2).locator('.grip'))
  await expect(rows.nth(0)).not.toContainText(first)
  await expect(preview.locator('.hint')).toHaveCount(0)
})
