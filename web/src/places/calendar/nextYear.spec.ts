import { server } from '@/contract/testServer'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { expect, it } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { queries } from '@/contract/client'
import NextYearPanel from './NextYearPanel.vue'

const given = (distributionId: number, part = {}) => ({
  distributionId,
  title: `Benchmark ${distributionId}`,
  grades: ['05'],
  fromWas: '2026-10-14',
  toWas: '2026-10-21',
  from: '2027-10-14',
  to: '2027-10-20',
  anew: false,
  ...part,
})

it('copies those that are chosen after a look, and leads to their drafts', async () => {
  queries.clear()
  const both = [given(1), given(2, { anew: true })]
  server.on('POST /api/calendar/next-year', ({ body }) => {
    const { distributions, apply } = body as { distributions: number[]; apply: boolean }
    return {
      body: apply
        ? both.filter((n) => distributions.includes(n.distributionId)).map((n) => ({ ...n, copyId: 40 + n.distributionId }))
        : both,
    }
  })
  const router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/:all(.*)', component: { template: '' } }] })
  const panel = mount(NextYearPanel, {
    props: { from: '2026-01-01', to: '2026-12-31', school: 0, subject: '' },
    global: { plugins: [router, PrimeVue, [VueQueryPlugin, { queryClient: queries }]], stubs: { teleport: true } },
  })
  await flushPromises()
  expect(panel.text()).toContain('Jan 2026 to Dec 2026')
  expect(panel.findAll('li')[1]!.text()).toContain('Whom has to be chosen anew.')
  expect(panel.find('footer button').text()).toBe('Copy 2 assessments')
  await panel.findAll('input')[0]!.setValue(false)
  await panel.find('footer button').trigger('click')
  await flushPromises()
  expect(server.calls('POST /api/calendar/next-year').at(-1)!.body).toMatchObject({ distributions: [2], apply: true })
  expect(panel.find('[role=status]').text()).toMatch(/^1 draft with its dates is made\. For 1 of them choose whom anew\.$/)
  expect(panel.find('a').attributes('href')).toBe('/assessments/42/distribution')
})
