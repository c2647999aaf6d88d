<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { RouterLink, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { capital, gradesName, windowOf } from '@/contract/format'
import * as resultQueries from '@/queries/results'

const router = useRouter()
const results = useQuery(resultQueries.results)
</script>

<template>
  <div class="page">
    <PageHead title="Results" note="What has been sent, newest window first" />
    <Trouble :error="results.error.value" />
    <Empty
      v-if="results.data.value && !results.data.value.length"
      text="Results appear here once an assessment is sent to sections you can see."
    />
    <LedgerTable v-else label="Results" banded>
      <thead>
        <tr>
          <th>Assessment</th>
          <th>Subject</th>
          <th>For</th>
          <th>Window</th>
          <th class="num">Sections</th>
          <th class="num">Students</th>
          <th class="num">Begun</th>
          <th class="num double">Handed in</th>
          <th class="num">Not scored yet</th>
          <th>Share</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in results.data.value" :key="r.id" :tabindex="i ? -1 : 0" @click="router.push(`/results/${r.id}`)">
          <td class="cut">
            <RouterLink :to="`/results/${r.id}`" tabindex="-1">{{ r.title }}</RouterLink>
          </td>
          <td>{{ capital(r.subject) }}</td>
          <td class="nowrap">{{ gradesName(r.grades) }}</td>
          <td class="nowrap">{{ windowOf(r.opensAt, r.closesAt) }}</td>
          <td class="num">{{ r.sections }}</td>
          <td class="num">{{ r.seats }}</td>
          <td class="num">{{ r.begun }}</td>
          <td class="num double">{{ r.scored + r.waiting }}</td>
          <td class="num">{{ r.waiting || '' }}</td>
          <td>
            <span class="share" aria-hidden="true"
              ><span :style="{ width: `${(100 * (r.scored + r.waiting)) / r.seats}%` }"
            /></span>
          </td>
        </tr>
      </tbody>
    </LedgerTable>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
.nowrap {
  white-space: nowrap;
}
.share {
  display: block;
  width: 90px;
  height: 8px;
  background: var(--lichen);
}
.share span {
  display: block;
  height: 100%;
  background: var(--pine);
}
</style>
