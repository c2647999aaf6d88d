import { server } from '@/contract/testServer'
import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it } from 'vitest'
import { ProblemError, queries, type Schemas } from '@/contract/client'
import Assessments from './Assessments.vue'
import FollowLink from './FollowLink.vue'
import OutlineFields from '@/places/assessments/outline/OutlineFields.vue'
import Print from '@/places/assessments/print/Print.vue'
import StartDialog from './StartDialog.vue'
import TrialBar from '@/places/assessments/try/TrialBar.vue'
import { noSupports } from '@/player/supports'
import { field, fill, fresh, press, rows, show, testRouter } from '@/places/assessments/sheet/testSheet'

const outline: Schemas['Outline'] = {
  title: 'Fall',
  shortTitle: '',
  description: '',
  instructions: '',
  subject: 'mathematics',
  grades: ['06'],
  purpose: 'rehearsal',
  language: 'en',
  year: '2026–27',
  course: '',
  labels: ['pilot'],
}

beforeEach(() => {
  fresh(['build', 'readKeys', 'import'])
  server.on('GET /api/purposes', () => ({ body: ['benchmark', 'practice'] }))
})

describe('an outline', () => {
  const last = (screen: Awaited<ReturnType<typeof show>>) => screen.emitted('update:modelValue')!.at(-1)![0] as Schemas['Outline']

  it('keeps its grades in their order, however they are pressed', async () => {
    const screen = await show(OutlineFields, { modelValue: outline })
    await fill(screen, 'K', true)
    expect(last(screen).grades).toEqual(['KG', '06'])
    await fill(screen, '6', false)
    expect(last(screen).grades).toEqual(['KG'])
  })

  it('takes labels with commas between them', async () => {
    const screen = await show(OutlineFields, { modelValue: outline })
    const labels = screen.find('#labels')
    expect((labels.element as HTMLInputElement).value).toBe('pilot')
    await labels.setValue(' harbor, , pilot ,new ')
    expect(last(screen).labels).toEqual(['harbor', 'pilot', 'new'])
  })

  it('says beside the field what is wrong with it', async () => {
    const error = new ProblemError({
      status: 422,
      errors: [
        { pointer: '/title', message: 'A title is needed.' },
        { pointer: '/grades', message: 'Choose one grade at least.' },
      ],
    })
    const screen = await show(OutlineFields, { modelValue: outline, error })
    expect(screen.findAll('.wrong').map((w) => w.text())).toEqual(['A title is needed.', 'Choose one grade at least.'])
  })

  it('is only read where it is sealed: its instructions as students read them', async () => {
    const screen = await show(OutlineFields, {
      modelValue: { ...outline, instructions: '<p>Work <strong>alone</strong>.</p>' },
      disabled: true,
    })
    expect(screen.findAll('input').every((i) => i.attributes('disabled') !== undefined)).toBe(true)
    expect(screen.find('.read').html()).toContain('<strong>alone</strong>')
    expect(screen.find('[role=textbox]').exists()).toBe(false)
  })
})

describe('starting', () => {
  it('from a copy proposes the next free title and says that dates do not come along', async () => {
    server.on('GET /api/assessments', () => ({ body: [{ id: 9, title: 'Fall', grades: ['06'], year: '2025–26' }] }))
    server.on('GET /api/assessments/9/copy', () => ({ body: { title: 'Fall 3' } }))
    server.on('POST /api/assessments/9/copy', () => ({ body: { id: 12, version: 1 } }))
    const router = testRouter()
    const screen = await show(StartDialog, {}, router)
    expect(screen.text()).toContain('Its dates do not come along')
    await screen.find('input[value=copy]').setValue(true)
    await flushPromises()
    await screen.find('input[name=from]').setValue(true)
    await flushPromises()
    expect((field(screen, 'Title of the copy').element as HTMLInputElement).value).toBe('Fall 3')
    await screen.find('form').trigger('submit')
    await flushPromises()
    expect(server.calls('POST /api/assessments/9/copy')[0]!.body).toEqual({ title: 'Fall 3' })
    expect(router.currentRoute.value.fullPath).toBe('/assessments/12/outline')
  })

  it.each([
    ['blank', '/assessments/12/blueprint'],
    ['document', '/assessments/12/key'],
    ['draw', '/assessments/12/lines?draw=1'],
  ])('%s leads to where the work begins, whether or not the subjects have been read', async (way, to) => {
    let subjectsCome = () => {}
    server.on(
      'GET /api/subjects',
      () => new Promise((answer) => (subjectsCome = () => answer({ body: ['Mathematics', 'Reading'] }))),
    )
    server.on('POST /api/assessments', () => ({ body: { id: 12, version: 1 } }))
    const router = testRouter()
    const screen = await show(StartDialog, {}, router)
    await screen.find(`input[value=${way}]`).setValue(true)
    await screen.find('#title').setValue('New')
    await screen.find('form').trigger('submit')
    await flushPromises()
    expect(server.calls('POST /api/assessments')).toEqual([])
    subjectsCome()
    await flushPromises()
    expect(server.calls('POST /api/assessments')[0]!.body).toMatchObject({
      title: 'New',
      subject: 'Mathematics',
      year: '2026–27',
      purpose: 'benchmark',
    })
    expect(router.currentRoute.value.fullPath).toBe(to)
    expect(screen.emitted('close')).toHaveLength(1)
  })

  it('stays open with what was typed where the server refuses it', async () => {
    server.on('GET /api/subjects', () => ({ body: ['Mathematics'] }))
    server.on('POST /api/assessments', () => ({
      status: 422,
      body: { status: 422, detail: 'Look at what is marked.', errors: [{ pointer: '/title', message: 'A title is needed.' }] },
    }))
    const screen = await show(StartDialog)
    await screen.find('form').trigger('submit')
    await flushPromises()
    expect(screen.text()).toContain('A title is needed.')
    expect(screen.emitted('close')).toBeUndefined()
  })
})

