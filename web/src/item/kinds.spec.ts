import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import type { Schemas } from '@/contract/client'
import ItemBody from './ItemBody.vue'
import { joined, left, parted } from './pairs'

const c = (id: string, most?: number) => ({ id, html: id.toLowerCase(), most })
const [A, B] = [c('A', 1), c('B', 1)]

describe('joining', () => {
  it('adds a pair, once', () => {
    expect(joined([], A, c('T1'))).toEqual(['A T1'])
    expect(joined(['A T1'], A, c('T1'))).toEqual(['A T1'])
  })

  it('moves a choice that may be joined once', () => {
    expect(joined(['A T1', 'B T2'], A, c('T2'))).toEqual(['B T2', 'A T2'])
  })

  it('lets the oldest go where a target is full', () => {
    expect(joined(['A T1'], B, c('T1', 1))).toEqual(['B T1'])
    expect(joined(['A T1', 'B T2'], B, c('T1', 1))).toEqual(['B T1'])
  })

  it('goes on where there is no bound', () => {
    expect(joined(['A T1'], c('A'), c('T2'))).toEqual(['A T1', 'A T2'])
    expect(left(c('A'), ['A T1', 'A T2'], 0)).toBe(Infinity)
    expect(left(A, ['A T1'], 0)).toBe(0)
    expect(parted(['A T1', 'B T1'], 'A', 'T1')).toEqual(['B T1'])
  })
})

function body(kind: string, interaction: object, response: Record<string, string[]> = {}, more = {}) {
  const shown = {
    kind,
    body: [{ html: '<p>Do.</p>' }, { interaction: { response: 'RESPONSE', ...interaction } }],
  } as Schemas['Shown']
  const b = mount(ItemBody, { props: { modelValue: response, shown, name: 'n', ...more }, attachTo: document.body })
  return { b, last: () => (b.emitted('update:modelValue')?.at(-1)?.[0] as Record<string, string[]> | undefined)?.RESPONSE }
}
const choices = [c('A', 1), c('B', 1), c('C', 1)]
const targets = [c('T1'), c('T2')]

describe('choosing', () => {
  it('of one can be taken back', async () => {
    const { b, last } = body('single-choice', { choices, maxChoices: 1 }, { RESPONSE: ['B'] })
    expect(b.findAll('.letter svg')).toHaveLength(0)
    await b.find('button.clear').trigger('click')
    expect(last()).toEqual([])
  })

  it('of several shows a box beside each letter', () => {
    const { b } = body('multiple-choice', { choices }, { RESPONSE: ['B'] })
    expect(b.findAll('.letter svg')).toHaveLength(3)
    expect(b.find('button.clear').exists()).toBe(false)
  })
})

describe('typing', () => {
  it('of a number says what a number may look like', () => {
    const { b } = body('number', {})
    const hint = b.find('.hint')
    expect(hint.text()).toBe('A number, such as 12, 0.5 or 3/4.')
    expect(b.find('input').attributes('aria-labelledby')).toContain(hint.attributes('id'))
    expect(body('text', {}).b.find('.hint').exists()).toBe(false)
  })

  it('says how much room is left, and that a full answer takes no more', () => {
    const room = (n: number) => {
      const { b } = body('short-written', { rows: 2 }, { RESPONSE: ['x'.repeat(n)] })
      return b.find('[role=status]').exists() ? b.find('[role=status]').text() : ''
    }
    expect(room(1_000)).toBe('')
    expect(room(1_799)).toBe('Room for 1 more character.')
    expect(room(1_800)).toContain('This answer is full.')
  })
})

describe('putting in order', () => {
  it('is not answered by what stands there, but by moving or by saying so', async () => {
    const { b, last } = body('order', { choices })
    expect(
      b
        .findAll('.text')
        .slice(1)
        .map((t) => t.text()),
    ).toEqual(['a', 'b', 'c'])
    expect(last()).toBeUndefined()
    await b.find('.hint button').trigger('click')
    expect(last()).toEqual(['A', 'B', 'C'])
  })

  it('moves by the arrows, says where to, and keeps the focus', async () => {
    const { b, last } = body('order', { choices })
    await b.find('[aria-label="Move a down"]').trigger('click')
    expect(last()).toEqual(['B', 'A', 'C'])
    expect(b.find('[role=status]').text()).toBe('Now 2 of 3')
    await nextTick()
    expect(document.activeElement?.closest('li')?.textContent).toContain('a')
  })

  it('shows an order that was given before, and the key to who may see it', () => {
    const rows = (b: ReturnType<typeof body>['b']) => b.findAll('ol .text').map((t) => t.text())
    expect(rows(body('order', { choices }, { RESPONSE: ['C', 'A', 'B'] }).b)).toEqual(['c', 'a', 'b'])
    const { b } = body('order', { choices }, {}, { readOnly: true, keys: { RESPONSE: { correct: ['B', 'C', 'A'] } } })
    expect(rows(b)).toEqual(['b', 'c', 'a'])
    expect(b.findAll('button')).toHaveLength(0)
  })
})

