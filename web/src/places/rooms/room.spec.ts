import { Line, server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { beforeEach, describe, expect, it } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries, type Schemas } from '@/contract/client'
import Room from './Room.vue'

let room: Schemas['Room']
let screen: VueWrapper
const seat = (part: Partial<Schemas['RoomSeat']>): Schemas['RoomSeat'] => ({
  studentId: 9,
  sittingId: 7,
  section: '6-A',
  form: '',
  lines: 12,
  number: '100009',
  name: 'Sato, Mei',
  state: 'handed in',
  answered: 12,
  late: 0,
  leftOut: 0,
  supports: [],
  ...part,
})

async function open() {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/rooms/:id', component: Room },
      { path: '/rooms/:id/record/:student', component: { template: '<p />' } },
    ],
  })
  await router.push('/rooms/7')
  screen = mount(Room, {
    global: { plugins: [router, PrimeVue, [VueQueryPlugin, { queryClient: queries }]] },
    attachTo: document.body,
  })
  await flushPromises()
}
async function press(words: string) {
  const all = [...document.querySelectorAll<HTMLElement>('button')]
  all.find((b) => b.textContent!.trim() === words)!.click()
  await flushPromises()
}

beforeEach(() => {
  queries.clear()
  queries.setQueryData(['session'], { timeZone: 'UTC', rights: [] })
  room = {
    sitting: {
      id: 7,
      assessmentId: 1,
      distributionId: 2,
      title: 'Fall',
      sectionId: 3,
      section: '6-A',
      school: 'Quarry Road Middle',
      grade: '06',
      door: 'closed',
      opensAt: '2026-10-13T15:00:00Z',
      closesAt: '2026-10-16T23:00:00Z',
      minutes: 50,
      seats: 2,
      begun: 1,
      done: 1,
    },
    lines: 12,
    recorded: 0,
    codeAsked: false,
    code: '',
    pad: false,
    notes: true,
    managed: false,
    late: false,
    seats: [seat({})],
    unseated: [],
    makeups: [],
    mayEnd: false,
    maySubstitute: false,
  }
  server.on('GET /api/sittings/7', () => ({ body: room }))
})

