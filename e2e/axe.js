import AxeBuilder from '@axe-core/playwright'
import { expect, test } from './district.js'

const wcag = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']

/** Stories that have looked at a page. */
const stories = new Set()
export const looked = (story) => stories.has(story.testId)

/** WCAG 2.2 AA, as far as a machine can tell, of what stands on a page or in one part of it. Nothing may be on its way. */
export async function accessible(page, within = 'body') {
  stories.add(test.info().testId)
  await page.evaluate(() => Promise.all(document.getAnimations().map((a) => a.finished.catch(() => {}))))
  // The pages have no frames of other origins, so that nothing has to be gathered in a page of axe's own.
  // Of a long table one band of rows and the next row stand for all: contrast is worked out for each piece of text, which took three quarters
  // of the time. No rule that is asked for wants the style sheets fetched once more.
  const axe = new AxeBuilder({ page }).setLegacyMode(true).include(within).exclude('tbody tr:nth-child(n+7)').withTags(wcag).options({ resultTypes: ['violations'], preload: false })
  const { violations } = await axe.analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => `${n.target} ${n.failureSummary}`).join(' | ')}`)).toEqual([])
}
