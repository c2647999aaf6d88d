import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it } from 'vitest'
import { queries } from '@/contract/client'
import StandardsTree from './StandardsTree.vue'

const standard = (id: number, parentId: number, code: string, items: number) => ({
  id,
  parentId,
  code,
  text: `Text of ${code}`,
  level: '',
  grades: [],
  items,
})

beforeEach(() => {
  server.on('GET /api/frameworks', () => ({ body: [{ id: 1, title: 'Calder', subject: 'Mathematics' }] }))
  server.on('GET /api/frameworks/1/standards', () => ({
    body: [
      standard(10, 0, 'M6', 104),
      standard(11, 10, 'M6.RR', 40),
      standard(12, 11, 'M6.RR.1', 9),
      standard(13, 10, 'M6.FS', 12),
      standard(20, 0, 'M7', 39),
    ],
  }))
})

async function tree(chosen?: number) {
  const t = mount(StandardsTree, {
    props: { chosen },
    attachTo: document.body,
    global: { plugins: [[VueQueryPlugin, { queryClient: queries }]] },
  })
  await flushPromises()
  return t
}
type Tree = Awaited<ReturnType<typeof tree>>
const shown = (t: Tree) => t.findAll('[role=treeitem]').map((n) => n.attributes('title')!.replace('Text of ', ''))
const item = (t: Tree, code: string) => t.find(`[title="Text of ${code}"]`)

describe('the tree of standards', () => {
  it('begins closed, with the counts of everything below', async () => {
    const t = await tree()
    expect(shown(t)).toEqual(['M6', 'M7'])
    expect(item(t, 'M6').find('.count').text()).toBe('104')
    expect(item(t, 'M6').attributes('aria-expanded')).toBe('false')
    expect(item(t, 'M7').attributes('aria-expanded')).toBeUndefined()
  })

  it('opens down to the one that is chosen', async () => {
    const t = await tree(12)
    expect(shown(t)).toEqual(['M6', 'M6.RR', 'M6.RR.1', 'M6.FS', 'M7'])
    expect(item(t, 'M6.RR.1').attributes('aria-selected')).toBe('true')
    expect(item(t, 'M6.RR.1').attributes('aria-level')).toBe('3')
    expect(item(t, 'M6.RR.1').attributes('tabindex')).toBe('0')
  })

  it('is walked, opened and closed with the arrows', async () => {
    const t = await tree()
    await item(t, 'M6').trigger('keydown', { key: 'ArrowRight' })
    expect(shown(t)).toEqual(['M6', 'M6.RR', 'M6.FS', 'M7'])
    ;(item(t, 'M6').element as HTMLElement).focus()
    await item(t, 'M6').trigger('keydown', { key: 'ArrowDown' })
    expect(document.activeElement).toBe(item(t, 'M6.RR').element)
    await item(t, 'M6').trigger('keydown', { key: 'ArrowLeft' })
    expect(shown(t)).toEqual(['M6', 'M7'])
  })

  it('chooses with Enter or a click, and lets go of the chosen one', async () => {
    const t = await tree()
    await item(t, 'M7').trigger('keydown', { key: 'Enter' })
    await t.setProps({ chosen: 20 })
    await item(t, 'M7').trigger('click')
    expect(t.emitted('choose')).toEqual([[20], [undefined]])
  })
})
