import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { expect, it, vi } from 'vitest'
import { queries, type Schemas } from '@/contract/client'
import BellNote from './BellNote.vue'

const sitting = { id: 7, door: 'open' } as Schemas['Sitting']
const show = (at: string) =>
  mount(BellNote, {
    props: { sitting, at },
    global: { plugins: [PrimeVue, [VueQueryPlugin, { queryClient: queries }]] },
    attachTo: document.body,
  })

it('says when the door closes by itself, and warns five minutes before', async () => {
  vi.useFakeTimers({ now: new Date('2026-11-30T17:50:00Z') })
  const shown = show('2026-11-30T18:00:00Z')
  expect(shown.text()).toContain('at the end of the period')
  expect(shown.find('[role=alert]').exists()).toBe(false)
  vi.advanceTimersByTime(5 * 60_000)
  await flushPromises()
  expect(shown.find('[role=alert]').text()).toContain('closes by itself in 5 minutes')
  vi.advanceTimersByTime(4 * 60_000)
  await flushPromises()
  expect(shown.find('[role=alert]').text()).toContain('closes by itself in 1 minute')
})

it('gives ten minutes more, or leaves the door open, in one press', async () => {
  server.on('POST /api/sittings/7/door/longer', () => ({ body: { lines: 3 } }))
  const shown = show(new Date(Date.now() + 60_000).toISOString())
  const press = async (name: string) => {
    await shown
      .findAll('button')
      .find((b) => b.text() === name)!
      .trigger('click')
    await flushPromises()
    return server.asked.at(-1)!.body
  }
  expect(await press('Ten minutes more')).toEqual({ untilClosed: false })
  expect(await press('Leave it open')).toEqual({ untilClosed: true })
  expect(shown.emitted('changed')).toEqual([[{ lines: 3 }], [{ lines: 3 }]])
})

it('says what went wrong', async () => {
  server.on('POST /api/sittings/7/door/longer', () => ({
    status: 409,
    body: { status: 409, detail: 'The door does not close by itself.' },
  }))
  const shown = show(new Date(Date.now() + 3_600_000).toISOString())
  await shown.findAll('button')[0]!.trigger('click')
  await flushPromises()
  expect(shown.text()).toContain('The door does not close by itself.')
})
