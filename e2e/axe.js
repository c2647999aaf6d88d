import AxeBuilder from '@axe-core/playwright'
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from './district.js'

/** WCAG 2.2 AA, and what else axe advises. */
const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']

/** Stories that have looked at a page. */
const stories = new Set()
export const looked = (story) => stories.has(story.testId)

/** WCAG 2.2 AA, as far as a machine can tell, of what stands on a page or in one part of it. Nothing may be on its way. */
export async function accessible(page, within = 'body') {
  stories.add(test.info().testId)
  await look(page, within)
}

/** Has each panel and dialog looked at once in a run, where a story first goes on after it has opened. */
export async function lookIntoPanels(page) {
  const opened = page.locator(':is(aside.side-panel, [role=dialog]):not([data-looked])').first()
  await page.addLocatorHandler(
    opened,
    async () => {
      const which = await page.evaluate(() => {
        document.querySelectorAll('[data-looked]').forEach((e) => e.setAttribute('data-looked', ''))
        const panel = document.querySelector(':is(aside.side-panel, [role=dialog]):not([data-looked])')
        panel?.setAttribute('data-looked', 'now')
        return panel && `${location.pathname} ${panel.getAttribute('aria-label') ?? panel.querySelector('.p-dialog-title')?.textContent}`
      })
      if (!which || !isFirst(which.replace(/\d+/g, 'N'))) return
      await look(page, '[data-looked=now]').catch((e) => {
        if (!/No elements found for include/.test(e.message)) throw e // it has been closed meanwhile
      })
    },
    { noWaitAfter: true },
  )
}

/** Whether no story of this run has ended on this view before: its address and its headings, whatever the numbers in them. */
export async function isNewView(page) {
  const headings = await page.locator('h1, h2').allTextContents()
  return isFirst(`end of ${new URL(page.url()).pathname} ${headings.slice(0, 3).join(' ')}`.replace(/\d+/g, 'N'))
}

/** Each name is first once, whichever worker asks: all share a folder. */
function isFirst(name) {
  try {
    mkdirSync(join(process.env.PINELEDGER_E2E_LOOKED, encodeURIComponent(name).slice(0, 200)))
    return true
  } catch (e) {
    if (e.code !== 'EEXIST') throw e
    return false
  }
}

/** Of long tables the first two rows and one of the next band stand for all, of long lists the first six. */
const alike = ['tbody tr:not(:nth-child(-n+2), :nth-child(6))', 'li:nth-child(n+7)']

async function look(page, within) {
  await page.evaluate(() => Promise.all(document.getAnimations().map((a) => a.finished.catch(() => {}))))
  // The pages have no frames of other origins, so that nothing has to be gathered in a page of axe's own.
  // Contrast is worked out for each piece of text, which took three quarters of the time. No rule that is asked for wants the style
  // sheets fetched once more.
  const axe = new AxeBuilder({ page }).setLegacyMode(true).include(within).options({ resultTypes: ['violations'], preload: false }).withTags(tags)
  for (const rest of alike) axe.exclude(rest)
  if (within !== 'body') axe.disableRules(['heading-order']) // the headings above a part are not within it
  const { violations } = await axe.analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => `${n.target} ${n.failureSummary}`).join(' | ')}`)).toEqual([])
}
