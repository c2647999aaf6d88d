import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { beforeEach, expect, it } from 'vitest'
import { queries } from '@/contract/client'
import type { Calendar } from './calendar'
import DaysOffPanel from './DaysOffPanel.vue'

const calendar = { today: '2026-11-30', schools: [{ id: 4, name: 'Heron Point' }] } as unknown as Calendar

async function show(rights: string[]) {
  queries.clear()
  queries.setQueryData(['session'], { rights })
  const panel = mount(DaysOffPanel, {
    props: { calendar, school: 0 },
    global: { plugins: [PrimeVue, [VueQueryPlugin, { queryClient: queries }]], stubs: { teleport: true } },
  })
  await flushPromises()
  return panel
}

beforeEach(() => {
  server.on('GET /api/settings', ({ query }) => ({
    body: {
      settings: [
        { key: 'daysOff', value: ['2027-01-12'], ...(!query.includes('school') && { here: { value: ['2027-01-12'] } }) },
      ],
    },
  }))
  server.on('GET /api/calendar', () => ({ body: { daysOff: [{ day: '2027-01-12', name: 'Snow', ofSchool: false }] } }))
  server.on('PUT /api/calendar/days', () => ({ status: 204 }))
})

it('adds what a pasted list says and is not there yet', async () => {
  server.on('POST /api/calendar/days/read', () => ({
    body: [
      { day: '2027-01-12', name: 'Ice', ofSchool: false },
      { day: '2027-01-18', name: 'Harbor Day', ofSchool: false },
    ],
  }))
  const panel = await show(['import', 'build'])
  await panel.find('textarea').setValue('2027-01-12, Ice\n2027-01-18, Harbor Day')
  await panel.findAll('form')[1]!.trigger('submit')
  await flushPromises()
  expect(panel.find('[role=status]').text()).toBe('1 day to add: Jan 18, Harbor Day.')
  await panel.findAll('details button').at(-1)!.trigger('click')
  await flushPromises()
  expect(server.calls('PUT /api/calendar/days')[0]!.body).toEqual({
    school: 0,
    days: [
      { day: '2027-01-12', name: 'Snow' },
      { day: '2027-01-18', name: 'Harbor Day' },
    ],
    was: ['2027-01-12'],
  })
})

it('keeps days of a school of its own, beginning with those of the district', async () => {
  const panel = await show(['build'])
  expect(
    panel.findAll('option').map((o) => o.text()),
    'the district is not theirs',
  ).toEqual(['Heron Point'])
  expect(panel.text()).toContain('It goes by those of the district.')
  await panel.find('input[type=date]').setValue('2027-02-01')
  await panel.findAll('form')[0]!.trigger('submit')
  await flushPromises()
  expect(server.calls('PUT /api/calendar/days')[0]!.body).toEqual({
    school: 4,
    days: [
      { day: '2027-01-12', name: 'Snow' },
      { day: '2027-02-01', name: '' },
    ],
    was: null,
  })
})
