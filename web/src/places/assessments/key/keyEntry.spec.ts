import { server } from '@/contract/testServer'
import { flushPromises, type VueWrapper } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import KeyEntry from './KeyEntry.vue'
import type { Question } from './keyGrid'
import type { Sheet } from '@/places/assessments/lines/lines'
import { button, draft, fill, fresh, press, serveStandards, sheetPath, showOnSheet } from '@/places/assessments/sheet/testSheet'

vi.mock('@/parts/PdfPages.vue', () => ({
  __esModule: true,
  __isTeleport: false,
  __isKeepAlive: false,
  default: { render: () => null },
}))

// The key of a document, typed: one press an answer.
let kept: Sheet
type Sent = { rows: Question[] }
const sent = () => (server.calls(`PUT ${sheetPath}/key`).at(-1)!.body as Sent).rows
const question = (number: string, part: Partial<Question> = {}): Question => ({
  number,
  kind: 'single-choice',
  labels: ['A', 'B', 'C', 'D'],
  key: [],
  points: 1,
  standards: [],
  ...part,
})
const cell = (screen: VueWrapper, label: string) => {
  const found = screen.findAll('input').find((i) => i.attributes('aria-label')?.startsWith(label))
  if (!found) throw new Error(`there is no cell ${label}`)
  return found
}
const type = async (screen: VueWrapper, label: string, ...keys: (string | KeyboardEventInit)[]) => {
  cell(screen, label).element.focus()
  for (const k of keys) {
    const init = typeof k === 'string' ? { key: k } : k
    document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, cancelable: true, ...init }))
    await flushPromises()
  }
}
const settle = async () => {
  await vi.advanceTimersByTimeAsync(800)
  await flushPromises()
}
async function open() {
  const screen = await showOnSheet(KeyEntry)
  await settle()
  return screen
}

beforeEach(() => {
  vi.useFakeTimers()
  fresh()
  kept = draft({
    document: { hash: 'a', name: 'fall.pdf', pages: 2 },
    key: [
      question('1'),
      question('2', { labels: ['F', 'G', 'H', 'J'] }),
      question('3', { kind: 'multiple-choice' }),
      question('4', { kind: 'number', labels: [] }),
    ],
  })
  server.on(`GET ${sheetPath}`, () => ({ body: kept }))
  serveStandards([{ code: 'M6.RR' }, { code: 'M6.NP' }])
  server.on(`PUT ${sheetPath}/key`, (asked) => {
    kept = { ...kept, version: kept.version + 1, key: (asked.body as Sent).rows } as unknown as Sheet
    return { body: kept }
  })
})

