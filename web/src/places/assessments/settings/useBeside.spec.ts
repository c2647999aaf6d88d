import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { expect, it } from 'vitest'
import { defineComponent, ref } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries } from '@/contract/client'
import { useBeside } from './useBeside'

const where = (assessment: number) => [
  { distributionId: 1, schoolId: 2, school: 'Heron Point', sectionId: 5, section: '5-1' },
  ...(assessment === 7 ? [{ distributionId: 1, schoolId: 2, school: 'Heron Point', sectionId: 6, section: '5-2' }] : []),
]

/** What lies beside assessment 7, looked at as at a section, when the address says `query`. */
async function beside(query: string, spot = 'section=5') {
  server.on('GET /api/assessments', () => ({ body: [{ id: 9, title: 'Spring' }] }))
  server.on('GET /api/settings', (asked) => {
    const place = Object.fromEntries([...new URLSearchParams(asked.query)].map(([k, v]) => [k, Number(v)]))
    return { body: { place, where: where(place.assessment!), settings: [], quarrels: [], undo: [] } }
  })
  const router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/', component: { template: '' } }] })
  await router.push(`/?${query}`)
  let found!: ReturnType<typeof useBeside>
  const places = ref([{ value: 'section=6', label: 'Heron Point, 5-2', place: {} }])
  const Screen = defineComponent({
    setup() {
      found = useBeside(ref(7), ref(spot), places)
      return () => null
    },
  })
  mount(Screen, { global: { plugins: [router, [VueQueryPlugin, { queryClient: queries }]] } })
  await flushPromises()
  await flushPromises()
  return { title: found.beside.value?.title, place: found.beside.value?.view.place }
}

it('lays another assessment beside at the same section, where it is given there', async () => {
  expect(await beside('beside=assessment=9')).toEqual({ title: 'Spring, Heron Point, 5-1', place: { assessment: 9, section: 5 } })
})

it('lays all of another assessment beside that is not given at that section', async () => {
  expect(await beside('beside=assessment=9', 'section=6')).toEqual({ title: 'Spring', place: { assessment: 9 } })
})

it('lays it beside at another place, or at all of it, when asked', async () => {
  expect((await beside('beside=assessment=9&besideAt=school=2')).place).toEqual({ assessment: 9, school: 2 })
  expect((await beside('beside=assessment=9&besideAt=')).place).toEqual({ assessment: 9 })
})

it('lays another place of the same assessment beside', async () => {
  expect(await beside('beside=section=6')).toEqual({ title: 'Heron Point, 5-2', place: { assessment: 7, section: 6 } })
  expect((await beside('')).place).toBeUndefined()
})
