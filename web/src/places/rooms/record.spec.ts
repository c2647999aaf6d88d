import { server } from '@/contract/testServer'
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries } from '@/contract/client'
import Record from './Record.vue'

// An adult records a child; the server is a small one of its own.
const path = '/api/sittings/7/students/9/recording'
const line = (n: number) => ({
  line: n,
  shown: { kind: 'examiner', body: [{ html: `picture ${n}` }] },
  directions: `Ask ${n}.`,
  right: `answer ${n}`,
  recorded: '',
  number: 0,
})
let shown: VueWrapper
let recording: object

async function open() {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/rooms/:id/record/:student', component: Record },
      { path: '/rooms/:id', component: { template: '<p>room</p>' } },
    ],
  })
  await router.push('/rooms/7/record/9')
  shown = mount(
    { template: '<RouterView />' },
    { global: { plugins: [router, [VueQueryPlugin, { queryClient: queries }]] }, attachTo: document.body },
  )
  await flushPromises()
  return router
}
async function press(key: string) {
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
  await flushPromises()
}
const handIn = 'POST /api/sittings/7/students/9/hand-in'
async function click(words: string) {
  await shown
    .findAll('button')
    .find((b) => b.text() === words)!
    .trigger('click')
  await flushPromises()
}
const said = () => server.calls(`PUT ${path}`).map((a) => a.body as { line: number; recorded: string; number: number })
const heading = () => shown.find('.adult h2').text()

beforeEach(() => {
  recording = {
    attemptId: 1,
    student: 'Mei Sato',
    studentId: 9,
    title: 'Check',
    state: 'working',
    stopped: '',
    lines: [1, 3, 4].map(line),
    mixed: [4, 1, 3],
  }
  server.on(`POST ${path}`, () => ({ body: recording }))
  server.on(`PUT ${path}`, () => ({ body: { savedAt: '2026-10-13T15:00:00Z' } }))
})