describe('the key of a document', () => {
  it('takes one press an answer and goes on; a letter that is no label is said', async () => {
    const screen = await open()
    await type(screen, 'Key of 1,', 'c', 'a', 'h')
    await settle()
    expect(sent().map((q) => q.key.join())).toEqual(['C', 'H', '', ''])
    await type(screen, 'Key of 2,', 'z')
    expect(screen.text()).toContain('z is not one of F, G, H, J')
  })

  it('of several right ones is pressed on and off, and stays', async () => {
    const screen = await open()
    await type(screen, 'Key of 3,', 'd', 'a', 'b', 'a')
    await settle()
    expect(sent()[2]!.key).toEqual(['B', 'D'])
    await type(screen, 'Key of 3,', 'Backspace')
    await settle()
    expect(sent()[2]!.key).toEqual([])
  })

  it('is walked by arrows, and filled as the row above', async () => {
    const screen = await open()
    await type(screen, 'Points of 1', 'ArrowDown')
    expect(document.activeElement).toBe(cell(screen, 'Points of 2').element)
    await type(screen, 'Key of 1,', 'b')
    await type(screen, 'Key of 3,', 'ArrowUp', 'ArrowUp')
    expect(document.activeElement).toBe(cell(screen, 'Key of 1,').element)
    await fill(screen, 'Points of 1', '2')
    await type(screen, 'Points of 2', { key: 'd', ctrlKey: true })
    await settle()
    expect(sent().map((q) => q.points)).toEqual([2, 2, 1, 1])
  })

  it('aligns by one digit from the short list, with a second standard where there is one', async () => {
    const screen = await open()
    await fill(screen, 'Add a standard to the short list', 'M6.RR')
    await screen.find('form').trigger('submit')
    await fill(screen, 'Add a standard to the short list', 'M6.NP')
    await screen.find('form').trigger('submit')
    await type(screen, 'Standard of 1', '1', '2', '7')
    await type(screen, 'Second standard of 1', '2')
    await settle()
    expect(sent().map((q) => q.standards)).toEqual([['M6.RR', 'M6.NP'], ['M6.NP'], [], []])
  })

  it('is pasted as a string or a column, and says what it could not read', async () => {
    const screen = await open()
    const paste = new Event('paste', { bubbles: true, cancelable: true })
    Object.assign(paste, { clipboardData: { getData: () => 'b\nQ\nA,C\n12.5\n' } })
    cell(screen, 'Key of 1,').element.dispatchEvent(paste)
    await settle()
    expect(sent().map((q) => q.key.join())).toEqual(['B', '', 'A,C', '12.5'])
    expect(screen.text()).toContain('Q')
  })

  it('is finished later: what is missing is said, and what is there is kept', async () => {
    const screen = await open()
    expect(screen.text()).toContain('4 without a key, 4 without a standard')
    await fill(screen, 'Key of 4', '3/4; 0.75')
    await cell(screen, 'Key of 4').trigger('change')
    await settle()
    expect(screen.text()).toContain('3 without a key')
  })

  it('grows by blocks that number on, with labels that take turns', async () => {
    const screen = await open()
    await fill(screen, 'How many, block 1', '3')
    await fill(screen, 'Labels of even questions, block 1', 'F–J')
    await press(screen, 'Add 3 questions')
    await settle()
    expect(
      sent()
        .slice(4)
        .map((q) => `${q.number} ${q.labels.join('')}`),
    ).toEqual(['5 ABCD', '6 FGHJ', '7 ABCD'])
    await press(screen, 'Remove question 6')
    await settle()
    expect(sent().map((q) => q.number)).toEqual(['1', '2', '3', '4', '5', '7'])
  })

  it('takes a pasted column of standards from where one is, and says which points it refused', async () => {
    const screen = await open()
    const paste = new Event('paste', { bubbles: true, cancelable: true })
    Object.assign(paste, { clipboardData: { getData: () => 'M6.RR\nM6.NP\n' } })
    cell(screen, 'Standard of 2').element.dispatchEvent(paste)
    await fill(screen, 'Points of 1', '0')
    await settle()
    expect(sent().map((q) => q.standards.join())).toEqual(['', 'M6.RR', 'M6.NP', ''])
    expect(screen.text()).toContain('1: 0 points; they are more than 0 and at most 100')
    expect((cell(screen, 'Points of 1').element as HTMLInputElement).value).toBe('1')
  })

  it('refuses numbers of questions that cannot be, aloud', async () => {
    const screen = await open()
    for (const [count, why] of [
      ['0', 'A block has 1 to 300 questions'],
      ['2.5', 'a whole number'],
      ['301', 'A block has 1 to 300 questions'],
      ['299', 'An assessment has 300 lines at most; 4 are here already.'],
    ] as const) {
      await fill(screen, 'How many, block 1', count)
      expect(screen.find('form.blocks [role=alert]').text()).toContain(why)
      expect(button(screen, 'Add questions').attributes('disabled')).toBeDefined()
    }
    await fill(screen, 'How many, block 1', '296')
    expect(screen.find('form.blocks [role=alert]').exists()).toBe(false)
  })

  it('of a sealed edition takes no press', async () => {
    kept = { ...kept, state: 'sealed' } as Sheet
    const screen = await open()
    await type(screen, 'Key of 1,', 'c')
    await settle()
    expect(server.calls(`PUT ${sheetPath}/key`)).toEqual([])
  })
})
