import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries, type Schemas } from '@/contract/client'
import { signOut } from '@/contract/session'
import CalculatorPad from './tools/CalculatorPad.vue'
import LookOver from './LookOver.vue'
import MarksStrip from './MarksStrip.vue'
import Take from './Take.vue'
import { usual } from './how'

// The student's screen, tried by staff: nothing of it is sent.
let take: Schemas['Take']

const choice = (line: number, part = 0, passage = ''): Schemas['Take']['lines'][number] => ({
  line,
  part,
  passage,
  shown: {
    kind: 'single-choice',
    body: [
      { html: `Question ${line}` },
      {
        interaction: {
          response: 'RESPONSE',
          choices: [
            { id: 'a', html: 'oak' },
            { id: 'b', html: 'elm' },
          ],
          maxChoices: 1,
        },
      },
    ],
  },
  marked: false,
  number: 0,
  response: {},
})

async function open(address = '/assessments/4/try') {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/assessments/:id/try', component: Take, meta: { trial: true, title: '' } },
      { path: '/:rest(.*)*', component: { render: () => null }, meta: { title: '' } },
    ],
  })
  await router.push(address)
  const screen = mount(Take, {
    global: { plugins: [PrimeVue, router, [VueQueryPlugin, { queryClient: queries }]] },
    attachTo: document.body,
  })
  await flushPromises()
  await vi.dynamicImportSettled()
  await flushPromises()
  return { screen, router }
}
const press = async (screen: VueWrapper, label: string) => {
  const found = screen.findAll('button').find((b) => b.text().includes(label) || b.attributes('aria-label') === label)
  if (!found) throw new Error(`there is no button ${label}`)
  await found.trigger('click')
  await flushPromises()
}
const has = (screen: VueWrapper, label: string) => screen.findAll('button').some((b) => b.text().includes(label))

beforeEach(() => {
  Element.prototype.scrollIntoView = () => undefined
  take = {
    attemptId: 0,
    student: '',
    studentId: 9,
    how: usual,
    try: 1,
    mayRetake: false,
    count: 3,
    minutes: 0,
    leftSeconds: 0,
    title: 'Ratio quiz',
    instructions: '<p>Work alone.</p>',
    state: 'working',
    now: '2026-10-13T16:00:00Z',
    end: '2027-10-13T16:00:00Z',
    limited: false,
    stopped: '',
    stoppedBy: '',
    lines: [choice(1, 1), choice(4, 1), choice(6, 2, 'tides')],
    parts: [
      { title: 'By hand', directions: '<p>Slowly.</p>', calculator: false },
      { title: 'With help', directions: '', calculator: true },
    ],
    passages: [{ identifier: 'tides', title: 'Tides', body: '<p>High.</p>' }],
  }
  server.on('GET /api/assessments/4/preview', () => ({ body: take }))
  server.on('GET /api/assessments/4', () => ({
    body: { id: 4, forms: [], layout: { parts: [], pools: [{ title: '', choose: 1 }] } },
  }))
})

describe('a try', () => {
  it('begins with the instructions, then shows one item at a time under its part’s directions', async () => {
    const { screen, router } = await open()
    expect(screen.text()).toContain('Work alone.')
    expect(screen.text()).toContain('3 items')
    await press(screen, 'Begin')
    expect(screen.text()).toContain('Question 1')
    expect(screen.text()).toContain('Slowly.')
    await press(screen, 'Next')
    expect(router.currentRoute.value.query.item).toBe('2')
    expect(screen.text()).toContain('Question 4')
  })

  it('puts the focus on the head of what has come', async () => {
    const { screen } = await open()
    const head = () => document.activeElement?.textContent?.trim()
    expect(head()).toBe(screen.find('h1').text())
    await press(screen, 'Begin')
    expect(head()).toBe('1 of 3')
    await press(screen, 'Next')
    expect(head()).toBe('2 of 3')
    await press(screen, 'Look over and hand in')
    expect(head()).toBe(screen.find('main h1').text())
    await press(screen, 'Hand in')
    expect(head()).toBe('Handed in')
  })

  it('has a calculator in the part that allows one, and none in the other', async () => {
    const { screen } = await open('/assessments/4/try?item=1')
    expect(has(screen, 'Calculator')).toBe(false)
    await press(screen, 'Next')
    await press(screen, 'Next')
    expect(screen.text()).toContain('High.')
    await press(screen, 'Calculator')
    await vi.dynamicImportSettled()
    await flushPromises()
    expect(screen.find('aside[aria-label=Calculator]').exists()).toBe(true)
    await press(screen, 'Back')
    expect(screen.find('aside[aria-label=Calculator]').exists()).toBe(false)
  })

  it('with the support of a calculator has one throughout', async () => {
    const { screen } = await open('/assessments/4/try?item=1&calculator=1')
    expect(has(screen, 'Calculator')).toBe(true)
  })

  it('shows contrast and print as supports, and keeps them from item to item', async () => {
    const { screen, router } = await open('/assessments/4/try?item=1&print=2&contrast=dark-on-yellow')
    const root = screen.find('.student')
    expect(root.attributes('data-contrast')).toBe('dark-on-yellow')
    expect(root.attributes('style')).toContain('--print: 2')
    await press(screen, 'Next')
    expect(router.currentRoute.value.query).toMatchObject({ item: '2', print: '2', contrast: 'dark-on-yellow', seed: '1' })
  })

  it('can be read in letters that are easier to tell apart, also after a reload, until one signs out', async () => {
    const { screen } = await open()
    const letters = () => document.documentElement.dataset.letters
    expect(letters()).toBe('learner')
    await press(screen, 'Letters that are easier to tell apart')
    expect(letters()).toBe('distinct')
    screen.unmount()
    expect(letters()).toBeUndefined()
    const again = await open()
    expect(letters()).toBe('distinct')
    again.screen.unmount()
    server.on('DELETE /api/session', () => ({ status: 204 }))
    await signOut()
    await open()
    expect(letters()).toBe('learner')
  })

  it('keeps answers and marks while one looks around, and sends none of them', async () => {
    const { screen } = await open('/assessments/4/try?item=1')
    await screen.findAll('input[type=radio]')[1]!.setValue(true)
    await press(screen, 'Mark for later')
    await press(screen, 'Look over and hand in')
    expect(screen.text()).toContain('2 items are not answered.')
    expect(screen.text()).toContain('You marked for later:')
    await press(screen, 'Hand in with 2 not answered')
    expect(screen.text()).toContain('Nothing of your try was kept.')
    expect(server.asked.filter((a) => a.method !== 'GET')).toEqual([])
  })

  it('of another draw begins anew with its seed', async () => {
    const { screen, router } = await open('/assessments/4/try?item=1&seed=7')
    expect(server.calls('GET /api/assessments/4/preview').at(-1)!.query).toBe('?seed=7')
    await press(screen, 'Draw again')
    await flushPromises()
    expect(server.calls('GET /api/assessments/4/preview').at(-1)!.query).toBe('?seed=8')
    expect(router.currentRoute.value.query).toMatchObject({ seed: '8', item: '1' })
  })

  it('that cannot be read says why, with a way back', async () => {
    server.on('GET /api/assessments/4/preview', () => ({ status: 404, body: { status: 404, detail: 'There is no such thing.' } }))
    const { screen, router } = await open()
    expect(screen.text()).toContain('There is no such thing.')
    await press(screen, 'Back')
    expect(router.currentRoute.value.path).toBe('/assessments/4/lines')
  })
})

