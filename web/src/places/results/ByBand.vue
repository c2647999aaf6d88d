<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import BandBar from '@/parts/BandBar.vue'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { type Schemas } from '@/contract/client'
import { plural, tenths } from '@/contract/format'
import * as resultQueries from '@/queries/results'
import MasteryTable from './MasteryTable.vue'
import ResultHead from './ResultHead.vue'

/** By band and by standard for each section beside its school and the whole. */
const props = defineProps<{ id: number }>()
const router = useRouter()
const route = useRoute()
/** Below which standard one looks; it lives in the address, so that it can be sent, and Back leads up. */
const parent = computed(() => String(route.query.standard ?? ''))
const look = (standard: string) => router.push({ query: { ...route.query, standard: standard || undefined } })
const query = useQuery({
  ...resultQueries.byBand(
    computed(() => props.id),
    parent,
  ),
})
const data = computed(() => query.data.value)
const names = computed(() => data.value?.head.cuts?.starts.map((s) => s.name) ?? ['all'])
const exports = computed(
  () => `/api/results/${props.id}/bands.csv${parent.value ? `?parent=${encodeURIComponent(parent.value)}` : ''}`,
)

interface Row {
  kind: 'section' | 'school'
  group: Schemas['Group']
  first: boolean
}
/** Sections by school, and after a school of several sections the school itself. */
const rows = computed(() => {
  const out: Row[] = []
  for (const school of data.value?.schools ?? []) {
    const sections = data.value!.sections.filter((s) => s.schoolId === school.schoolId)
    sections.forEach((group, i) => out.push({ kind: 'section', group, first: i === 0 }))
    if (sections.length > 1) out.push({ kind: 'school', group: school, first: false })
  }
  return out
})
/** What is seen in all and, for who sees a part, the whole school and the district beside it. */
const totals = computed(() => {
  const d = data.value
  if (!d) return []
  const own = d.beside.length ? 'Your sections' : 'All'
  return [
    { name: own, note: plural(d.sections.length, 'section'), group: d.all },
    ...d.beside.map((group) => ({
      name: group.school || 'District',
      note: group.schoolId ? 'whole school' : 'all schools',
      group,
    })),
  ]
})
/** Well below the whole: ten points of a percent. */
const low = (g: Schemas['Group'], i: number) => {
  const here = g.strands[i]?.tenths ?? -1
  const whole = data.value?.all.strands[i]?.tenths ?? -1
  return here >= 0 && here < whole - 100
}
function open(g: Schemas['Group']) {
  void router.push({
    path: `/results/${props.id}/matrix`,
    query: g.sectionId ? { section: String(g.sectionId) } : { school: String(g.schoolId) },
  })
}
const up = computed(() => parent.value.split('.').slice(0, -1).join('.'))
</script>

<template>
  <div class="page">
    <Trouble :error="query.error.value" />
    <template v-if="data">
      <ResultHead title="By band and standard" :head="data.head" view="bands" :exports="exports" />
      <Empty
        v-if="!data.head.result.scored && !data.head.result.waiting"
        text="Nobody has handed in yet. Results appear here as students hand in."
      />
      <LedgerTable label="Results by band and standard">
        <thead>
          <tr>
            <th>School</th>
            <th>Section</th>
            <th class="num">n</th>
            <th
              v-if="data.all.waiting"
              class="num"
              title="These students have answers that are not scored yet; they are in no band and in no mean."
            >
              Not scored yet
            </th>
            <th>Bands</th>
            <th class="num">Mean, %</th>
            <th
              v-for="(s, i) in data.strands"
              :key="s.code"
              class="num"
              :class="{ double: i === 0 }"
              :title="`${s.code} ${s.text}, lines ${s.lines.map((l) => l + 1).join(', ')}`"
            >
              <button type="button" class="link-button" :aria-label="`${s.text}: show what is below it`" @click="look(s.code)">
                {{ s.code.split('.').slice(1).join('.') || s.code }}
              </button>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(r, k) in rows"
            :key="`${r.kind}-${r.group.schoolId}-${r.group.sectionId}`"
            :class="r.kind"
            :tabindex="k ? -1 : 0"
            @click="open(r.group)"
          >
            <td class="nowrap">{{ r.first ? r.group.school : '' }}</td>
            <td class="nowrap">{{ r.kind === 'school' ? 'whole school' : r.group.section }}</td>
            <td class="num">{{ r.group.n }}</td>
            <td v-if="data.all.waiting" class="num">{{ r.group.waiting || '' }}</td>
            <td>
              <BandBar v-if="r.group.n" :counts="r.group.bands" :names="names" /><span v-else class="soft">{{
                r.group.waiting ? 'not scored yet' : 'none handed in'
              }}</span>
            </td>
            <td class="num">{{ tenths(r.group.meanTenths) }}</td>
            <td
              v-for="(s, i) in r.group.strands"
              :key="i"
              class="num"
              :class="{ double: i === 0, resin: low(r.group, i) }"
              :title="`${s.earned} of ${s.possible} points`"
            >
              <span v-if="low(r.group, i)" aria-hidden="true">▾ </span>{{ tenths(s.tenths)
              }}<span v-if="low(r.group, i)" class="out-of-sight">, ten or more below the whole</span>
            </td>
          </tr>
        </tbody>
        <tfoot>
          <tr v-for="g in totals" :key="g.name">
            <th>{{ g.name }}</th>
            <th>{{ g.note }}</th>
            <td class="num">{{ g.group.n }}</td>
            <td v-if="data.all.waiting" class="num">{{ g.group.waiting || '' }}</td>
            <td><BandBar v-if="g.group.n" :counts="g.group.bands" :names="names" /></td>
            <td class="num">{{ tenths(g.group.meanTenths) }}</td>
            <td
              v-for="(s, i) in g.group.strands"
              :key="i"
              class="num"
              :class="{ double: i === 0 }"
              :title="`${s.earned} of ${s.possible} points`"
            >
              {{ tenths(s.tenths) }}
            </td>
          </tr>
        </tfoot>
      </LedgerTable>
      <MasteryTable :id="id" />
      <p class="soft">
        Percent of points by standard<template v-if="data.parent">
          under <span class="mono">{{ data.parent }}</span></template
        >.
        <button v-if="parent" type="button" class="link-button" @click="look(up && up.includes('.') ? up : '')">
          Up one level
        </button>
        ▾ Ten or more below the whole. {{ data.head.result.begun - data.head.result.scored - data.head.result.waiting }} are
        working now, {{ data.head.result.seats - data.head.result.begun }} have not begun.
      </p>
    </template>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
.nowrap {
  white-space: nowrap;
}
tr.school td {
  background: var(--tint);
  font-weight: 600;
}
tfoot tr:not(:last-child) > * {
  border-bottom: 1px solid var(--rule);
}
tfoot tr + tr > * {
  border-top: 0;
}
p {
  margin-top: 10px;
}
</style>
