import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { beforeEach, describe, expect, it } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries } from '@/contract/client'
import Defaults from './Defaults.vue'
import SettingField from './SettingField.vue'
import SettingTrail from './SettingTrail.vue'
import { differing, grouped, means, placeIn, spots, whyInForce, type Setting, type Settings } from './settings'

const setting = (part: Partial<Setting> = {}): Setting => ({
  key: 'minutes',
  group: 'When they work',
  common: true,
  name: 'Time limit',
  does: 'How long each student may work.',
  kind: { type: 'number', least: 0, most: 1440 },
  value: 75,
  words: '75 minutes',
  from: 'assessment',
  lockedAt: '',
  lockedBy: '',
  lock: '',
  usual: 60,
  usualWords: '60 minutes',
  differs: true,
  mayChange: true,
  whyNot: '',
  begun: 'It may grow longer, not shorter.',
  meets: '',
  steps: [],
  ...part,
})
const view = (part: Partial<Settings> = {}): Settings => ({
  place: { assessment: 7 },
  level: 'assessment',
  purpose: 'benchmark',
  begun: 0,
  mayChange: true,
  whyNot: '',
  where: [
    { distributionId: 1, schoolId: 2, school: 'Heron Point', sectionId: 5, section: '5-1' },
    { distributionId: 1, schoolId: 2, school: 'Heron Point', sectionId: 6, section: '5-2' },
    { distributionId: 1, schoolId: 3, school: 'Gull Ledge', sectionId: 9, section: '5-1' },
  ],
  settings: [setting()],
  quarrels: [],
  undo: [],
  ...part,
})

describe('settings in words', () => {
  it('say what is in force and why', () => {
    expect(whyInForce(setting(), view())).toBe('75 minutes, because this assessment says so.')
    expect(whyInForce(setting({ from: 'district', lockedAt: 'district' }), view())).toBe(
      '75 minutes, because the district says so and keeps it locked.',
    )
    expect(whyInForce(setting({ from: 'purpose' }), view())).toBe('75 minutes, because the purpose benchmark says so.')
    expect(whyInForce(setting({ from: '' }), view())).toBe('75 minutes. Nobody has set it, so the usual way holds.')
    expect(differing(1)).toBe('1 differs')
  })
  it('name the places where one can look', () => {
    expect(spots(view(), 7).map((s) => s.label)).toEqual([
      'The whole assessment',
      'Heron Point',
      'Heron Point, 5-1',
      'Heron Point, 5-2',
      'Gull Ledge',
      'Gull Ledge, 5-1',
    ])
    expect(placeIn({ section: '5', school: 'x' }, 7)).toEqual({ assessment: 7, section: 5 })
  })
  it('are found by any of their words, and those asked about most come first', () => {
    expect(means(setting(), 'long TIME')).toBe(true)
    expect(means(setting(), 'calculator')).toBe(false)
    const other = setting({ key: 'breaks', common: false })
    expect(grouped([other, setting()]).map((g) => [g.name, g.settings.length])).toEqual([
      ['Asked about most', 1],
      ['When they work', 1],
    ])
  })
})

it('a trail shows every level, what is struck and where the lock holds', () => {
  const steps = [
    { level: 'district' as const, words: '60 minutes', lock: 'settings' as const, by: 'Ruth Adeyemi', state: 'inForce' as const },
    { level: 'assessment' as const, words: '75 minutes', lock: '' as const, by: 'Ines Okafor', state: 'stopped' as const },
  ]
  const trail = mount(SettingTrail, {
    props: { setting: setting({ steps, lockedAt: 'district', lock: 'settings' }), view: view() },
  })
  const rows = trail.findAll('li')
  expect(rows.map((r) => r.classes().join(' '))).toEqual(['inForce locked', 'locked', 'stopped locked'])
  expect(rows[1]!.text()).toContain('says nothing')
  expect(rows[2]!.find('s').text()).toBe('75 minutes')
  expect(trail.text()).toContain('nothing passes it but accommodations')
})

