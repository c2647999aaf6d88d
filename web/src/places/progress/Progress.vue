<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { useIntervalFn } from '@vueuse/core'
import Button from 'primevue/button'
import { computed } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { clockTime, moment, plural, windowOf } from '@/contract/format'
import { useSession } from '@/contract/session'
import AbsentTable from './AbsentTable.vue'

/** How far an assessment is over the district: schools by doors and students, and who should have opened by now. */
const route = useRoute()
const id = computed(() => Number(route.params.id))
const query = useQuery({
  queryKey: computed(() => ['progress', id.value]),
  queryFn: () => call(api.GET('/assessments/{id}/progress', { params: { path: { id: id.value } } })),
})
useIntervalFn(() => query.refetch(), 15_000)
const p = computed(() => query.data.value)
const rows = computed(() => (p.value ? p.value.schools : []))
const { may } = useSession()
const makeups = useQuery({
  queryKey: computed(() => ['makeups', id.value]),
  queryFn: () => call(api.GET('/assessments/{id}/makeups', { params: { path: { id: id.value } } })),
})
const remind = useMutation({
  mutationFn: () => call(api.POST('/assessments/{id}/reminder', { params: { path: { id: id.value } } })),
  onError: () => void query.refetch(),
})
const share = (done: number, of: number) => (of ? (done * 100) / of : 0)
</script>

<template>
  <div class="page">
    <PageHead :title="p ? `${p.title}: progress` : 'Progress'" :note="p ? `As of ${clockTime(p.at)}.` : ''">
      <RouterLink :to="`/assessments/${id}/rooms`">All rooms</RouterLink>
      <RouterLink :to="`/assessments/${id}/distribution`">Its distribution</RouterLink>
    </PageHead>
    <Trouble :error="query.error.value" />
    <template v-if="p">
      <section v-if="p.unopened.length" aria-label="Not opened yet">
        <h2 class="with">
          {{ plural(p.unopened.length, 'section') }} should have opened by now
          <span v-if="remind.isSuccess.value" class="soft" role="status">Their teachers see a reminder on Today.</span>
          <Button
            v-else-if="may('build')"
            label="Remind their teachers"
            size="small"
            severity="secondary"
            outlined
            :loading="remind.isPending.value"
            @click="remind.mutate()"
          />
        </h2>
        <Trouble :error="remind.error.value" />
        <LedgerTable label="Not opened yet">
          <thead>
            <tr>
              <th>School</th>
              <th>Section</th>
              <th>Teacher</th>
              <th>Since</th>
              <th class="num">Students</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="u in p.unopened" :key="u.sittingId">
              <td>{{ u.school }}</td>
              <td>
                <RouterLink :to="`/rooms/${u.sittingId}`">{{ u.section }}</RouterLink>
              </td>
              <td>{{ u.teacher || 'nobody' }}</td>
              <td>{{ moment(u.since) }}</td>
              <td class="num">{{ u.seats }}</td>
            </tr>
          </tbody>
        </LedgerTable>
      </section>
      <template v-if="makeups.data.value?.length">
        <h2>Makeups</h2>
        <LedgerTable label="Makeups">
          <thead>
            <tr>
              <th>Room</th>
              <th>When</th>
              <th>Proctor</th>
              <th class="num">Sections</th>
              <th class="num">Students</th>
              <th class="num double">Handed in</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="m in makeups.data.value" :key="m.roomId">
              <td>
                <RouterLink :to="`/rooms/${m.sittingId}`">{{ m.room }}</RouterLink>
              </td>
              <td>{{ windowOf(m.opensAt, m.closesAt) }}</td>
              <td>{{ m.proctor }}</td>
              <td class="num">{{ m.sections }}</td>
              <td class="num">{{ m.students }}</td>
              <td class="num double">{{ m.done }}</td>
            </tr>
          </tbody>
        </LedgerTable>
      </template>
      <h2>By school</h2>
      <LedgerTable label="Progress by school" banded>
        <thead>
          <tr>
            <th>School</th>
            <th class="num">Sections</th>
            <th class="num">Waiting</th>
            <th class="num">Open</th>
            <th class="num">Paused</th>
            <th class="num">Closed</th>
            <th class="num double">Students</th>
            <th class="num">Not begun</th>
            <th class="num">Working</th>
            <th class="num">Handed in</th>
            <th><span class="out-of-sight">Share handed in</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.schoolId">
            <td>
              {{ r.name }} <span v-if="r.late" class="resin">{{ r.late }} not opened</span>
            </td>
            <td class="num">{{ r.sections }}</td>
            <td class="num">{{ r.waiting || '–' }}</td>
            <td class="num">{{ r.open || '–' }}</td>
            <td class="num">{{ r.paused || '–' }}</td>
            <td class="num">{{ r.closed || '–' }}</td>
            <td class="num double">{{ r.students }}</td>
            <td class="num">{{ r.students - r.begun - r.done }}</td>
            <td class="num">{{ r.begun }}</td>
            <td class="num">{{ r.done }}</td>
            <td class="bar"><i :style="{ width: `${share(r.done, r.students)}%` }" aria-hidden="true" /></td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">{{ plural(rows.length, 'school') }}</th>
            <td class="num">{{ p.total.sections }}</td>
            <td class="num">{{ p.total.waiting }}</td>
            <td class="num">{{ p.total.open }}</td>
            <td class="num">{{ p.total.paused }}</td>
            <td class="num">{{ p.total.closed }}</td>
            <td class="num double">{{ p.total.students }}</td>
            <td class="num">{{ p.total.students - p.total.begun - p.total.done }}</td>
            <td class="num">{{ p.total.begun }}</td>
            <td class="num">{{ p.total.done }}</td>
            <td />
          </tr>
        </tfoot>
      </LedgerTable>
      <AbsentTable :assessment="id" :schools="rows" />
    </template>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
}
h2 {
  margin: 16px 0 6px;
}
.with {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
}
.with .soft {
  font: 400 13.5px var(--sans);
}
.bar {
  width: 110px;
}
.bar i {
  display: block;
  height: 10px;
  background: var(--pine);
}
</style>
