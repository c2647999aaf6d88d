import { server } from '@/contract/testServer'
import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { fresh, show } from '@/places/assessments/sheet/testSheet'
import ImportPanel from './ImportPanel.vue'

const done = {
  id: 7,
  kind: 'items',
  file: 'fall.zip',
  state: 'done' as const,
  stage: '',
  message: '',
  read: 3,
  new: 2,
  changed: 0,
  unchanged: 0,
  refused: 1,
  aside: 0,
  twins: 0,
  startedAt: '2026-11-29T16:00:00Z',
  refusals: [{ sort: 'refused' as const, file: 'a.xml', line: 4, field: 'itemBody', reason: 'holds nothing to answer' }],
  notes: [
    { sort: 'assumed' as const, file: 'fall.zip', line: 0, field: 'subject', reason: '"mathematics" was taken for 2 items' },
  ],
}

async function panel(kind: 'items' | 'standards') {
  fresh(['import'])
  server.on('GET /api/imports', () => ({ body: [] }))
  server.on('GET /api/subjects', () => ({ body: ['mathematics', 'reading'] }))
  server.on('POST /api/imports', () => ({ status: 202, body: { ...done, state: 'running' as const } }))
  server.on('GET /api/imports/7', () => ({ body: done }))
  const screen = await show(ImportPanel, { kind })
  const input = screen.find('#file')
  Object.defineProperty(input.element, 'files', { value: [new File(['{}'], 'fall.zip')] })
  await input.trigger('change')
  return screen
}

async function send(screen: Awaited<ReturnType<typeof panel>>) {
  await screen.find('form').trigger('submit')
  await vi.waitFor(() => expect(server.calls('GET /api/imports/7')).not.toHaveLength(0))
  await flushPromises()
}

describe('an import', () => {
  it('sends what is given for items that do not say it, and shows what was assumed', async () => {
    const screen = await panel('items')
    await screen.find('#given-subject').setValue('mathematics')
    await screen.find('#given-standard').setValue(' M6.RR.1 ')
    await send(screen)
    const asked = new URLSearchParams(server.calls('POST /api/imports')[0]!.query)
    expect(Object.fromEntries(asked)).toEqual({ kind: 'items', file: 'fall.zip', subject: 'mathematics', standard: 'M6.RR.1' })
    expect(screen.text()).toContain('a.xml line 4, itemBody holds nothing to answer')
    expect(screen.text()).toContain('Taken for granted')
    expect(screen.text()).not.toContain('line 0')
  })

  it('of standards lets an older edition in only when that is asked for', async () => {
    const screen = await panel('standards')
    expect(screen.find('#given-subject').exists()).toBe(false)
    await screen.find('input[type=checkbox]').setValue(true)
    await send(screen)
    expect(server.calls('POST /api/imports')[0]!.query).toContain('older=true')
  })
})
