import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, ref, type Ref } from 'vue'
import { queries, ProblemError } from '@/contract/client'
import { inserted, type Sheet } from '@/places/assessments/lines/lines'
import { useSheet, type OpenSheet } from './useSheet'
import { useTyped } from './useTyped'

// A sheet on a small server of its own, which checks versions as the real one does.
let kept: Sheet
let open: OpenSheet

const line = (itemId: number) => ({ itemId, versionId: itemId * 10, points: 1 })
const stale = { status: 409, body: { status: 409, detail: 'Tomás Lindqvist changed this meanwhile.' } }

function writes(
  call: 'PUT /api/assessments/4/lines' | 'PUT /api/assessments/4/outline',
  change: (body: never) => Partial<Sheet>,
) {
  server.on(call, (asked) => {
    if (asked.ifMatch !== String(kept.version)) return stale
    kept = { ...kept, ...change(asked.body as never), version: kept.version + 1 }
    return { body: kept }
  })
}

/** Somebody else writes, and this screen reads it again. */
async function meanwhile(change: Partial<Sheet>) {
  kept = { ...kept, ...change, version: kept.version + 1, changedBy: 'Tomás Lindqvist' }
  await open.query.refetch()
  await flushPromises()
}

async function show<T>(setup: () => T): Promise<T> {
  let out!: T
  const Screen = defineComponent({
    setup() {
      out = setup()
      return () => null
    },
  })
  mount(Screen, { global: { plugins: [[VueQueryPlugin, { queryClient: queries }]] } })
  await flushPromises()
  return out
}

beforeEach(async () => {
  kept = {
    id: 4,
    version: 7,
    state: 'draft',
    mayChange: true,
    changedBy: 'Ines Okafor',
    outline: { title: 'Fall', grades: ['06'] },
    lines: [line(1), line(2), line(3)],
  } as unknown as Sheet
  server.on('GET /api/assessments/4', () => ({ body: kept }))
  writes('PUT /api/assessments/4/lines', (body: { lines: Sheet['lines'] }) => body)
  writes('PUT /api/assessments/4/outline', (body: Sheet['outline']) => ({ outline: body }))
  open = await show(() => useSheet(ref(4)))
})

const order = () => open.sheet.value!.lines.map((l) => l.itemId)

describe('lines', () => {
  it('are changed one change after the other, each on what the one before gave', async () => {
    const first = open.changeLines((l) => l.slice(1))
    const second = open.changeLines((_, now) => inserted(now, [9], 0))
    expect(await Promise.all([first, second])).toEqual([true, true])
    expect(order()).toEqual([9, 2, 3])
    expect(server.calls('PUT /api/assessments/4/lines').map((a) => a.ifMatch)).toEqual(['7', '8'])
  })

  it('ask before the page is left while a change waits', async () => {
    const leaves = () => window.dispatchEvent(new Event('beforeunload', { cancelable: true }))
    expect(leaves()).toBe(true)
    const change = open.changeLines((l) => l.slice(1))
    expect(leaves()).toBe(false)
    await change
    expect(leaves()).toBe(true)
  })

  it('come back as they were, step by step', async () => {
    await open.changeLines((l) => l.slice(1))
    await open.changeLines((l) => l.slice(1))
    expect(order()).toEqual([3])
    open.undo()
    await flushPromises()
    expect(order()).toEqual([2, 3])
    open.undo()
    await flushPromises()
    expect(order()).toEqual([1, 2, 3])
    expect(open.past.value).toEqual([])
  })

  it('are not placed twice, and nothing of the try stays', async () => {
    expect(await open.changeLines((_, now) => inserted(now, [9, 2], 0))).toBe(false)
    expect(open.error.value?.message).toContain('Already there, as line 2')
    expect(order()).toEqual([1, 2, 3])
    expect(server.calls('PUT /api/assessments/4/lines')).toHaveLength(0)
  })

  it('are changed again on what somebody else wrote meanwhile', async () => {
    kept = { ...kept, lines: [line(5), line(2)], version: 8 } as unknown as Sheet
    expect(await open.changeLines((l) => l.filter((x) => x.itemId !== 2))).toBe(true)
    expect(order()).toEqual([5])
    expect(open.merged.value).toContain('Their changes and yours both stand.')
    expect(await open.changeLines((_, now) => inserted(now, [6], 1))).toBe(true)
    expect(open.merged.value).toBe('')
  })

  it('are not changed again once somebody else has sealed them', async () => {
    kept = { ...kept, state: 'sealed', version: 8 } as unknown as Sheet
    expect(await open.changeLines((l) => l.slice(1))).toBe(false)
    expect((open.error.value as ProblemError).status).toBe(409)
    await flushPromises()
    expect(open.editable.value).toBe(false)
  })

  it('of a sealed form are not editable', async () => {
    expect(open.editable.value).toBe(true)
    await meanwhile({ state: 'sealed' })
    expect(open.editable.value).toBe(false)
  })
})

