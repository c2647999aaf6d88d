<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import StateTag from '@/parts/StateTag.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { type Schemas } from '@/contract/client'
import { capital, gradesName, plural } from '@/contract/format'
import * as assessmentQueries from '@/queries/assess'
import BandSetPanel from './BandSetPanel.vue'
import { whoLocked, whoseName } from './whose'

const route = useRoute()
const router = useRouter()
const sets = useQuery(assessmentQueries.bandSets)
const like = computed(() => (typeof route.query.like === 'string' ? route.query.like : undefined))
const chosen = computed(() => (typeof route.query.set === 'string' ? route.query.set : undefined))
const open = (set?: number | 'new', like?: number) =>
  router.push({ query: { ...(set && { set: String(set) }), ...(like && { like: String(like) }) } })
const byId = (id: unknown) => sets.data.value?.find((s) => String(s.id) === id)
/** Those that are offered, and below them the retired. */
const listed = computed(() => [...(sets.data.value ?? [])].sort((a, b) => Number(a.retired) - Number(b.retired)))
const cuts = (s: Schemas['BandSet']) =>
  s.bands.slice(1).map((b) => (b.cut.percent !== undefined ? `${b.cut.percent}%` : `${b.cut.raw} pt`))
</script>

<template>
  <div class="page">
    <PageHead title="Bands" note="Sets of performance bands and the cut where each begins">
      <RouterLink to="/bands/official">Official tables</RouterLink>
      <RouterLink to="/bands/panels">Panels</RouterLink>
      <Button label="Create a band set" @click="open('new')" />
    </PageHead>
    <Trouble :error="sets.error.value" />
    <Empty
      v-if="sets.data.value && !sets.data.value.length"
      text="A band set names the bands from the lowest up, and the cut where each begins. Assessments choose one."
    />
    <LedgerTable v-else label="Band sets" banded>
      <thead>
        <tr>
          <th>Name</th>
          <th>Subject</th>
          <th>Grades</th>
          <th>Year, purpose</th>
          <th>Bands</th>
          <th>Cuts</th>
          <th class="num">Used by</th>
          <th class="double">Belongs to</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(s, i) in listed"
          :key="s.id"
          :tabindex="i ? -1 : 0"
          :aria-selected="String(s.id) === chosen"
          @click="open(s.id)"
        >
          <td>
            <strong>{{ s.name }}</strong>
            <StateTag v-if="s.least" state="mastery" tone="quiet" :title="`by standard, from ${s.least} points on`" />
            <StateTag v-if="s.retired" state="retired" tone="quiet" />
            <StateTag v-if="s.lockedBy" state="locked" tone="quiet" :title="`by ${whoLocked(s)}`" />
          </td>
          <td>{{ capital(s.subject) || 'any' }}</td>
          <td class="nowrap">{{ s.grades.length ? gradesName(s.grades) : 'any grade' }}</td>
          <td>{{ [s.year, s.course, capital(s.purpose)].filter(Boolean).join(', ') || 'any' }}</td>
          <td>{{ s.bands.map((b) => b.name).join(', ') }}</td>
          <td class="nowrap">{{ cuts(s).join(', ') }}</td>
          <td class="num nowrap">{{ plural(s.uses, 'assessment') }}</td>
          <td class="double nowrap">{{ whoseName(s) }}</td>
        </tr>
      </tbody>
    </LedgerTable>
    <BandSetPanel
      v-if="chosen"
      :key="`${chosen} ${like}`"
      :set="byId(chosen)"
      :like="byId(like)"
      @close="open()"
      @kept="(id) => open(id)"
      @copy="open('new', Number(chosen))"
    />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
.nowrap {
  white-space: nowrap;
}
td strong {
  margin-right: 6px;
}
</style>
