<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { plural, windowOf } from '@/contract/format'
import { useSession } from '@/contract/session'
import * as supportQueries from '@/queries/supports'
import GroundsPanel from './GroundsPanel.vue'
import RulesPanel from './RulesPanel.vue'

/** What the coming windows need of people and paper, in all sections that one sees; and what the district lays down of supports. */
const route = useRoute()
const router = useRouter()
const { may } = useSession()
const days = computed({
  get: () => Number(route.query.days) || 14,
  set: (n) => void router.replace({ query: { ...route.query, days: n === 14 ? undefined : String(n) } }),
})
const all = computed({
  get: () => route.query.all !== undefined,
  set: (on) => void router.replace({ query: { ...route.query, all: on ? '' : undefined } }),
})
const spans = [1, 7, 14, 30, 60].map((value) => ({ value, label: value === 1 ? 'today' : `${value} days` }))
const query = useQuery(supportQueries.ahead(days))
const lacking = computed(() => (query.data.value ?? []).filter((p) => p.lacks))
const sections = computed(() => new Set(lacking.value.map((p) => p.sectionId)).size)
const shown = computed(() => (all.value ? (query.data.value ?? []) : lacking.value))
const sum = (of: 'need' | 'have') => shown.value.reduce((n, p) => n + p[of], 0)
const csv = computed(() => `/api/supports/ahead.csv?days=${days.value}${all.value ? '' : '&lacking=true'}`)
const panel = ref<'grounds' | 'rules'>()
const print = () => window.print()
</script>

<template>
  <div class="page">
    <PageHead
      title="Supports ahead"
      :note="
        query.data.value
          ? lacking.length
            ? `${plural(sections, 'section')} still ${sections === 1 ? 'lacks' : 'lack'} people or paper.`
            : 'Everything that needs people or paper is seen to.'
          : ''
      "
    >
      <template v-if="may('build')">
        <Button label="Grounds" severity="secondary" outlined @click="panel = 'grounds'" />
        <Button label="What supports break" severity="secondary" outlined @click="panel = 'rules'" />
      </template>
      <Button label="Print" severity="secondary" outlined @click="print" />
      <a v-if="shown.length" :href="csv" download>Export as CSV</a>
    </PageHead>
    <div class="tools">
      <label>In the next <Choose v-model="days" :options="spans" /></label>
      <label><input v-model="all" type="checkbox" />Show what is seen to, too</label>
    </div>
    <Trouble :error="query.error.value" />
    <Empty
      v-if="query.data.value && !shown.length"
      :text="
        query.data.value.length
          ? 'Nobody and nothing is lacking.'
          : 'No student who sits an assessment in these days has a support that needs a person or paper.'
      "
    />
    <LedgerTable v-else-if="shown.length" label="What the coming windows need" banded>
      <thead>
        <tr>
          <th>Window</th>
          <th>Assessment</th>
          <th>School</th>
          <th>Section</th>
          <th>What</th>
          <th class="num">Students</th>
          <th class="num">Need</th>
          <th class="num">Have</th>
          <th class="double">Who, or where</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in shown" :key="`${p.assessmentId} ${p.sectionId} ${p.key}`">
          <td class="when">{{ windowOf(p.opens, p.closes) }}</td>
          <td>{{ p.title }}</td>
          <td>{{ p.school }}</td>
          <td>{{ p.section }}</td>
          <td>
            <RouterLink v-if="may('build')" :to="{ path: `/assessments/${p.assessmentId}/supports`, query: { key: p.key } }">{{
              p.name
            }}</RouterLink>
            <template v-else>{{ p.name }}</template>
          </td>
          <td class="num">{{ p.students }}</td>
          <td class="num">{{ p.need }}</td>
          <td class="num">
            <strong v-if="p.lacks" class="resin">{{ p.have }}</strong><template v-else>{{ p.have }}</template>
          </td>
          <td class="double">
            <template v-if="p.provider">{{ p.provider }}</template>
            <span v-else class="resin">{{ p.by === 'paper' ? 'not made yet' : 'nobody yet' }}</span>
          </td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <th colspan="6" scope="row">{{ plural(shown.length, 'row') }}</th>
          <td class="num">{{ sum('need') }}</td>
          <td class="num">{{ sum('have') }}</td>
          <td class="double" />
        </tr>
      </tfoot>
    </LedgerTable>
    <GroundsPanel v-if="panel === 'grounds'" @close="panel = undefined" />
    <RulesPanel v-if="panel === 'rules'" @close="panel = undefined" />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 22px;
  margin-bottom: 10px;
}
.tools label {
  display: flex;
  gap: 8px;
  align-items: center;
}
.tools input {
  accent-color: var(--pine);
}
.when {
  white-space: nowrap;
}
@media print {
  .tools {
    display: none;
  }
}
</style>
