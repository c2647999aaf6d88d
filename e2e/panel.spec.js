import { accessible } from './axe.js'
import { expect, test } from './district.js'
import { as, asPerson, leave } from './people.js'

// Standard setting: a chair and three judges, each in a browser of their own.
test.afterEach(leave)

const field = (page, line, cut) => page.getByRole('textbox', { name: `Line ${line}, ${cut}, percent` })

test('three judges rate line by line, see where they stand, and their cuts become those of a band set', async ({ browser }) => {
  test.slow()
  const chair = await as(browser, 'district-coordinator')
  const people = await (await chair.request.get('/api/demo/people')).json()
  const three = people.filter((p) => p.role === 'teacher').slice(0, 3)

  await chair.goto('/bands')
  await chair.getByRole('link', { name: 'Panels' }).click()
  await chair.getByRole('button', { name: 'Begin a panel' }).click()
  const panel = chair.getByRole('complementary', { name: 'Begin a panel' })
  await panel.getByLabel('Assessment', { exact: true }).selectOption({ label: 'Grade 6 mathematics, second check' })
  await panel.getByLabel('Title').fill('Panel of three')
  for (const p of three) {
    await panel.getByLabel('Invite a judge').fill(p.name)
    await panel.getByRole('list', { name: 'People found' }).getByRole('button').first().click()
  }
  await expect(panel.getByRole('list', { name: 'Judges to invite' }).getByRole('listitem')).toHaveCount(3)
  await panel.getByRole('button', { name: 'Begin', exact: true }).click()
  await expect(chair.getByRole('heading', { name: 'Panel of three' })).toBeVisible()
  await chair.getByRole('button', { name: 'Open a training round' }).click()
  await chair.getByRole('button', { name: 'Close the training round' }).click()
  await chair.getByRole('button', { name: 'Open round 1' }).click()

  // Each finds it on Today. One key a rating is enough, from the first line of the first cut to the last.
  const judges = []
  for (const p of three) {
    const page = await asPerson(browser, p.id)
    await page.goto('/today')
    await page.getByRole('link', { name: 'Round 1 of Panel of three is open.' }).click()
    await expect(page.getByText('0 of 42 given')).toBeVisible()
    judges.push(page)
  }
  const [first, second, third] = judges
  const type = async (page, keys) => {
    await field(page, 1, 'Underway').focus()
    for (const key of keys) await page.keyboard.press(key)
  }
  await type(first, '3'.repeat(14) + '5'.repeat(14) + '8'.repeat(14))
  await type(second, '4'.repeat(14) + '6'.repeat(14) + 'x'.repeat(14))
  await type(third, '2'.repeat(10))
  await expect(first.getByText('42 of 42 given')).toBeVisible()
  await expect(first.getByText('Saved')).toBeVisible()
  await first.reload()
  await expect(first.getByText('42 of 42 given')).toBeVisible()
  await accessible(first)
  for (const page of [first, second]) {
    await page.getByRole('button', { name: 'I am done' }).click()
    await expect(page.getByText('You are done with this round')).toBeVisible()
  }
  await expect(third.getByRole('button', { name: 'I am done' })).toBeDisabled()

  // In hundredths what cannot be a share is refused where it was typed, and stays there.
  await third.getByRole('button', { name: 'Hundredths' }).click()
  await field(third, 11, 'Underway').fill('145')
  await third.keyboard.press('Enter')
  await expect(field(third, 11, 'Underway')).toHaveAttribute('aria-invalid', 'true')
  await expect(field(third, 11, 'Underway')).toHaveValue('145')
  await field(third, 11, 'Underway').fill('.45')
  await third.keyboard.press('Enter')
  await expect(field(third, 11, 'Underway')).toHaveValue('45')
  await third.getByLabel('Your note of this line').fill('Long to read.')
  await expect(third.getByText('11 of 42 given')).toBeVisible()

  // The chair sees how far each is, closes, and lets them see what came of it. Who is not done is said.
  const table = chair.getByRole('table', { name: 'Judges and rounds' })
  await expect(table.getByRole('row', { name: new RegExp(three[2].name) })).toContainText('11 of 42')
  await chair.getByRole('button', { name: 'Close round 1' }).click()
  await expect(chair.getByText('Judge 3 is not done, with 11 of 42 given: that is not counted.')).toBeVisible()
  await chair.getByRole('button', { name: 'Show judges what came of it' }).click()
  const cuts = chair.getByRole('table', { name: 'Cuts of this round' })
  await expect(cuts.getByRole('row', { name: /^Underway/ })).toContainText('4.2 to 5.6')
  await accessible(chair)

  await first.getByRole('button', { name: 'What came of round 1' }).click()
  await expect(
    first.getByRole('img', {
      name: /^Underway: 2 judges from 4\.2 to 5\.6 points, median 4\.9\. Your own is 4\.2\.$/,
    }),
  ).toBeVisible()
  await expect(first.getByText(three[1].name)).toHaveCount(0)

  // One leaves; the next round begins with what the others gave.
  await chair.getByRole('button', { name: `${three[2].name} leaves` }).click()
  await chair.getByLabel('Why').fill('Ill')
  await chair.getByRole('button', { name: 'Leaves', exact: true }).click()
  await chair.getByRole('button', { name: 'Open the next round' }).click()
  await first.getByRole('button', { name: 'Your work' }).click()
  await expect(first.getByText('Round 2 · 42 of 42 given')).toBeVisible({
    timeout: 10_000,
  })
  await field(first, 1, 'Underway').focus()
  await first.keyboard.press('4')
  await expect(field(first, 1, 'Underway')).toHaveValue('40')
  await first.getByRole('button', { name: 'I am done' }).click()
  await expect(second.getByText('Round 2 · 42 of 42 given')).toBeVisible({
    timeout: 10_000,
  })
  await second.getByRole('button', { name: 'I am done' }).click()
  await expect(third.getByText('The chair noted that you left this panel')).toBeVisible({ timeout: 10_000 })

  await expect(
    table
      .getByRole('row', { name: new RegExp(three[1].name) })
      .getByRole('cell')
      .last(),
  ).toHaveText('done', { timeout: 10_000 })
  await chair.getByRole('button', { name: 'Close round 2' }).click()
  await chair.getByRole('button', { name: 'Take these cuts…' }).click()
  const taking = chair.getByRole('complementary', {
    name: 'Take the cuts of round 2',
  })
  await taking.getByRole('button', { name: 'Take these cuts' }).click()
  await expect(taking.getByRole('status')).toContainText('Panel of three, by the panel has these cuts now.')
  await taking.getByRole('link', { name: 'Open the band set' }).click()
  await expect(chair.getByRole('row', { name: /Panel of three, by the panel/ })).toContainText('5 pt, 7.8 pt, 12.6 pt')
})

