import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it } from 'vitest'
import { server } from '@/contract/testServer'
import { queries, type Schemas } from '@/contract/client'
import { button, fresh, press, show } from '@/places/assessments/sheet/testSheet'
import BandSetPanel from './BandSetPanel.vue'

const set = {
  id: 4,
  whose: 'district',
  of: '',
  name: 'Grade 6',
  subject: 'mathematics',
  grades: ['06'],
  rule: 'atLeast',
  version: 3,
  uses: 0,
  mayChange: true,
  bands: [
    { name: 'Launching', cut: {} },
    { name: 'On course', cut: { percent: 60 } },
  ],
} as unknown as Schemas['BandSet']
const save = async (screen: Awaited<ReturnType<typeof show>>) => {
  await screen.find('form').trigger('submit')
  await flushPromises()
}
const calls = () => server.calls('PUT /api/band-sets/4')

beforeEach(() => {
  fresh()
  queries.setQueryData(['session'], { roles: ['district-coordinator'], rights: ['build'] })
  sessionStorage.clear()
  server.on('GET /api/subjects', () => ({ body: ['mathematics'] }))
  server.on('GET /api/band-sets', () => ({ body: [set] }))
  server.on('GET /api/schools', () => ({ body: [{ id: 12, name: 'Quarry Road Middle' }] }))
  let version = 3
  server.on('PUT /api/band-sets/4', (asked) =>
    asked.ifMatch === String(version)
      ? { body: { ...set, ...(asked.body as object), version: ++version } }
      : { status: 409, body: { status: 409, detail: 'Somebody changed this meanwhile.' } },
  )
})

