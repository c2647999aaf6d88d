import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { expect, it } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries } from '@/contract/client'
import AbsentTable from './AbsentTable.vue'

const student = (studentId: number, part = {}) => ({
  studentId,
  number: `10${studentId}`,
  name: `Student ${studentId}`,
  sittingId: 3,
  section: '5-1',
  school: 'Heron Point',
  door: 'open',
  begun: false,
  answered: 0,
  closesAt: '2026-12-04T23:00:00Z',
  ...part,
})

async function show(query = '') {
  const router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/:all(.*)', component: { template: '' } }] })
  await router.push(`/${query}`)
  const shown = mount(AbsentTable, {
    props: { assessment: 4, schools: [{ schoolId: 2, name: 'Heron Point' }] },
    global: { plugins: [router, PrimeVue, [VueQueryPlugin, { queryClient: queries }]] },
    attachTo: document.body,
  })
  await flushPromises()
  return shown
}

it('lists page by page who has not handed in, where the door was opened', async () => {
  server.on('GET /api/assessments/4/absent', (asked) => ({
    body: asked.query.includes('from=1')
      ? { found: 2, students: [student(8)] }
      : { found: 2, students: [student(7, { begun: true, answered: 5, savedAt: '2026-12-01T17:00:00Z' })] },
  }))
  const shown = await show()
  expect(server.asked.at(-1)!.query).toContain('met=true')
  expect(shown.find('tbody').text()).toContain('not finished5')
  expect(shown.find('tfoot').text()).toBe('2 students, 1 shown')
  await shown.find('button').trigger('click')
  await flushPromises()
  expect(shown.findAll('tbody tr')).toHaveLength(2)
  expect(shown.find('tfoot').text()).toBe('2 students')
  expect(shown.find('button').exists(), 'no more is to be shown').toBe(false)
})

it('asks and exports as the address says', async () => {
  server.on('GET /api/assessments/4/absent', () => ({ body: { found: 1, students: [student(7)] } }))
  const shown = await show('?who=none&school=2&everywhere')
  const asked = new URLSearchParams(server.asked.at(-1)!.query)
  expect(Object.fromEntries(asked)).toEqual({ begun: 'false', school: '2', from: '0' })
  expect(shown.find('a[download]').attributes('href')).toBe('/api/assessments/4/absent.csv?begun=false&school=2')
})

it('says when all have handed in', async () => {
  server.on('GET /api/assessments/4/absent', () => ({ body: { found: 0, students: [] } }))
  const shown = await show()
  expect(shown.text()).toContain('Nobody: all have handed in.')
  expect(shown.find('table').exists()).toBe(false)
})