describe('the list of assessments', () => {
  const one = (id: number, part: object) => ({
    id,
    title: `Quiz ${id}`,
    subject: 'mathematics',
    grades: ['06'],
    purpose: 'benchmark',
    course: '',
    labels: [],
    year: '2026–27',
    state: 'draft',
    edition: 1,
    ownerId: 7,
    owner: 'Ines Okafor',
    lines: 2,
    points: 2,
    changedAt: '2026-10-13T16:00:00Z',
    changedBy: 'Ines Okafor',
    ...part,
  })

  it('is narrowed by what there is to choose from, in the address', async () => {
    server.on('GET /api/assessments', () => ({
      body: [one(1, {}), one(2, { ownerId: 8, owner: 'Tomás Lindqvist', grades: ['05'] })],
    }))
    const router = testRouter()
    const screen = await show(Assessments, {}, router)
    expect(screen.findAll('.filters label').map((l) => l.text().split(/\s/)[0])).toEqual([
      'Grade',
      'State',
      'Owner',
      'mine',
      'Order',
    ])
    expect(
      field(screen, 'Owner')
        .findAll('option')
        .map((o) => o.text()),
    ).toEqual(['any', 'Ines Okafor', 'Tomás Lindqvist'])
    await fill(screen, 'Owner', '8')
    expect(router.currentRoute.value.query).toEqual({ owner: '8' })
    await flushPromises()
    expect(server.calls('GET /api/assessments').at(-1)!.query).toContain('owner=8')
    await press(screen, 'all of them')
    expect(router.currentRoute.value.query).toEqual({})
  })

  it('lets teachers look and start nothing', async () => {
    fresh(['readKeys', 'staff'])
    server.on('GET /api/assessments', () => ({ body: [] }))
    const screen = await show(Assessments)
    expect(screen.text()).toContain('No assessment is shared with you.')
    expect(screen.findAll('button').map((b) => b.text())).not.toContain('Start an assessment')
    expect(screen.text()).not.toContain('mine')
  })
})

describe('a link that one was given', () => {
  it('leads to its assessment, and not back through itself', async () => {
    server.on('POST /api/links', () => ({ body: { id: 4 } }))
    const router = testRouter()
    await router.push('/today')
    await router.push('/shared#SECRET')
    await show(FollowLink, {}, router)
    expect(server.calls('POST /api/links')[0]!.body).toEqual({ secret: 'SECRET' })
    await flushPromises()
    expect(router.currentRoute.value.path).toBe('/assessments/4/lines')
  })

  it('that was ended says so', async () => {
    server.on('POST /api/links', () => ({ status: 409, body: { status: 409, detail: 'This link leads nowhere any more.' } }))
    const router = testRouter()
    await router.push('/shared#OLD')
    expect((await show(FollowLink, {}, router)).text()).toContain('This link leads nowhere any more.')
  })
})