describe('sorting and matching', () => {
  it('picks and puts, without dragging', async () => {
    const { b, last } = body('sort', { choices, targets })
    expect(b.findAll('.put')).toHaveLength(0)
    await b.find('.pool .chip').trigger('click')
    expect(b.find('[role=status]').text()).toContain('picked')
    await b.findAll('.put')[1]!.trigger('click')
    expect(last()).toEqual(['A T2'])
    await nextTick()
    expect(document.activeElement?.textContent, 'the next one to put').toContain('b')
  })

  it('drags and drops', async () => {
    const { b, last } = body('match', { choices, targets })
    await b.findAll('.pool .chip')[2]!.trigger('dragstart')
    await b.findAll('.target')[0]!.trigger('drop')
    expect(last()).toEqual(['C T1'])
  })

  it('takes back what was put, and lets go of what was picked with Escape', async () => {
    const { b, last } = body('sort', { choices, targets }, { RESPONSE: ['A T1'] })
    expect(b.findAll('.pool .chip').map((x) => x.text())).toEqual(['b', 'c'])
    await b.find('.pool .chip').trigger('click')
    await b.find('.join').trigger('keydown', { key: 'Escape' })
    expect(b.findAll('.put')).toHaveLength(0)
    await b.find('[aria-label="a, take back from t1"]').trigger('click')
    expect(last()).toEqual([])
  })
})

describe('a table of boxes', () => {
  it('has one box a row, or any', async () => {
    const one = body('box-table', { choices, targets }, { RESPONSE: ['A T1'] })
    expect(one.b.find('input').element.type).toBe('radio')
    await one.b.findAll('input')[1]!.setValue(true)
    expect(one.last()).toEqual(['A T2'])

    const any = body('box-table', { choices: [c('A'), c('B')], targets }, { RESPONSE: ['A T1'] })
    expect(any.b.find('input').element.type).toBe('checkbox')
    await any.b.findAll('input')[1]!.setValue(true)
    expect(any.last()).toEqual(['A T1', 'A T2'])
  })

  it('names each box by its row and its column', () => {
    const { b } = body('box-table', { choices, targets })
    const [row, column] = b.findAll('input')[3]!.attributes('aria-labelledby')!.split(' ')
    expect([b.find(`#${row}`).text(), b.find(`#${column}`).text()]).toEqual(['b', 't2'])
  })
})

describe('a number line', () => {
  const line = { places: ['-1', '-0.5', '0', '0.5', '1'], labels: 2 }

  it('is not answered until a point was put', async () => {
    const { b, last } = body('number-line', { line })
    expect(b.findAll('.point')).toHaveLength(0)
    expect(b.find('input').attributes('aria-valuetext')).toBe('not put yet')
    await b.find('input').setValue('3')
    expect(last()).toEqual(['0.5'])
  })

  it('can be answered at its first place, too', async () => {
    const { b, last } = body('number-line', { line })
    await b.find('input').trigger('keydown', { key: 'Enter' })
    expect(last()).toEqual(['-1'])
  })

  it('shows what was put in words, and labels every so many places', () => {
    const { b } = body('number-line', { line }, { RESPONSE: ['-0.5'] })
    expect(b.find('.hint').text()).toBe('Put at −0.5.')
    expect(b.findAll('.label').map((l) => l.text())).toEqual(['−1', '0', '1'])
  })

  it('finds the place of a key that is written otherwise', () => {
    const { b } = body('number-line', { line }, {}, { readOnly: true, keys: { RESPONSE: { correct: ['1/2'] } } })
    expect(b.find('.point').attributes('style')).toContain('* 0.75')
  })
})