describe('a room', () => {
  it('looks again when it is told that something changed', async () => {
    room.seats = [seat({ state: 'working', answered: 3 })]
    await open()
    room.seats = [seat({ state: 'handed in' })]
    const state = () => screen.findAll('tbody td').map((d) => d.text())[2]
    expect(state()).not.toBe('handed in')
    const [line] = Line.open
    expect(line!.url).toBe('/events/sittings/7')
    line!.dispatchEvent(new Event('changed'))
    await flushPromises()
    expect(state()).toBe('handed in')
  })

  it('shows of what section each is in a makeup, and goes by their own sitting', async () => {
    room.sitting.section = 'Makeup, Library'
    room.sitting.makeup = { roomId: 4, room: 'Library', proctor: 'Petr Ramos' }
    room.seats = [
      seat({ state: 'working', late: 0 }),
      seat({ studentId: 12, sittingId: 8, section: '6-B', name: 'Costa, Hugo', state: 'working' }),
    ]
    room.late = room.mayEnd = true
    server.on('POST /api/sittings/8/students/12/hand-in', () => ({}))
    server.on('DELETE /api/makeups/4', () => ({ status: 204 }))
    await open()
    expect(screen.text()).toContain('Proctor Petr Ramos')
    expect(screen.findAll('tbody tr').map((r) => r.findAll('td')[2]!.text())).toEqual(['6-A', '6-B'])
    screen.find<HTMLElement>('[aria-label="Hand in for Costa, Hugo"]').element.click()
    await flushPromises()
    expect(server.calls('POST /api/sittings/8/students/12/hand-in')).toHaveLength(1)
    await press('Take it back')
    expect(server.calls('DELETE /api/makeups/4')).toHaveLength(1)
    expect(screen.text()).toContain('the students are in their sections again')
  })

  it('tells twin forms apart that are worked on side by side', async () => {
    room.seats = [seat({ form: 'A' }), seat({ studentId: 12, sittingId: 8, form: 'B', lines: 24 })]
    await open()
    expect(screen.findAll('tbody tr').map((r) => r.findAll('td')[2]!.text())).toEqual(['A', 'B'])
    const widths = screen.findAll('.progress span').map((s) => s.attributes('style'))
    expect(widths, 'of their own form').toEqual(['width: 100%;', 'width: 50%;'])
  })

  it('leads to the makeup where some of a section are', async () => {
    room.makeups = [
      {
        roomId: 4,
        sittingId: 8,
        room: 'Library',
        proctor: 'Petr Ramos',
        opensAt: room.sitting.opensAt,
        closesAt: room.sitting.closesAt,
        sections: 1,
        students: 2,
        done: 0,
      },
    ]
    await open()
    expect(screen.find('a[href="/rooms/8"]').text()).toContain('Library')
    expect(screen.text()).toContain('2 students of this section are in a makeup')
  })

  it('offers a seat to who joined the section later', async () => {
    room.unseated = [{ studentId: 12, number: '100012', name: 'Costa, Hugo' }]
    server.on('POST /api/sittings/7/seats', () => ({
      body: {
        ...room,
        seats: [seat({}), seat({ studentId: 12, name: 'Costa, Hugo', state: 'not begun', answered: 0 })],
        unseated: [],
      },
    }))
    await open()
    expect(screen.text()).toContain('1 student joined this section after the assessment went out.')
    await press('Add to this room')
    expect(server.calls('POST /api/sittings/7/seats')[0]!.body).toEqual({ studentId: 12 })
    expect(screen.findAll('tbody tr')).toHaveLength(2)
    expect(screen.text()).not.toContain('joined this section')
  })

  it('says why a seat could not be given', async () => {
    room.unseated = [{ studentId: 12, number: '100012', name: 'Costa, Hugo' }]
    server.on('POST /api/sittings/7/seats', () => ({ status: 409, body: { status: 409, detail: 'The window is over.' } }))
    await open()
    await press('Add to this room')
    expect(screen.text()).toContain('The window is over.')
  })

  it('shows what came late, and counts it where one says so', async () => {
    room.seats = [seat({ late: 2 })]
    const late: Schemas['Late'] = {
      attemptId: 5,
      studentId: 9,
      student: 'Mei Sato',
      handedInAt: '2026-10-13T16:00:00Z',
      decided: false,
      counts: false,
      lines: [
        { line: 1, before: ['B'], came: ['A'], at: '2026-10-13T15:40:00Z', inTime: true },
        { line: 3, before: [], came: ['7'], at: '2026-10-13T16:09:00Z', inTime: false },
      ],
    }
    server.on('GET /api/sittings/7/late-answers', () => ({ body: [late] }))
    server.on('PUT /api/sittings/7/late-answers/5', () => ({ body: [{ ...late, decided: true, counts: true }] }))
    await open()
    expect(screen.text()).toContain('2 answers of 1 student came after the end.')
    await press('Look at late answers')
    const panel = document.querySelector('aside')!
    const rows = [...panel.querySelectorAll('tbody tr')].map((r) =>
      [...r.querySelectorAll('td')].map((d) => d.textContent!.trim()),
    )
    expect(rows).toEqual([
      ['1', 'B', 'A', expect.stringMatching(/3:40 pm, in time$/)],
      ['3', 'no answer', '7', 'after the end'],
    ])
    await press('Count 2 answers')
    expect(server.calls('PUT /api/sittings/7/late-answers/5')[0]!.body).toEqual({ count: true })
    expect(panel.textContent).toContain('counted')
    expect([...panel.querySelectorAll('button')].map((b) => b.textContent!.trim())).not.toContain('Leave out')
  })
})
