import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { beforeEach, describe, expect, it } from 'vitest'
import { defineComponent, h, nextTick, reactive, type Component } from 'vue'
import { queries } from '@/contract/client'
import { blankPart, partKinds } from './blank'
import { partsOf, type ItemDocument } from './document'
import FeedbackFields from './FeedbackFields.vue'
import MetaFields from './MetaFields.vue'
import PartFields from './PartFields.vue'
import SeveralParts from './SeveralParts.vue'
import VariantFields from './VariantFields.vue'

// The fields of an item, on a document of their own. Formatted text is a plain box here.
const RichText = defineComponent({
  props: { modelValue: { type: String, default: '' }, label: { type: String, required: true } },
  emits: ['update:modelValue'],
  setup:
    (props, { emit }) =>
    () =>
      h('textarea', {
        'aria-label': props.label,
        value: props.modelValue,
        onInput: (e: Event) => emit('update:modelValue', (e.target as HTMLTextAreaElement).value),
      }),
})

function item(kind: string): ItemDocument {
  const { place, key } = blankPart(kind, 'RESPONSE')
  return reactive({
    kind,
    credit: 'all-or-nothing',
    body: [{ html: 'Which?' }, { interaction: { ...place, kind: undefined } }],
    declarations: [key],
  })
}
const first = (doc: ItemDocument) => partsOf(doc)[0]!
let shown: VueWrapper
function show(component: Component, props: object) {
  shown = mount(component, {
    props,
    attachTo: document.body,
    global: { stubs: { RichText }, plugins: [[VueQueryPlugin, { queryClient: queries }]] },
  })
  return shown
}
const fields = (doc: ItemDocument, credits = ['all-or-nothing', 'per-part']) =>
  show(PartFields, { document: doc, part: first(doc), credits })
const byLabel = (label: string) => shown.find(`[aria-label="${label}"]`)
const labelled = (text: string) => shown.findAll('label').find((l) => l.text().includes(text))!
beforeEach(() => {})