describe('selecting in a text', () => {
  const text = [
    { id: '', html: 'The ', plain: true },
    { id: 'A', html: 'tide' },
    { id: '', html: ' ', plain: true },
    { id: 'B', html: 'rises' },
  ]

  it('turns words on and off', async () => {
    const { b, last } = body('select-text', { choices: text }, { RESPONSE: ['A'] })
    expect(b.find('.running').text()).toBe('The tide rises')
    expect(b.findAll('button').map((x) => x.attributes('aria-pressed'))).toEqual(['true', 'false'])
    await b.findAll('button')[1]!.trigger('click')
    expect(last()).toEqual(['A', 'B'])
    await b.findAll('button')[0]!.trigger('click')
    expect(last()).toEqual(['B'])
  })

  it('takes no more than are allowed', () => {
    const { b } = body('select-text', { choices: text, maxChoices: 1 }, { RESPONSE: ['A'] })
    expect(b.findAll('button').map((x) => x.element.disabled)).toEqual([false, true])
    expect(b.find('.hint').text()).toBe('1 selected, 1 at most.')
  })
})

describe('menus in a sentence', () => {
  const menus = {
    targets: [
      { id: '', html: 'Ice ', plain: true },
      { id: 'G1', html: '', most: 1 },
      { id: '', html: ' and vapor ', plain: true },
      { id: 'G2', html: '', most: 1 },
    ],
    choices: [
      { id: 'A', html: 'melts', in: 'G1' },
      { id: 'B', html: 'a &lt; b', in: 'G1' },
      { id: 'C', html: 'condenses', in: 'G2' },
    ],
  }

  it('offer each gap its own words', async () => {
    const { b, last } = body('menus', menus, { RESPONSE: ['A G1'] })
    expect(b.findAll('select').map((x) => x.findAll('option').map((o) => o.text()))).toEqual([
      ['choose …', 'melts', 'a < b'],
      ['choose …', 'condenses'],
    ])
    expect(b.findAll('select').map((x) => x.element.value)).toEqual(['A', ''])
    await b.findAll('select')[1]!.setValue('C')
    expect(last()).toEqual(['A G1', 'C G2'])
    await b.findAll('select')[0]!.setValue('B')
    expect(last()).toEqual(['C G2', 'B G1'])
    await b.findAll('select')[0]!.setValue('')
    expect(last()).toEqual(['C G2'])
  })
})

describe('marking a spot', () => {
  const picture = { source: '/media/x', alt: 'A harbor', width: 400, height: 200 }
  it('moves by the arrow keys and says where it is', async () => {
    const { b, last } = body('spot', { picture, maxChoices: 1 })
    const box = b.find('[role=application]')
    expect(box.attributes('aria-label')).toContain('A harbor')
    await box.trigger('keydown', { key: 'ArrowRight' })
    expect(last()).toEqual(['210 100'])
    await b.setProps({ modelValue: { RESPONSE: ['210 100'] } })
    await box.trigger('keydown', { key: 'ArrowDown', shiftKey: true })
    expect(last()).toEqual(['210 101'])
    expect(b.find('[role=status]').text()).toContain('% from the left')
    await box.trigger('keydown', { key: 'Delete' })
    expect(last()).toEqual([])
  })

  it('offers areas as buttons', async () => {
    const areas = [
      { id: 'A', html: 'pier', area: { shape: 'circle', at: [100, 100, 20] } },
      { id: 'B', html: 'buoy', area: { shape: 'polygon', at: [0, 0, 40, 0, 40, 20] } },
    ]
    const { b, last } = body('spot', { picture, choices: areas, maxChoices: 1 })
    const buttons = b.findAll('button.area')
    expect(buttons.map((x) => x.attributes('aria-label'))).toEqual(['pier', 'buoy'])
    expect((buttons[0]!.element as HTMLElement).style.left).toBe('20%')
    expect((buttons[1]!.element as HTMLElement).style.width).toBe('10%')
    await buttons[1]!.trigger('click')
    expect(last()).toEqual(['B'])
  })

  it('stands beside things to order whose places are on it, under the names that they have there', () => {
    const choices = [
      { id: 'P', html: 'A. pier', area: { shape: 'rectangle', at: [100, 50, 140, 90] } },
      { id: 'Q', html: 'B', area: { shape: 'circle', at: [300, 20, 10] } },
    ]
    const { b } = body('order', { picture, choices })
    expect(b.find('img').attributes('alt')).toBe('A harbor')
    expect(b.findAll('.mark').map((m) => m.text())).toEqual(['A', 'B'])
    expect((b.find('.mark').element as HTMLElement).style).toMatchObject({ left: '30%', top: '35%' })
    expect(b.findAll('li .text').map((t) => t.text())).toEqual(['A. pier', 'B'])
  })

  it('shows the areas of the key to who may see it, and takes no spot then', async () => {
    const keys = { RESPONSE: { correct: [], areas: [{ shape: 'rectangle', at: [0, 0, 200, 100] }] } }
    const { b, last } = body('spot', { picture, maxChoices: 1 }, {}, { readOnly: true, keys })
    expect(b.findAll('.area.key')).toHaveLength(1)
    await b.find('.picture').trigger('click')
    expect(last()).toBeUndefined()
  })
})