describe('a band set', () => {
  it('is saved twice in one panel without a conflict', async () => {
    const screen = await show(BandSetPanel, { set })
    await screen.find('#set-name').setValue('Grade six')
    await save(screen)
    await screen.find('#set-name').setValue('Grade six, winter')
    await save(screen)
    expect(calls().map((c) => c.ifMatch)).toEqual(['3', '4'])
    expect(screen.text()).not.toContain('changed this meanwhile')
  })

  it('takes its grades from those that there are', async () => {
    const screen = await show(BandSetPanel, { set })
    const boxes = screen.findAll('.grades input')
    expect(boxes.filter((b) => (b.element as HTMLInputElement).checked)).toHaveLength(1)
    await boxes[0]!.setValue(true)
    await save(screen)
    expect((calls()[0]!.body as { grades: string[] }).grades).toEqual(['KG', '06'])
  })

  it('that was left unsaved opens with what was typed, and can be put back', async () => {
    const first = await show(BandSetPanel, { set })
    await first.find('#set-name').setValue('Half typed')
    first.unmount()
    const again = await show(BandSetPanel, { set })
    expect(again.find<HTMLInputElement>('#set-name').element.value).toBe('Half typed')
    await press(again, 'Discard changes')
    expect(again.find<HTMLInputElement>('#set-name').element.value).toBe('Grade 6')
    again.unmount()
    const changed = await show(BandSetPanel, { set: { ...set, version: 9 } })
    expect(changed.find<HTMLInputElement>('#set-name').element.value).toBe('Grade 6')
    expect(changed.findAll('button').filter((b) => b.text() === 'Discard changes')).toHaveLength(0)
    expect(button(changed, 'Save changes')).toBeTruthy()
  })

  it('is locked by the district alone, and says who did', async () => {
    const screen = await show(BandSetPanel, { set })
    await screen.find('.lock input').setValue(true)
    await save(screen)
    expect(calls()[0]!.body).toMatchObject({ locked: true })

    queries.setQueryData(['session'], { roles: ['school-coordinator'], rights: ['build'] })
    const school = await show(BandSetPanel, { set: { ...set, lockedBy: 'Ines Okafor' } })
    expect(school.find('.lock').exists()).toBe(false)
    expect(school.text()).toContain('Locked by Ines Okafor of the district.')
  })

  it('says when it was locked, where that was kept', async () => {
    queries.setQueryData(['session'], { roles: ['school-coordinator'], rights: ['build'] })
    const school = await show(BandSetPanel, { set: { ...set, lockedBy: 'Ines Okafor', lockedAt: '2026-10-13T16:00:00Z' } })
    expect(school.text()).toContain('Locked by Ines Okafor of the district on Tue, Oct 13, 2026. Schools')
  })

  it('keeps scale scores and the official row a cut was taken from, until it is typed anew', async () => {
    const official = { raw: 24, of: 40, source: { tableId: 7, raw: 24 } }
    const bands = [...set.bands, { name: 'Beyond', cut: { scale: 560 } }].map((b, i) => (i === 1 ? { ...b, cut: official } : b))
    const screen = await show(BandSetPanel, { set: { ...set, bands } })
    await save(screen)
    const sent = (call: number) => (calls()[call]!.body as { bands: { cut: unknown }[] }).bands.map((b) => b.cut)
    expect(sent(0)).toEqual([{}, official, { scale: 560 }])
    expect(screen.find('a.source').text()).toBe('From the official table, 24 points')
    await screen.find('[aria-label="Cut of band 2"]').setValue('25')
    expect(screen.find('a.source').exists()).toBe(false)
    await save(screen)
    expect(sent(1)).toEqual([{}, { raw: 25, of: 40 }, { scale: 560 }])
  })

  it('belongs to the district, a school or one person, which is said when it is made', async () => {
    server.on('POST /api/band-sets', (asked) => ({ body: { ...set, ...(asked.body as object), id: 9, version: 1 } }))
    const sent = () => server.calls('POST /api/band-sets').map((c) => c.body as { whose?: string; school?: number })
    const screen = await show(BandSetPanel, { set: undefined })
    const choose = async (label: string) => {
      await screen
        .find('[aria-labelledby="set-whose"]')
        .setValue(
          screen.findAll<HTMLOptionElement>('[aria-labelledby="set-whose"] option').find((o) => o.text() === label)!.element
            .value,
        )
    }
    await screen.find('#set-name').setValue('Bands')
    await save(screen)
    expect(sent()[0]).not.toHaveProperty('whose')
    await choose('Quarry Road Middle')
    expect(screen.find('.lock').exists()).toBe(false)
    await save(screen)
    expect(sent()[1]).toMatchObject({ whose: 'school', school: 12 })
    await choose('me alone')
    await save(screen)
    expect(sent()[2]).toMatchObject({ whose: 'person' })

    const theirs = await show(BandSetPanel, {
      set: { ...set, whose: 'school', of: 'Quarry Road Middle', changedBy: 'Ines Okafor' },
    })
    expect(theirs.text()).toContain('Belongs to Quarry Road Middle. Last changed by Ines Okafor.')
    expect(theirs.find('[aria-labelledby="set-whose"]').exists()).toBe(false)
    expect(theirs.find('.lock').exists()).toBe(false)
  })

  it('begins as a copy of another, without its lock', async () => {
    server.on('POST /api/band-sets', (asked) => ({ body: { ...set, ...(asked.body as object), id: 9, version: 1 } }))
    const screen = await show(BandSetPanel, { set: undefined, like: { ...set, purpose: 'benchmark', lockedBy: 'Ines Okafor' } })
    await save(screen)
    const [asked] = server.calls('POST /api/band-sets')
    expect(asked!.body).toMatchObject({ name: 'Grade 6, copy', purpose: 'benchmark', locked: false, grades: ['06'] })
  })

  it('is retired and offered again', async () => {
    server.on('PUT /api/band-sets/4/retired', () => ({ body: set }))
    const screen = await show(BandSetPanel, { set })
    await press(screen, 'Retire')
    expect(server.calls('PUT /api/band-sets/4/retired')[0]!.body).toEqual({ retired: true })
    expect(button(await show(BandSetPanel, { set: { ...set, retired: true } }), 'Offer again').exists()).toBe(true)
  })
})