describe('a try', () => {
  const bar = async (sheet: object) => {
    server.on('GET /api/assessments/4', () => ({ body: { id: 4, forms: [], layout: { parts: [], pools: [] }, ...sheet } }))
    return show(TrialBar, { id: 4, seed: 3, supports: noSupports })
  }

  it('asks for a seed only where something is drawn', async () => {
    expect((await bar({})).find('input[type=number]').exists()).toBe(false)
    queries.clear()
    const screen = await bar({ layout: { parts: [], pools: [{ title: '', choose: 1 }] } })
    await press(screen, 'Draw again')
    await screen.find('input[type=number]').setValue('0')
    await screen.find('input[type=number]').setValue('12')
    expect(screen.emitted('seed')).toEqual([[4], [12]])
  })

  it('changes one support and leaves the others', async () => {
    const screen = await bar({})
    await fill(screen, 'Print', '2')
    await fill(screen, 'Contrast', 'light-on-dark')
    await fill(screen, 'calculator throughout', true)
    expect(screen.emitted('supports')).toEqual([
      [{ ...noSupports, print: 2 }],
      [{ ...noSupports, contrast: 'light-on-dark' }],
      [{ ...noSupports, calculator: true }],
    ])
  })

  it('leads to the twin forms', async () => {
    const screen = await bar({
      forms: [
        { id: 4, letter: 'A' },
        { id: 5, letter: 'B' },
      ],
    })
    expect(screen.findAll('.forms a').map((a) => a.attributes('href'))).toEqual(['/assessments/5/try'])
  })
})

describe('on paper', () => {
  const printed = (part: object) => ({
    title: 'Fall',
    instructions: '<p>Work alone.</p>',
    edition: 2,
    state: 'sealed',
    total: 3,
    lines: [
      {
        identifier: 'I1',
        shown: {
          kind: 'order',
          body: [{ html: 'Sort' }, { interaction: { response: 'R', choices: [{ id: 'a', html: 'oak' }] } }],
        },
        key: 'A, B',
        credit: 'all-or-nothing',
        standards: ['M6'],
        points: 1,
        refuse: '',
      },
      {
        identifier: 'I2',
        shown: { kind: 'order', body: [] },
        key: '',
        credit: '',
        standards: [],
        points: 2,
        refuse: 'The bank allows no printing.',
      },
    ],
    groups: [
      { partNumber: 1, part: { title: 'By hand', directions: '<p>Slowly.</p>', calculator: false }, lines: [1] },
      { pool: { choose: 1, lines: 2 }, passage: { identifier: 'p', title: 'Tides', body: '<p>High.</p>' }, lines: [2] },
    ],
    layout: { parts: [], pools: [{ title: '', choose: 1 }] },
    directions: { order: 'Number these in order.' },
    ...part,
  })
  async function open(part: object = {}) {
    server.on('GET /api/assessments/4/print', () => ({ body: printed(part) }))
    const router = testRouter()
    router.addRoute({ path: '/assessments/:id/print', component: Print })
    await router.push('/assessments/4/print')
    return show(Print, {}, router)
  }

  it('puts lines under their heads, and leaves out and names what may not be printed', async () => {
    const text = (await open()).find('main').text()
    for (const words of [
      'Part 1: By hand',
      'Do not use a calculator.',
      'Number these in order.',
      'Each student gets 1 of these 2 items.',
      'Tides',
      'This item is not printed.',
      '2 points',
    ])
      expect(text).toContain(words)
    expect((await open()).find('[role=alert]').text()).toContain('line 2, I2: The bank allows no printing.')
  })

  it('has a key that is not for students', async () => {
    const screen = await open()
    await screen.find('input[value=key]').setValue(true)
    expect(screen.find('main').text()).toContain('Not for students.')
    expect(rows(screen)[0]).toBe('1A, B1all or nothingM6I1')
    expect(rows(screen)[1]).toContain('not printed')
  })

  it('of one draw asks for its seed, and large print for one column', async () => {
    const screen = await open()
    await fill(screen, 'Lines', '3')
    expect(server.calls('GET /api/assessments/4/print').at(-1)!.query).toBe('?seed=3')
    await fill(screen, 'two columns', true)
    await fill(screen, 'Size', '18')
    expect(field(screen, 'two columns').attributes('disabled')).toBeDefined()
    server.on('GET /api/assessments/4/print.pdf', () => ({
      status: 409,
      body: { status: 409, detail: 'A drawing cannot be set as PDF (line 1).' },
    }))
    await press(screen, 'PDF for the print shop')
    expect(server.calls('GET /api/assessments/4/print.pdf')[0]!.query).toBe('?what=booklet&size=18&columns=1&seed=3')
    expect(screen.text(), 'a refusal is read, not saved as a file').toContain('A drawing cannot be set as PDF (line 1).')
  })
})