describe('writing', () => {
  it('counts words and shows the rubric with the key', async () => {
    const { b, last } = body('extended-written', { rows: 8 }, { RESPONSE: ['Tides turn twice.'] })
    expect(b.find('.hint').text()).toBe('3 words')
    await b.find('textarea').setValue('Ferries wait.')
    expect(last()).toEqual(['Ferries wait.'])
    const rubric = [
      {
        name: 'Facts',
        levels: [
          { points: 2, text: 'two' },
          { points: 0, text: 'none' },
        ],
      },
    ]
    const keyed = body(
      'extended-written',
      { rows: 8 },
      {},
      { readOnly: true, keys: { RESPONSE: { correct: ['Like so.'], rubric } } },
    )
    expect(keyed.b.text()).toContain('such as: Like so.')
    expect(keyed.b.findAll('.rubric tr')).toHaveLength(2)
  })
})

describe('several parts and languages', () => {
  const part = (response: string, kind: string) => ({ interaction: { response, kind, choices: [c('A'), c('B')], maxChoices: 1 } })
  it('keeps the answers of parts apart', async () => {
    const shown = {
      kind: 'parts',
      body: [{ html: 'Both.' }, part('R1', 'single-choice'), { html: 'Why?' }, part('R2', 'single-choice')],
    }
    const b = mount(ItemBody, { props: { modelValue: { R1: ['A'] }, shown, name: 'n' } })
    await b.findAll('input')[3]!.trigger('change')
    expect(b.emitted('update:modelValue')!.at(-1)).toEqual([{ R1: ['A'], R2: ['B'] }])
    expect(b.findAll('[role=radiogroup]').map((g) => g.attributes('aria-labelledby'))).toEqual(['n-text-0', 'n-text-2'])
  })

  it('turns to another language and keeps what is answered', async () => {
    const shown = {
      kind: 'single-choice',
      body: [{ html: 'Which?' }, part('R', '')],
      variants: [{ language: 'es', body: [{ html: '¿Cuál?' }, part('R', '')] }],
    }
    const b = mount(ItemBody, { props: { modelValue: { R: ['B'] }, shown, name: 'n' } })
    expect(b.text()).toContain('Which?')
    await b.find('.languages button[lang=es]').trigger('click')
    expect(b.text()).toContain('¿Cuál?')
    expect((b.findAll('input')[1]!.element as HTMLInputElement).checked).toBe(true)
    await b.findAll('.languages button')[0]!.trigger('click')
    expect(b.text()).toContain('Which?')
  })

  it('says in which language it is written, and turns back to that', async () => {
    const shown = {
      kind: 'single-choice',
      language: 'es',
      body: [{ html: '¿Cuál?' }, part('R', '')],
      variants: [{ language: 'en', body: [{ html: 'Which?' }, part('R', '')] }],
    }
    const b = mount(ItemBody, { props: { modelValue: {}, shown, name: 'n' } })
    await b.find('.languages button[lang=es]').trigger('click')
    expect(b.text()).toContain('¿Cuál?')
    expect(b.find('.item').attributes('lang')).toBe('es')
    await b.find('.languages button[lang=en]').trigger('click')
    expect(b.text()).toContain('Which?')
    expect(b.find('.item').attributes('lang')).toBe('en')
    await b.find('.languages button[lang=es]').trigger('click')
    expect(b.text()).toContain('¿Cuál?')
  })
})

it('joins choices to each other, and a partner leaves the pool', async () => {
  const { b, last } = body('match', { choices, targets: [], among: true })
  await b.findAll('.pool .chip')[0]!.trigger('click')
  expect(b.findAll('.put')).toHaveLength(2) // not to itself
  await b.findAll('.put')[0]!.trigger('click')
  expect(last()).toEqual(['A B'])
  await b.setProps({ modelValue: { RESPONSE: ['A B'] } })
  expect(b.findAll('.pool .chip').map((x) => x.text())).toEqual(['c'])
})

it('lets a word of a shared list be used once', async () => {
  const { b } = body('menus', { choices, targets: [c('G1'), c('G2')] }, { RESPONSE: ['A G1'] })
  const second = b.findAll('select')[1]!
  expect(second.findAll('option').map((o) => [o.text(), o.attributes('disabled') !== undefined])).toEqual([
    ['choose …', false],
    ['a', true],
    ['b', false],
    ['c', false],
  ])
})