test('a judge marks places in a booklet by keys, and a mark that contradicts another is said', async ({ browser }) => {
  const chair = await as(browser, 'district-coordinator')
  const panels = await (await chair.request.get('/api/panels')).json()
  const ordered = panels.find((p) => p.method === 'orderedItems' && !p.ended)
  const opened = await (await chair.request.get(`/api/panels/${ordered.id}`)).json()
  const still = opened.judges.find((j, i) => !opened.rounds.at(-1).works[i].done)
  const page = await asPerson(browser, still.personId)
  await page.goto(`/panels/${ordered.id}`)
  const booklet = page.getByRole('table', { name: 'Booklet of ordered items' })
  const mark = (cut, place) =>
    booklet.getByRole('button', {
      name: `${cut} at place ${place}`,
      exact: true,
    })
  await booklet.getByRole('row').nth(1).focus()
  for (const key of ['ArrowDown', 'ArrowDown', '1', 'ArrowDown', '3', '2']) await page.keyboard.press(key)
  await expect(mark('Underway', 3)).toHaveAttribute('aria-pressed', 'true')
  await expect(mark('On course', 4)).toHaveAttribute('aria-pressed', 'true')
  await expect(page.getByText('Beyond: no higher than the cut before')).toBeVisible()
  await mark('Beyond', 12).click()
  await expect(page.getByText('no higher than the cut before')).toHaveCount(0)
  await expect(page.getByText('Saved')).toBeVisible()
  await page.reload()
  await expect(mark('Beyond', 12)).toHaveAttribute('aria-pressed', 'true')
})