describe('what is typed', () => {
  const typing = () =>
    show(() =>
      useTyped(open.sheet as Readonly<Ref<Sheet>>, {
        name: 'outline',
        part: (s: Sheet) => ({ ...s.outline }),
        put: open.putOutline,
        editable: open.editable,
        error: open.error,
        whole: (o) => o.title !== 'half',
      }),
    )
  const titles = () => server.calls('PUT /api/assessments/4/outline').map((a) => (a.body as Sheet['outline']).title)

  it('is kept once, and not again when nothing was typed since', async () => {
    const t = await typing()
    t.value.value.title = 'Fall benchmark'
    await t.keep()
    await t.keep()
    expect(titles()).toEqual(['Fall benchmark'])
    expect(kept.outline.title).toBe('Fall benchmark')
  })

  it('gives way to what somebody else wrote where nothing was typed', async () => {
    const t = await typing()
    await meanwhile({ outline: { ...kept.outline, title: 'Theirs' } })
    expect(t.value.value.title).toBe('Theirs')
    expect(t.clash.value).toBe(false)
  })

  it('stands beside what somebody else wrote until one is chosen', async () => {
    const t = await typing()
    t.value.value.title = 'Mine'
    await meanwhile({ outline: { ...kept.outline, title: 'Theirs' } })
    expect(t.clash.value).toBe(true)
    await t.keep()
    expect(titles()).toEqual([])
    expect(kept.outline.title).toBe('Theirs')

    await t.keepMine()
    expect(t.clash.value).toBe(false)
    expect(kept.outline.title).toBe('Mine')
  })

  it('can be given up for theirs', async () => {
    const t = await typing()
    t.value.value.title = 'Mine'
    await meanwhile({ outline: { ...kept.outline, title: 'Theirs' } })
    t.takeTheirs()
    expect(t.value.value.title).toBe('Theirs')
    await t.keep()
    expect(titles()).toEqual([])
  })

  it('is found out of date by the server when this screen had not read again', async () => {
    const t = await typing()
    kept = { ...kept, outline: { ...kept.outline, title: 'Theirs' }, version: 8 }
    t.value.value.title = 'Mine'
    await t.keep()
    await flushPromises()
    expect(kept.outline.title).toBe('Theirs')
    expect(t.clash.value).toBe(true)
    expect(t.value.value.title).toBe('Mine')
  })

  it('does not clash with a change of another part', async () => {
    const t = await typing()
    t.value.value.title = 'Mine'
    await meanwhile({ lines: [] })
    expect(t.clash.value).toBe(false)
    await t.keep()
    expect(kept.outline.title).toBe('Mine')
    expect(kept.lines).toEqual([])
  })

  it('stands beside a change that came while a try to keep it failed', async () => {
    const t = await typing()
    t.value.value.title = 'Mine'
    server.on('PUT /api/assessments/4/outline', async () => {
      await meanwhile({ outline: { ...kept.outline, title: 'Theirs' } })
      return { status: 500 }
    })
    await t.keep()
    expect(t.clash.value).toBe(true)
    expect(t.value.value.title).toBe('Mine')
  })

  it('may go on while it is being kept', async () => {
    const t = await typing()
    t.value.value.title = 'One'
    const first = t.keep()
    t.value.value.title = 'Two'
    await Promise.all([first, t.keep()])
    expect(kept.outline.title).toBe('Two')
    expect(t.clash.value).toBe(false)
  })

  it('waits in the browser while it cannot be sent as it is', async () => {
    const t = await typing()
    t.value.value.title = 'half'
    await t.keep()
    expect(titles()).toEqual([])
    const again = await typing() // after a reload
    expect(again.value.value.title).toBe('half')
    again.value.value.title = 'whole'
    await again.keep()
    expect(kept.outline.title).toBe('whole')
    expect(localStorage).toHaveLength(0)
  })

  it('outlives a dead network and a reload, and goes again by itself', async () => {
    vi.useFakeTimers()
    const t = await typing()
    t.value.value.title = 'Mine'
    let dead = true
    server.on('PUT /api/assessments/4/outline', (asked) => {
      if (dead) return { status: 503 }
      kept = { ...kept, outline: asked.body as Sheet['outline'], version: kept.version + 1 }
      return { body: kept }
    })
    await t.keep()
    expect(localStorage).toHaveLength(1)
    dead = false
    await vi.advanceTimersByTimeAsync(5_000)
    await flushPromises()
    vi.useRealTimers()
    expect(kept.outline.title).toBe('Mine')
    expect(localStorage).toHaveLength(0)
  })

  it('that was held while somebody else wrote stands beside theirs after a reload', async () => {
    const t = await typing()
    t.value.value.title = 'half'
    await t.keep()
    kept = { ...kept, outline: { ...kept.outline, title: 'Theirs' }, version: kept.version + 1 }
    await open.query.refetch()
    const again = await typing()
    expect(again.value.value.title).toBe('half')
    expect(again.clash.value).toBe(true)
    again.takeTheirs()
    expect(again.value.value.title).toBe('Theirs')
    expect(localStorage).toHaveLength(0)
  })
})
