import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { beforeEach, describe, expect, it } from 'vitest'
import { queries, type Schemas } from '@/contract/client'
import ProfilePanel from './ProfilePanel.vue'
import { beginning, span, type Support } from './profiles'

const support = (part: Partial<Support>): Support => ({
  key: 'extraTime',
  group: 'When',
  name: 'Extra time',
  short: 'Extra time',
  does: 'More time.',
  by: 'program',
  kind: { type: 'factor' },
  feature: '',
  needs: '',
  ...part,
})
const entry = (part: Partial<Schemas['ProfileEntry']>): Schemas['ProfileEntry'] => ({
  id: 3,
  key: 'extraTime',
  name: 'Extra time',
  value: '1.5',
  words: 'time and a half',
  by: 'program',
  ground: 'IEP',
  subjects: [],
  from: '2026-10-02',
  to: '',
  file: '',
  enteredBy: 'Ines Okafor',
  enteredAt: '2026-10-02T20:00:00Z',
  endedBy: '',
  when: 'now',
  ...part,
})
let profile: Schemas['Profile']
beforeEach(() => {
  queries.clear()
  profile = {
    student: { id: 9, number: '100009', name: 'Mei Sato', grade: '06', section: '6-A', school: 'Quarry Road' },
    entries: [
      entry({}),
      entry({ id: 2, words: 'double time', when: 'ended', endedBy: 'Ines Okafor', endedAt: '2026-10-01T20:00:00Z' }),
    ],
    today: '2026-11-30',
    grounds: ['IEP', '504 plan'],
    subjects: ['mathematics', 'reading'],
    mayEnter: true,
    seesGrounds: true,
  }
  server.on('GET /api/students/9/profile', () => ({ body: profile }))
  server.on('GET /api/supports', () => ({
    body: [
      support({}),
      support({
        key: 'readAloud',
        name: 'Read aloud',
        kind: {
          type: 'picks',
          options: [
            { value: 'questions', words: 'questions' },
            { value: 'passages', words: 'passages' },
          ],
        },
      }),
    ],
  }))
})
async function show(adding = false) {
  const panel = mount(ProfilePanel, {
    props: { student: 9, adding },
    global: {
      plugins: [PrimeVue, [VueQueryPlugin, { queryClient: queries }]],
      stubs: { teleport: true, RouterLink: { props: ['to'], template: '<a :href="to"><slot /></a>' } },
    },
    attachTo: document.body,
  })
  await flushPromises()
  return panel
}

describe('entries in words', () => {
  it('say for how long', () => {
    expect(span({ from: '2026-10-02', to: '2026-10-20' })).toBe('Oct 2, 2026 to Oct 20, 2026')
    expect(span({ from: '', to: '2026-10-20' })).toBe('until Oct 20, 2026')
    expect(span({ from: '2026-10-02', to: '' })).toBe('since Oct 2, 2026')
    expect(span({ from: '', to: '' })).toBe('')
  })

  it('begin with what is asked for most, and with nothing that breaks a reading test', () => {
    expect(beginning(support({}))).toBe('1.5')
    expect(beginning(support({ kind: { type: 'flag' } }))).toBe(true)
    expect(beginning(support({ kind: { type: 'number', least: 2, most: 9 } }))).toBe(2)
    expect(
      beginning(
        support({
          kind: {
            type: 'picks',
            options: [
              { value: 'passages', words: '' },
              { value: 'choices', words: '' },
            ],
          },
        }),
      ),
    ).toEqual(['choices'])
  })
})

describe('a profile', () => {
  it('shows what stands, and below what was', async () => {
    const panel = await show()
    expect(panel.find('tbody').text()).toContain('Extra time: time and a half')
    expect(panel.find('tbody').text()).toContain('IEP')
    expect(panel.find('details').text()).toContain('double time')
  })

  it('is entered for a while, in a subject, on a ground', async () => {
    server.on('POST /api/profile-entries', () => ({ status: 204 }))
    const panel = await show(true)
    await panel.find('#support-key').setValue('readAloud')
    await flushPromises()
    await panel.findAll('input[type="date"]')[1]!.setValue('2026-12-20')
    await panel.find('#support-ground').setValue('504 plan')
    await panel.findAll('form input[type="checkbox"]').at(-1)!.trigger('change')
    await panel.find('form').trigger('submit')
    await flushPromises()
    expect(server.calls('POST /api/profile-entries')[0]!.body).toEqual({
      students: [9],
      key: 'readAloud',
      value: ['questions'],
      ground: '504 plan',
      subjects: ['reading'],
      from: '',
      to: '2026-12-20',
    })
    expect(panel.find('form').exists()).toBe(false)
    expect(panel.emitted('changed')).toHaveLength(1)
  })

  it('keeps what was typed where the server refuses it', async () => {
    server.on('POST /api/profile-entries', () => ({
      status: 409,
      body: { title: 'x', detail: 'Mei Sato: Extra time stands there twice.' },
    }))
    const panel = await show()
    await panel.find('[aria-label="Change Extra time: time and a half"]').trigger('click')
    await flushPromises()
    await panel.find('[aria-label="Another factor"]').setValue('1.75')
    await panel.find('form').trigger('submit')
    await flushPromises()
    expect(server.calls('POST /api/profile-entries')[0]!.body).toMatchObject({ value: '1.75', replaces: 3 })
    expect(panel.text()).toContain('stands there twice')
    expect((panel.find('[aria-label="Another factor"]').element as HTMLInputElement).value).toBe('1.75')
  })

  it('tells a teacher neither the ground nor how to change it', async () => {
    Object.assign(profile, { mayEnter: false, seesGrounds: false, entries: [entry({ ground: '' })] })
    const panel = await show()
    expect(panel.text()).not.toContain('IEP')
    expect(panel.findAll('button').map((b) => b.text())).not.toContain('End it')
  })
})
