import { server } from '@/contract/testServer'
import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, ref } from 'vue'
import type { Schemas } from '@/contract/client'
import { useAsides, type Asides } from './useAsides'

const keep = 'PUT /api/my/attempts/12/asides'
const take = (asides: Schemas['Aside'][] = []) =>
  ref({ attemptId: 12, state: 'working', asides, lines: [{ line: 3 }] } as unknown as Schemas['Take'])

function on(work = take(), unkept = false) {
  let asides!: Asides
  const screen = mount(
    defineComponent({
      setup() {
        asides = useAsides(work, unkept)
        asides.open()
        return () => null
      },
    }),
  )
  return { asides, screen }
}
beforeEach(() => {
  localStorage.clear()
  vi.useFakeTimers()
  server.on(keep, () => ({ status: 204 }))
})

describe('what is kept beside the answers', () => {
  it('is sent soon, the last of several changes', async () => {
    const { asides, screen } = on()
    asides.put('notes', 0, 'a')
    asides.put('notes', 0, 'ab')
    asides.put('highlights', 3, { en: [] })
    expect(asides.get('notes', 0, '')).toBe('ab')
    await vi.advanceTimersByTimeAsync(1_000)
    await flushPromises()
    const sent = server.calls(keep).map((c) => (c.body as { asides: Schemas['Aside'][] }).asides)
    expect(sent).toHaveLength(1)
    expect(sent[0]!.map((a) => [a.tool, a.line, a.value])).toEqual([
      ['notes', 0, '"ab"'],
      ['highlights', 3, '{"en":[]}'],
    ])
    screen.unmount()
  })

  it('outlives a page without a network, and comes from another device', async () => {
    server.on(keep, () => 'no network')
    const first = on()
    first.asides.put('notes', 0, 'here')
    await vi.advanceTimersByTimeAsync(1_000)
    first.screen.unmount()
    const elsewhere: Schemas['Aside'] = { line: 0, tool: 'drawing', number: 5, value: '[[1,2]]' }
    const { asides, screen } = on(take([elsewhere]))
    expect(asides.get('notes', 0, '')).toBe('here')
    expect(asides.get('drawing', 0, [])).toEqual([[1, 2]])
    screen.unmount()
  })

  it('gives way to what another device kept later', async () => {
    server.on(keep, () => 'no network')
    const first = on()
    first.asides.put('notes', 0, 'old')
    await vi.advanceTimersByTimeAsync(1_000)
    first.screen.unmount()
    const { asides, screen } = on(take([{ line: 0, tool: 'notes', number: Date.now() + 60_000, value: '"new"' }]))
    expect(asides.get('notes', 0, '')).toBe('new')
    screen.unmount()
  })

  it('stays on the page where nothing is kept', async () => {
    const { asides, screen } = on(take(), true)
    asides.put('notes', 0, 'a try')
    await vi.advanceTimersByTimeAsync(5_000)
    expect(server.calls(keep)).toEqual([])
    expect(asides.get('notes', 0, '')).toBe('a try')
    expect(asides.get('strikes', 1, 'none')).toBe('none')
    screen.unmount()
  })
})
