import { server } from '@/contract/testServer'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent } from 'vue'
import type { Schemas } from '@/contract/client'
import { useDraft } from './useDraft'

// A draft on a small server of its own, which checks versions as the real one does.
type Draft = Schemas['ItemDraft']
let there: Draft
let draft: ReturnType<typeof useDraft>
let screen: ReturnType<typeof mount>
const put = 'PUT /api/item-drafts/5'

function first(): Draft {
  return {
    id: 5,
    version: 3,
    document: { kind: 'true-false', credit: 'all-or-nothing', body: [{ html: '' }], declarations: [] },
    meta: { identifier: '', subject: '' },
    problems: [],
    cautions: [],
    examples: [],
  } as unknown as Draft
}
const stem = (html: string) => (draft.typed.value.document.body[0]!.html = html)
const sent = () => server.calls(put).map((a) => (a.body as Draft).document.body[0]!.html)
async function pass(ms: number) {
  await vi.advanceTimersByTimeAsync(ms)
  await flushPromises()
}

beforeEach(() => {
  vi.useFakeTimers()
  there = first()
  server.on('GET /api/item-drafts/5', () => ({ body: there }))
  server.on(put, (asked) => {
    if (asked.ifMatch !== String(there.version)) return { status: 409, body: { status: 409, detail: 'Changed meanwhile.' } }
    there = { ...there, ...(asked.body as Partial<Draft>), version: there.version + 1 }
    return { body: there }
  })
  open()
})
function open() {
  screen = mount(
    defineComponent({
      setup() {
        draft = useDraft(there)
        return () => null
      },
    }),
  )
}
afterEach(() => {
  screen.unmount()
  vi.useRealTimers()
})

describe('a draft', () => {
  it('is kept once typing rests, on the version that was seen', async () => {
    stem('The tide')
    await pass(300)
    expect(draft.state.value).toBe('Saving…')
    stem('The tide rises.')
    await pass(500)
    expect(sent()).toEqual([])
    await pass(200)
    expect(sent()).toEqual(['The tide rises.'])
    expect(server.calls(put)[0]!.ifMatch).toBe('3')
    expect(draft.state.value).toBe('Saved')
    expect(draft.seen.value.version).toBe(4)
  })

  it('sends nothing when nothing has changed', async () => {
    stem('x')
    stem('')
    await pass(2_000)
    expect(await draft.keep()).toBe(true)
    expect(sent()).toEqual([])
  })

  it('sends what was typed while it was being sent, after that', async () => {
    stem('one')
    await pass(600)
    stem('two')
    await pass(700)
    expect(sent()).toEqual(['one', 'two'])
    expect(server.calls(put).map((a) => a.ifMatch)).toEqual(['3', '4'])
  })

  it('tries again while the network is away', async () => {
    const answer = server.answers.get(put)!
    server.on(put, () => 'no network')
    stem('typed in a tunnel')
    await pass(700)
    expect(draft.state.value).toBe('Not saved yet, will send when the network is back')
    server.answers.set(put, answer)
    await pass(4_100)
    expect(draft.state.value).toBe('Saved')
    expect(there.document.body[0]!.html).toBe('typed in a tunnel')
  })

  it('says what the server refuses and does not ask again unasked', async () => {
    server.on(put, () => ({ status: 422, body: { status: 422, detail: 'The item is too large.' } }))
    stem('x')
    await pass(700)
    expect(draft.state.value).toBe('Not saved')
    expect(draft.error.value?.message).toBe('The item is too large.')
    await pass(60_000)
    expect(server.calls(put)).toHaveLength(1)
  })

  it('never writes over another tab: the person says which one stands', async () => {
    there = { ...there, version: 9, document: { ...there.document, body: [{ html: 'theirs' }] } }
    stem('mine')
    await pass(700)
    expect(draft.clash.value).toBe(true)
    expect(draft.state.value).toBe('Changed in another tab')
    stem('mine, and more')
    await pass(2_000)
    expect(server.calls(put), 'nothing is sent until it is settled').toHaveLength(1)

    await draft.keepMine()
    await flushPromises()
    expect(there.document.body[0]!.html).toBe('mine, and more')
    expect(server.calls(put).at(-1)!.ifMatch).toBe('9')
  })

  it('or takes what the other tab has', async () => {
    there = { ...there, version: 9, document: { ...there.document, body: [{ html: 'theirs' }] } }
    stem('mine')
    await pass(700)
    draft.takeTheirs()
    expect(draft.typed.value.document.body[0]!.html).toBe('theirs')
    expect([draft.clash.value, draft.state.value]).toEqual([false, 'Saved'])
    stem('theirs, changed')
    await pass(1_000)
    expect(there.document.body[0]!.html).toBe('theirs, changed')
  })

  it('is undone and done again, texts and metadata alike', async () => {
    stem('one')
    await pass(700)
    draft.typed.value.meta.subject = 'science'
    await pass(700)
    draft.history.undo()
    expect([draft.typed.value.document.body[0]!.html, draft.typed.value.meta.subject]).toEqual(['one', ''])
    draft.history.undo()
    expect(draft.typed.value.document.body[0]!.html).toBe('')
    draft.history.redo()
    draft.history.redo()
    await pass(1_000)
    expect([there.document.body[0]!.html, there.meta.subject]).toEqual(['one', 'science'])
  })

  it('outlives a closed tab that had no network, and goes when it is opened again', async () => {
    const answer = server.answers.get(put)!
    server.on(put, () => 'no network')
    stem('typed in a tunnel')
    await pass(700)
    screen.unmount()
    await pass(10_000)
    server.answers.set(put, answer)
    open()
    expect(draft.typed.value.document.body[0]!.html).toBe('typed in a tunnel')
    await pass(700)
    expect(there.document.body[0]!.html).toBe('typed in a tunnel')
    expect(localStorage).toHaveLength(0)
  })

  it('leaves nothing in the browser once it is dropped', async () => {
    stem('never mind')
    await pass(0)
    expect(localStorage).toHaveLength(1)
    draft.forget()
    screen.unmount()
    await pass(5_000)
    expect(sent()).toEqual([])
    expect(localStorage).toHaveLength(0)
  })

  it('is sent when its screen is left', async () => {
    stem('last words')
    await flushPromises()
    screen.unmount()
    await flushPromises()
    expect(sent()).toEqual(['last words'])
  })
})