describe('recording', () => {
  it('goes on with one key a line, and numbers every change', async () => {
    await open()
    expect(heading()).toBe('Line 1, 1 of 3')
    expect(shown.find('.adult').text()).toContain('Ask 1.')
    await press('r')
    await press('n')
    expect(said().map((a) => [a.line, a.recorded])).toEqual([
      [1, 'right'],
      [3, 'none'],
    ])
    await press('Backspace')
    expect(heading()).toBe('Line 3, 2 of 3')
    const before = said()[1]!.number
    await press('w')
    expect(said()[2]).toMatchObject({ line: 3, recorded: 'wrong' })
    expect(said()[2]!.number).toBeGreaterThan(before)
    expect(shown.find('header p').text()).toContain('2 of 3 recorded')
  })

  it('goes back to a line that could not be kept, and says so', async () => {
    await open()
    server.on(`PUT ${path}`, () => ({ status: 409, body: { status: 409, detail: 'The door is closed.' } }))
    await press('r')
    expect(shown.text()).toContain('The door is closed.')
    expect(heading()).toBe('Line 1, 1 of 3')
    expect(shown.find('.keys [aria-pressed=true]').exists()).toBe(false)
  })

  it('keeps what the network does not take, over a reload too, and sends it later', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
    await open()
    server.on(`PUT ${path}`, () => 'no network')
    await press('r')
    await press('w')
    expect(heading()).toBe('Line 4, 3 of 3')
    expect(shown.find('header').text()).toContain('not saved yet')
    await shown
      .findAll('button')
      .find((b) => b.text().includes('End here'))!
      .trigger('click')
    await flushPromises()
    expect(server.calls('POST /api/sittings/7/students/9/hand-in'), 'nothing ends before all is saved').toHaveLength(0)

    shown.unmount() // the page is loaded again, and the network is back
    await flushPromises()
    recording = { ...recording, lines: [1, 3, 4].map(line) }
    server.on(`PUT ${path}`, () => ({ body: { savedAt: '2026-10-13T15:00:00Z' } }))
    server.asked.length = 0
    await open()
    await vi.advanceTimersByTimeAsync(10_000)
    await flushPromises()
    expect(said().map((a) => [a.line, a.recorded])).toEqual([
      [1, 'right'],
      [3, 'wrong'],
    ])
    expect(heading()).toBe('Line 4, 3 of 3')
    expect(shown.find('header').text()).toContain('saved')
    expect(JSON.parse(localStorage.getItem('pine-ledger-unsent-7-9') ?? '{}')).toEqual({})
    vi.useRealTimers()
  })

  it('lets what the server has newer stand', async () => {
    localStorage.setItem('pine-ledger-unsent-7-9', JSON.stringify({ 1: { recorded: 'wrong', number: 5 } }))
    Object.assign((recording as { lines: object[] }).lines[0]!, { recorded: 'right', number: 8 })
    await open()
    expect(said()).toEqual([])
    expect(shown.findAll('.strip button')[0]!.text()).toContain('●')
  })

  it('begins at the first line that is not recorded', async () => {
    ;(recording as { lines: { recorded: string }[] }).lines[0]!.recorded = 'right'
    await open()
    expect(heading()).toBe('Line 3, 2 of 3')
  })

  it('mixes the lines as the server says for this child', async () => {
    await open()
    await shown.find('.mix input').setValue(true)
    expect(shown.findAll('.strip button').map((b) => b.text())).toEqual(['4', '1', '3'])
  })

  it('records nothing while something stands in the way, or with the picture turned', async () => {
    ;(recording as { stopped: string }).stopped = 'The door is paused'
    await open()
    expect(shown.text()).toContain('The door is paused.')
    await press('r')
    expect(said()).toEqual([])
    shown.unmount()
    ;(recording as { stopped: string }).stopped = ''
    await open()
    await press('t')
    expect(document.querySelector('.turned')!.textContent).toContain('picture 1')
    expect(document.querySelector('.turned')!.textContent).not.toContain('answer 1')
    await press('r')
    expect(said(), 'a child that plays with the keys records nothing').toEqual([])
    await press('Escape')
    expect(document.querySelector('.turned')).toBeNull()
  })

  it('waits for what is being kept before it ends', async () => {
    const router = await open()
    let keep!: () => void
    server.on(`PUT ${path}`, () => new Promise((kept) => (keep = () => kept({ body: { savedAt: '2026-10-13T15:00:00Z' } }))))
    server.on(handIn, () => ({ body: { ...recording, state: 'handed in' as const } }))
    await press('r')
    await click('End here, 2 not recorded')
    expect(shown.find('[role=alert]').text()).toContain('2 lines are not recorded. End here?')
    await click('End here')
    await click('Back to the room')
    expect(server.calls(handIn)).toHaveLength(0)
    keep()
    await flushPromises()
    expect(server.calls(handIn)).toHaveLength(1)
    await flushPromises()
    expect(router.currentRoute.value.path).toBe('/rooms/7')
  })

  it('can be taken back before it is handed in, and is handed in by itself', async () => {
    vi.useFakeTimers()
    await open()
    server.on(handIn, () => ({ body: { ...recording, state: 'handed in' as const } }))
    for (const key of ['r', 'w', 'n']) await press(key)
    await click('Done with this child')
    await vi.advanceTimersByTimeAsync(7_000)
    await click('Undo')
    await vi.advanceTimersByTimeAsync(20_000)
    expect(server.calls(handIn)).toHaveLength(0)
    await press('r') // the last line after all
    expect(said().at(-1)).toMatchObject({ line: 4, recorded: 'right' })
    await click('Done with this child')
    await press('w')
    expect(said().at(-1), 'nothing is recorded meanwhile').toMatchObject({ recorded: 'right' })
    await vi.advanceTimersByTimeAsync(8_100)
    expect(server.calls(handIn)).toHaveLength(1)
    vi.useRealTimers()
  })

  it('goes on when one leaves for the room at once', async () => {
    const router = await open()
    server.on(handIn, () => ({ body: { ...recording, state: 'handed in' as const } }))
    for (const key of ['r', 'w', 'n']) await press(key)
    await click('Done with this child')
    await router.push('/rooms/7')
    expect(server.calls(handIn)).toHaveLength(1)
  })

  it('records a key that is held down once, and hears keys after any click', async () => {
    await open()
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'r', bubbles: true }))
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'r', bubbles: true, repeat: true }))
    await flushPromises()
    expect(said()).toHaveLength(1)
    const box = shown.find<HTMLInputElement>('input[type=checkbox]').element
    box.focus()
    box.dispatchEvent(new KeyboardEvent('keydown', { key: 'w', bubbles: true }))
    await flushPromises()
    expect(said().at(-1)!.recorded).toBe('wrong')
  })
})