describe('the fields of a place to answer', () => {
  it('are there for every kind that a part can have', () => {
    for (const kind of partKinds) {
      const doc = item(kind)
      expect(first(doc).kind).toBe(kind)
      expect(fields(doc).element.childElementCount, kind).toBeGreaterThan(0)
    }
  })

  it('add, drop, pin and move choices without a limit', async () => {
    const doc = item('single-choice')
    fields(doc)
    for (let n = 0; n < 30; n++) await shown.find('.choices > button').trigger('click')
    expect(first(doc).place.choices).toHaveLength(34)
    expect(first(doc).place.choices!.at(-1)!.id).toBe('AH')
    await byLabel('choice B').setValue('gull')
    await byLabel('choice B: move with the arrow keys').trigger('keydown', { key: 'ArrowUp' })
    expect(
      first(doc)
        .place.choices!.slice(0, 2)
        .map((c) => [c.id, c.html]),
    ).toEqual([
      ['B', 'gull'],
      ['A', ''],
    ])
    expect(shown.find('[role=status]').text()).toBe('choice moved to place 1 of 34')
    await byLabel('choice A: move with the arrow keys').trigger('keydown', { key: 'ArrowUp' })
    expect(first(doc).place.choices![0]!.id, 'the first stays where it is').toBe('B')
    await byLabel('Pin choice A to its place').trigger('click')
    expect(first(doc).place.choices![0]!.pinned).toBe(true)
    await byLabel('Delete choice A').trigger('click')
    expect(first(doc).place.choices![0]!.id).toBe('A')
  })

  it('say how often a target takes a choice', async () => {
    const doc = item('match')
    fields(doc)
    expect(first(doc).place.targets!.every((t) => t.most === 1)).toBe(true)
    await labelled('any number of choices').find('input').setValue(true)
    expect(first(doc).place.targets!.every((t) => t.most === undefined)).toBe(true)
    await shown.findAll('.choices > button')[1]!.trigger('click')
    expect(first(doc).place.targets!.at(-1)!.most).toBeUndefined()
  })

  it('read numbers as the author says', async () => {
    const doc = item('number')
    fields(doc)
    await labelled('Accepted answers').find('textarea').setValue('1/2\n\n 0.5 ')
    await labelled('Accepted answers').find('textarea').trigger('change')
    expect(first(doc).key.correct).toEqual(['1/2', '0.5'])
    await labelled('1:05').find('input').setValue(true)
    await labelled('Units that').find('input').setValue('m; meters')
    expect(first(doc).key.number).toEqual({ clock: true, units: ['m', 'meters'] })
    await labelled('1:05').find('input').setValue(false)
    expect(first(doc).key.number?.clock).toBeUndefined()
  })

  it('choose the credit rule of the item, or of one part', async () => {
    const doc = item('match')
    fields(doc)
    await shown.find('select[aria-label=Credit]').setValue('per-part')
    expect(doc.credit).toBe('per-part')
    const several: ItemDocument = reactive({
      kind: 'parts',
      credit: 'per-part',
      body: [{ html: '' }, { interaction: blankPart('match', 'R1').place }],
      declarations: [blankPart('match', 'R1').key],
    })
    show(PartFields, { document: several, part: first(several), credits: ['all-or-nothing', 'per-part'] })
    await shown.find('select[aria-label="Credit of part 1"]').setValue('all-or-nothing')
    expect([several.credit, several.declarations[0]!.credit]).toEqual(['per-part', 'all-or-nothing'])
  })

  it('build a rubric of traits and levels', async () => {
    const doc = item('short-written')
    fields(doc)
    await shown.find('fieldset > button').trigger('click')
    const trait = () => first(doc).key.rubric!.traits[0]!
    expect(trait().levels.map((l) => l.points)).toEqual([2, 1, 0])
    await shown.findAll('.trait > button').at(-1)!.trigger('click')
    expect(trait().levels.map((l) => l.points)).toEqual([3, 2, 1, 0])
    await shown.findAll('.level')[1]!.find('button').trigger('click')
    expect(trait().levels.map((l) => l.points)).toEqual([3, 1, 0])
    await shown.find('.trait .row button').trigger('click')
    expect(first(doc).key.rubric).toBeUndefined()
  })

  it('size the areas of a spot, and keep their middle when the shape changes', async () => {
    const doc = item('spot')
    first(doc).place.picture = { source: '/media/x', alt: 'x', width: 400, height: 200 }
    first(doc).key.areas = [{ shape: 'circle', at: [100, 60, 20] }]
    fields(doc)
    await shown.find('.area select').setValue('rectangle')
    expect(first(doc).key.areas![0]).toEqual({ shape: 'rectangle', at: [80, 40, 120, 80] })
    await shown.findAll('.area input')[2]!.setValue('160')
    await shown.find('.area select').setValue('circle')
    expect(first(doc).key.areas![0]).toEqual({ shape: 'circle', at: [120, 60, 40] })
    await shown.find('.area button').trigger('click')
    expect(first(doc).key.areas).toEqual([])
  })
})

it('areas of a spot are shown to choose from, and hidden again with those that were right', async () => {
  const doc = item('spot')
  first(doc).place.picture = { source: '/media/x', alt: 'x', width: 400, height: 200 }
  first(doc).key.areas = [{ shape: 'circle', at: [100, 60, 20] }]
  fields(doc)
  await labelled('areas are seen').find('input').setValue(true)
  await shown.findAll('button').at(-1)!.trigger('click')
  expect(first(doc).place.choices!.map((c) => [c.id, c.area!.at])).toEqual([
    ['A', [100, 60, 20]],
    ['B', [200, 100, 20]],
  ])
  expect(first(doc).key.areas).toBeUndefined()
  await byLabel('Name of area 2').setValue('pier')
  await byLabel('Name of area 2').trigger('change')
  expect(first(doc).place.choices![1]!.html).toBe('pier')
  first(doc).key.correct = ['B']
  await labelled('areas are seen').find('input').setValue(false)
  expect(first(doc).key).toMatchObject({ correct: [], areas: [{ shape: 'circle', at: [200, 100, 20] }] })
  expect(first(doc).place.choices).toBeUndefined()
})