describe('a field', () => {
  const field = (kind: Setting['kind'], value: unknown) =>
    mount(SettingField, { props: { setting: setting({ kind }), modelValue: value }, global: { plugins: [PrimeVue] } })
  const last = (f: ReturnType<typeof field>) => f.emitted('update:modelValue')!.at(-1)![0]
  const options = [
    { value: 'true', words: 'yes' },
    { value: 'false', words: 'no' },
  ]
  it('of yes or no gives a truth', async () => {
    const f = field({ type: 'flag', options }, false)
    expect((f.findAll('input')[1]!.element as HTMLInputElement).checked).toBe(true)
    await f.findAll('input')[0]!.setValue()
    expect(last(f)).toBe(true)
  })
  it('of several picks keeps their order', async () => {
    const f = field({ type: 'picks', options }, ['false'])
    await f.findAll('input')[0]!.setValue(true)
    expect(last(f)).toEqual(['true', 'false'])
  })
  it('of hours adds, changes and removes stretches', async () => {
    const f = field({ type: 'hours' }, [{ from: '08:45', to: '11:30' }])
    await f.findAll('button').at(-1)!.trigger('click')
    expect(last(f)).toEqual([
      { from: '08:45', to: '11:30' },
      { from: '11:30', to: '' },
    ])
    await f.get('input').setValue('09:00')
    expect(last(f)).toEqual([
      { from: '09:00', to: '11:30' },
      { from: '11:30', to: '' },
    ])
    await f.findAll('button')[1]!.trigger('click')
    expect(last(f)).toEqual([{ from: '09:00', to: '11:30' }])
  })
  it('of a number gives a number, and nothing where it is empty', async () => {
    const f = field({ type: 'number', least: 0, most: 9 }, 3)
    await f.get('input').setValue('5')
    expect(last(f)).toBe(5)
    await f.get('input').setValue('')
    expect(last(f)).toBeUndefined()
  })
})

describe('defaults', () => {
  let put: unknown
  beforeEach(() => {
    put = undefined
    const all = view({
      place: {},
      level: 'district',
      purpose: '',
      settings: [setting({ from: 'district', here: { value: 75, lock: '' } })],
    })
    server.on('GET /api/settings', () => ({ body: all }))
    server.on('GET /api/purposes', () => ({ body: ['benchmark'] }))
    server.on('POST /api/settings/look', () => ({
      body: [
        {
          assessmentId: 4,
          title: 'Winter',
          state: 'draft',
          sections: 0,
          begun: 0,
          stays: false,
          why: '',
          changes: [{ name: 'Time limit', before: '75 minutes', after: '80 minutes' }],
        },
        {
          assessmentId: 5,
          title: 'Fall',
          state: 'out',
          sections: 3,
          begun: 9,
          stays: true,
          why: 'Somebody has begun.',
          changes: [{ name: 'Time limit', before: '75 minutes', after: '80 minutes' }],
        },
      ],
    }))
    server.on('PUT /api/settings', (asked) => {
      put = asked.body
      return { body: all }
    })
  })
  it('are looked at before they reach assessments, of which some stay as they are', async () => {
    const router = createRouter({
      history: createMemoryHistory(),
      routes: [{ path: '/assessments/defaults', component: Defaults }],
    })
    await router.push('/assessments/defaults?setting=minutes')
    mount(Defaults, {
      global: { plugins: [router, PrimeVue, [VueQueryPlugin, { queryClient: queries }]] },
      attachTo: document.body,
    })
    await flushPromises()
    const input = document.querySelector<HTMLInputElement>('.side-panel input[type="number"]')!
    input.value = '80'
    input.dispatchEvent(new Event('input'))
    await flushPromises()
    document.querySelector('form')!.dispatchEvent(new Event('submit'))
    await flushPromises()
    expect(document.body.textContent).toContain('What this would change')
    expect(document.body.textContent).toContain('stays as it is. Somebody has begun.')
    expect(put).toBeUndefined()
    const boxes = document.querySelectorAll<HTMLInputElement>('.side-panel input[type="checkbox"]')
    expect(boxes).toHaveLength(1)
    boxes[0]!.click()
    await flushPromises()
    ;[...document.querySelectorAll('button')].find((b) => b.textContent!.includes('Save, and change 0 assessments'))!.click()
    await flushPromises()
    expect(put).toEqual({ place: {}, keep: [4], changes: [{ key: 'minutes', value: 80, lock: '', was: 75 }] })
  })
})
