import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { beforeEach, expect, it } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries } from '@/contract/client'
import AbsentTable from './AbsentTable.vue'
import { nextMorning } from './nextMorning'

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

beforeEach(() => {
  queries.clear()
  queries.setQueryData(['session'], { name: 'Ines Okafor', rights: [] })
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

it('arranges a makeup for those who are chosen', async () => {
  queries.setQueryData(['session'], { name: 'Ines Okafor', rights: ['build'] })
  server.on('GET /api/assessments/4/absent', () => ({
    body: { found: 2, students: [student(7), student(8, { sittingId: 5, section: '5-2', begun: true, answered: 5 })] },
  }))
  let answer: { status?: number; body: object } = { status: 422, body: { title: 'x', detail: 'Say in which room it is.' } }
  server.on('POST /api/assessments/4/makeups', () => answer)
  const shown = await show()
  const arrange = () => shown.findAll('button').find((b) => b.text().startsWith('Arrange a makeup'))!
  expect(arrange().attributes('disabled')).toBeDefined()
  await shown.find('[aria-label="Choose all that are shown"]').setValue(true)
  await shown.find('[aria-label="Choose Student 7"]').setValue(false)
  expect(arrange().text()).toBe('Arrange a makeup for 1')
  await shown.find('[aria-label="Choose Student 7"]').setValue(true)
  await arrange().trigger('click')
  const panel = document.querySelector<HTMLElement>('.side-panel')!
  expect(panel.textContent).toContain('2 students of 2 sections')
  expect(panel.textContent).toContain('goes on after 5 answers')
  expect(panel.textContent).toContain('Proctor: Ines Okafor')
  const submit = async () => {
    panel.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
  }
  await submit()
  expect(panel.textContent, 'it stays open with what is wrong').toContain('Say in which room it is.')
  answer = { body: { sittingId: 9 } }
  const room = panel.querySelector<HTMLInputElement>('input')!
  room.value = 'Library'
  room.dispatchEvent(new Event('input'))
  await submit()
  expect(server.calls('POST /api/assessments/4/makeups').at(-1)!.body).toMatchObject({
    room: 'Library',
    seats: [
      { sittingId: 3, studentId: 7 },
      { sittingId: 5, studentId: 8 },
    ],
  })
  expect(shown.vm.$router.currentRoute.value.path).toBe('/rooms/9')
})

it('looks for a makeup on the next weekday first', () => {
  expect(nextMorning(new Date('2027-01-15T16:00:00'))).toEqual(['2027-01-18T08:00', '2027-01-18T10:00'])
  expect(nextMorning(new Date('2027-01-18T16:00:00'))).toEqual(['2027-01-19T08:00', '2027-01-19T10:00'])
})

it('says when all have handed in', async () => {
  server.on('GET /api/assessments/4/absent', () => ({ body: { found: 0, students: [] } }))
  const shown = await show()
  expect(shown.text()).toContain('Nobody: all have handed in.')
  expect(shown.find('table').exists()).toBe(false)
})