describe('several parts', () => {
  function parts(): ItemDocument {
    const [a, b] = [blankPart('single-choice', 'RESPONSE1'), blankPart('single-choice', 'RESPONSE2')]
    return reactive({
      kind: 'parts',
      credit: 'per-part',
      body: [{ html: 'Read.' }, { html: 'First?' }, { interaction: a.place }, { html: 'Second?' }, { interaction: b.place }],
      declarations: [a.key, { ...b.key, needs: 'RESPONSE1', weight: 2 }],
    })
  }
  it('turn into another kind and keep weight and parent', async () => {
    const doc = parts()
    show(SeveralParts, { document: doc, credits: {} })
    await shown.findAll('.head select')[1]!.setValue('number')
    expect(partsOf(doc)[1]).toMatchObject({ kind: 'number', key: { weight: 2, needs: 'RESPONSE1', number: {} } })
  })

  it('go with their text, and nothing depends on them any more', async () => {
    const doc = parts()
    show(SeveralParts, { document: doc, credits: {} })
    await shown.findAll('.head > button')[0]!.trigger('click')
    expect(doc.body.map((b) => b.html ?? b.interaction!.response)).toEqual(['Read.', 'Second?', 'RESPONSE2'])
    expect(doc.declarations).toHaveLength(1)
    expect(doc.declarations[0]!.needs).toBeUndefined()
    expect(shown.find('.head > button').attributes('disabled'), 'the last part stays').toBeDefined()
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Add a part')!
      .trigger('click')
    expect(partsOf(doc).map((p) => p.place.response)).toEqual(['RESPONSE2', 'RESPONSE3'])
  })
})

describe('feedback and languages', () => {
  it('says what to go over again after each wrong choice', async () => {
    const doc = item('single-choice')
    first(doc).key.correct = ['B']
    show(FeedbackFields, { document: doc })
    expect(shown.findAll('textarea').map((t) => t.attributes('aria-label'))).toEqual([
      'Feedback when it is right',
      'Feedback when it is wrong',
      'What to go over again after A',
      'What to go over again after C',
      'What to go over again after D',
    ])
    await byLabel('What to go over again after C').setValue('Tides')
    await byLabel('Feedback when it is right').setValue('Yes')
    expect(doc.feedback).toEqual({ right: 'Yes', byAnswers: [{ response: 'RESPONSE', value: 'C', html: 'Tides' }] })
    await byLabel('What to go over again after C').setValue('')
    expect(doc.feedback!.byAnswers).toEqual([])
  })

  it('sets a second language beside the first and counts what is missing', async () => {
    const doc = item('single-choice')
    first(doc).place.choices!.forEach((c, i) => (c.html = `choice ${i}`))
    show(VariantFields, { document: doc, language: 'es' })
    await shown.find('button').trigger('click')
    expect(shown.text()).toContain('5 of 5 texts are missing')
    expect(doc.variants![0]!.body[1]!.interaction!.choices!.map((c) => c.id)).toEqual(['A', 'B', 'C', 'D'])
    for (const box of shown.findAll('textarea')) await box.setValue('texto')
    await nextTick()
    expect(shown.text()).toContain('nothing is missing')
    expect(doc.variants![0]!.body[0]!.html).toBe('texto')
    await shown.findAll('button').at(-1)!.trigger('click')
    expect(doc.variants).toBeUndefined()
  })
})

it('aligns to standards by their codes', async () => {
  server.on('GET /api/frameworks', () => ({ body: [{ id: 3, subject: 'Science', title: 'x', version: '', standards: 1 }] }))
  server.on('GET /api/frameworks/3/standards', () => ({
    body: [{ id: 1, code: 'S5.EW.1', text: 'Tides.', level: '', grades: [], parentId: 0, items: 0 }],
  }))
  server.on('GET /api/passages', () => ({ body: [{ id: 8, identifier: 'P', title: 'The pier', words: 90 }] }))
  const meta = reactive({
    identifier: '',
    bank: 'Bank',
    subject: 'science',
    grade: '',
    standards: [] as string[],
    depth: 0,
    difficulty: '',
    language: 'en',
    tags: [] as string[],
    passage: 0,
  })
  show(MetaFields, { meta, fixed: false })
  await flushPromises()
  const code = shown.find('input[list]')
  await code.setValue('S5.EW.1')
  await code.trigger('keydown', { key: 'Enter' })
  await nextTick()
  expect(meta.standards).toEqual(['S5.EW.1'])
  expect(shown.find('#standards li').text()).toContain('Tides.')
  await byLabel('Remove S5.EW.1').trigger('click')
  expect(meta.standards).toEqual([])
  await shown.find('#passage select').setValue('8')
  expect(meta.passage).toBe(8)
  const keywords = labelled('Keywords').find('input')
  await keywords.setValue(' tide, , moon ')
  await keywords.trigger('change')
  expect(meta.tags).toEqual(['tide', 'moon'])
})
