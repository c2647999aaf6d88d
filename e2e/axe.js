import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { expect, test } from './district.js'

/** WCAG 2.2 AA, and what else axe advises. */
const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']

/** Stories that have looked at a page. */
const stories = new Set()
export const looked = (story) => stories.has(story.testId)

/** WCAG 2.2 AA, as far as a machine can tell, of what stands on a page or in one part of it. Nothing may be on its way. */
export async function accessible(page, within) {
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

/** axe itself, handed to a page once: it is quicker the second time, and its wrapper for Playwright hands it over three times a look. */
const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** What axe finds on the whole page, its root and title with it, or within a part. */
async function look(page, within) {
  await page.evaluate(() => Promise.all(document.getAnimations().map((a) => a.finished.catch(() => {}))))
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe)
  const grounds = await page.evaluate(groundsOf, { known: knownGrounds(), within: within ?? 'body', alike: alike.join() })
  const violations = await page.evaluate(
    async ({ tags, alike, within }) => {
      window.axe.configure({ rules: [{ id: 'color-contrast', selector: ':not([data-known-ground])' }] })
      const context = { ...(within && { include: [[within]] }), exclude: alike.map((rest) => [rest]) }
      // No rule that is asked for wants the style sheets fetched once more. The headings above a part are not within it.
      const rules = within ? { 'heading-order': { enabled: false } } : {}
      const found = await window.axe.run(context, { runOnly: tags, rules, resultTypes: ['violations'], preload: false })
      document.querySelectorAll('[data-known-ground]').forEach((e) => e.removeAttribute('data-known-ground'))
      return found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => `${n.target} ${n.failureSummary}`).join(' | ')}`)
    },
    { tags, alike, within },
  )
  expect(violations).toEqual([])
  if (grounds.length) appendFileSync(groundsFile(), grounds.map((g) => `${g}\n`).join(''))
}

/** The pairs of letters and ground that have been found readable in this run, by whichever worker. */
const groundsFile = () => join(process.env.PINELEDGER_E2E_LOOKED, 'grounds')
const knownGrounds = () => (existsSync(groundsFile()) ? readFileSync(groundsFile(), 'utf8').split('\n') : [])

/**
 * Contrast takes axe half its time, and is the same wherever letters of one color and size stand on one ground. Marks the elements
 * whose pair is known, but for what may lie over something else, and gives those that axe is to find out about here.
 */
function groundsOf({ known, within, alike }) {
  const seen = new Set(known)
  const fresh = new Set()
  for (const e of document.querySelectorAll(`${within} *`)) {
    if (![...e.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.textContent.trim())) continue
    const own = getComputedStyle(e)
    const pair = [own.color, own.fontSize, own.fontWeight, own.textShadow]
    let opaque = false
    let lies = false // over what is not its ancestor
    for (let up = e; up; up = up.parentElement) {
      const style = getComputedStyle(up)
      if (style.opacity !== '1' || style.filter !== 'none') pair.push(style.opacity, style.filter)
      if (opaque) continue
      lies ||= style.position === 'absolute' || style.position === 'fixed' || style.transform !== 'none'
      if (style.backgroundImage !== 'none') pair.push(style.backgroundImage)
      if (style.backgroundColor !== 'rgba(0, 0, 0, 0)') pair.push(style.backgroundColor)
      opaque = /^rgb\(/.test(style.backgroundColor)
    }
    const name = pair.join(' ')
    if (lies) continue
    if (seen.has(name)) e.setAttribute('data-known-ground', '')
    else if (e.checkVisibility() && !e.closest(`:disabled, [aria-disabled=true], ${alike}`) && !e.closest('label')?.control?.disabled) fresh.add(name)
  }
  return [...fresh]
}
