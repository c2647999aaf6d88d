import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { computed, defineComponent, h, provide, ref, type Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries, type Schemas } from '@/contract/client'
import { openSheetKey } from './open'
import type { Sheet } from '@/places/assessments/lines/lines'
import { useSheet } from './useSheet'

export const sheetPath = '/api/assessments/4'

/** Forgets the test before; who is signed in may do what is named. */
export function fresh(rights: Schemas['Session']['rights'] = ['build']) {
  server.reset()
  queries.clear()
  localStorage.clear()
  Element.prototype.scrollIntoView = () => undefined
  const session = { rights, timeZone: 'UTC', year: '2026–27', personId: 3, signedIn: true }
  queries.setQueryData(['session'], session)
  server.on('GET /api/session', () => ({ body: session }))
}

/** Assessment 4 as a draft that may be changed. */
export const draft = (part: object): Sheet =>
  ({
    id: 4,
    version: 7,
    edition: 1,
    state: 'draft',
    mayChange: true,
    maySend: true,
    mayPrint: true,
    changedAt: '2026-10-13T16:00:00Z',
    changedBy: 'Ines Okafor',
    outline: { title: 'Fall', subject: 'mathematics', grades: ['06'] },
    rows: [],
    lines: [],
    layout: { parts: [], pools: [] },
    worth: [],
    poolStates: [],
    faults: [],
    reported: [],
    forms: [],
    shortage: 0,
    excess: 0,
    ...part,
  }) as unknown as Sheet

/** One framework of grade 6 with these standards. */
export function serveStandards(standards: { code: string; text?: string; level?: string }[]) {
  server.on('GET /api/frameworks', () => ({
    body: [{ id: 1, title: 'Calder', subject: 'mathematics', version: '', standards: standards.length }],
  }))
  server.on('GET /api/frameworks/1/standards', () => ({
    body: standards.map((s, i) => ({ id: i + 5, text: '', level: '', grades: ['06'], parentId: 0, items: 3, ...s })),
  }))
}

/** Every address leads to nothing; where one is shows in it. */
export const testRouter = () =>
  createRouter({ history: createMemoryHistory(), routes: [{ path: '/:rest(.*)*', component: { render: () => null } }] })

/** Shows a component; what would slide over the page stands in it. */
export async function show(component: Component, props: Record<string, unknown> = {}, router = testRouter()) {
  const screen = mount(component, {
    props,
    global: {
      plugins: [PrimeVue, router, [VueQueryPlugin, { queryClient: queries }]],
      stubs: { teleport: true, transition: true },
    },
    attachTo: document.body,
  })
  await flushPromises()
  await flushPromises()
  return screen
}

/** Shows a part of assessment 4 as Sheet.vue does: once its sheet has been read. */
export function showOnSheet(part: Component, props: Record<string, unknown> = {}) {
  const Screen = defineComponent({
    setup() {
      const open = useSheet(ref(4))
      provide(openSheetKey, open)
      const ready = computed(() => !!open.sheet.value)
      return () => (ready.value ? h(part, props) : null)
    },
  })
  return show(Screen)
}

const said = (element: { text(): string; attributes(name: string): string | undefined }) => [
  element.text(),
  element.attributes('aria-label'),
]

export function button(screen: VueWrapper, label: string) {
  const found = screen.findAll('button').find((b) => said(b).includes(label))
  if (!found) throw new Error(`there is no button ${label}`)
  return found
}

export async function press(screen: VueWrapper, label: string) {
  await button(screen, label).trigger('click')
  await flushPromises()
}

/** The field that a label stands around, or that bears a label itself. */
export function field(screen: VueWrapper, label: string) {
  const around = screen.findAll('label').find((l) => l.text().startsWith(label) && l.find('input, select, textarea').exists())
  const found =
    around?.find('input, select, textarea') ??
    screen.findAll('input, select, textarea').find((f) => f.attributes('aria-label') === label)
  if (!found) throw new Error(`there is no field ${label}`)
  return found
}

export async function fill(screen: VueWrapper, label: string, value: string | boolean) {
  await field(screen, label).setValue(value)
  await flushPromises()
}

export const rows = (screen: VueWrapper) => screen.findAll('tbody tr').map((r) => r.text())