describe('the strip of items', () => {
  it('says of each whether it is answered, marked, and where one is', () => {
    const strip = mount(MarksStrip, {
      props: { answered: [true, false, false], marked: [false, true, false], at: 2, starts: [false, false, true] },
    })
    expect(strip.findAll('button').map((b) => b.attributes('aria-label'))).toEqual([
      'Item 1, answered',
      'Item 2, not answered, marked for later, you are here',
      'Item 3, not answered',
    ])
    expect(strip.findAll('li').map((l) => l.classes('start'))).toEqual([false, false, true])
    void strip.findAll('button')[2]!.trigger('click')
    expect(strip.emitted('go')).toEqual([[3]])
  })

  it('is one stop of the Tab key, with arrows within', async () => {
    const strip = mount(MarksStrip, {
      props: { answered: [true, false, false], marked: [false, false, false], at: 2 },
      attachTo: document.body,
    })
    const cells = strip.findAll('button')
    expect(cells.map((c) => c.attributes('tabindex'))).toEqual(['-1', '0', '-1'])
    for (const [key, at] of [
      ['ArrowRight', 2],
      ['ArrowRight', 2],
      ['ArrowLeft', 1],
      ['Home', 0],
      ['End', 2],
    ] as const) {
      const from = cells.find((c) => c.element === document.activeElement) ?? cells[1]!
      await from.trigger('keydown', { key })
      expect(document.activeElement).toBe(cells[at]!.element)
    }
    expect(strip.emitted('go')).toBeUndefined()
  })
})

describe('the last look', () => {
  it('names what is open and hands in all the same', async () => {
    const look = mount(LookOver, { props: { answered: [true, false], marked: [false, false], busy: false } })
    expect(look.text()).toContain('One item is not answered.')
    await look.find('button[aria-label="Go to item 2, not answered"]').trigger('click')
    expect(look.emitted('go')).toEqual([[2]])
    await look.findAll('button').at(-1)!.trigger('click')
    expect(look.emitted('handIn')).toHaveLength(1)
    await look.setProps({ answered: [true, true] })
    expect(look.text()).toContain('Every item is answered.')
  })
})

describe('the calculator on the screen', () => {
  it('works by mouse and by keys, and says each sign in words', async () => {
    const pad = mount(CalculatorPad, { props: { kind: 'percent' }, attachTo: document.body })
    const click = (k: string) =>
      pad
        .findAll('button')
        .find((b) => b.text() === k)!
        .trigger('click')
    for (const k of ['1', '2', '×', '3', '=']) await click(k)
    expect(pad.find('output').text()).toBe('36')
    await click('±')
    expect(pad.find('output').text(), 'with a true minus').toBe('−36')
    const aside = pad.find('aside')
    for (const key of ['Escape', '7', '/', '2', 'Enter']) await aside.trigger('keydown', { key })
    expect(pad.find('output').text()).toBe('3.5')
    expect(pad.emitted('close')).toHaveLength(1)
    await aside.trigger('keydown', { key: '9', ctrlKey: true })
    expect(pad.find('output').text(), 'a shortcut of the browser is none of its').toBe('3.5')
    expect(pad.find('[aria-label="Square root"]').exists()).toBe(true)
  })
})
