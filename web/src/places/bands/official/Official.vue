<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { capital, gradeName } from '@/contract/format'
import { useSession } from '@/contract/session'
import ImportPanel from '@/places/rosters/ImportPanel.vue'
import * as assessmentQueries from '@/queries/assess'
import OfficialPanel from './OfficialPanel.vue'

/** What the state publishes of its tests; a table opens beside the list. */
const route = useRoute()
const router = useRouter()
const { may } = useSession()
const tables = useQuery(assessmentQueries.officialTables)
const chosen = computed(() => Number(route.params.id) || undefined)
const open = (id?: number) => router.push(`/bands/official${id ? `/${id}` : ''}`)
const importing = ref(false)
</script>

<template>
  <div class="page">
    <PageHead
      title="Official tables"
      note="How many raw points the state makes which scale score and which band, for each test, grade and year"
    >
      <RouterLink to="/bands">Band sets</RouterLink>
      <Button v-if="may('import')" label="Import files" @click="importing = true" />
    </PageHead>
    <Trouble :error="tables.error.value" />
    <Empty
      v-if="tables.data.value && !tables.data.value.length"
      text="Here are the tables that the state publishes after each test. Cuts that equal none of them are told on every assessment."
    >
      <Button v-if="may('import')" label="Import tables" size="small" @click="importing = true" />
    </Empty>
    <LedgerTable v-else label="Official tables" banded>
      <thead>
        <tr>
          <th>Year</th>
          <th>Subject</th>
          <th>Grade</th>
          <th>Test</th>
          <th class="num">Points</th>
          <th class="num">Bands</th>
          <th class="double">From</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(t, i) in tables.data.value"
          :key="t.id"
          :tabindex="i ? -1 : 0"
          :aria-selected="t.id === chosen"
          @click="open(t.id)"
        >
          <td class="nowrap">
            <strong>{{ t.year }}</strong>
          </td>
          <td>{{ capital(t.subject) }}</td>
          <td>{{ gradeName(t.grade) }}</td>
          <td>{{ t.test || '–' }}</td>
          <td class="num">{{ t.most }}</td>
          <td class="num">{{ t.bands }}</td>
          <td class="double cut" :title="t.source">{{ t.source }}</td>
        </tr>
      </tbody>
    </LedgerTable>
    <OfficialPanel v-if="chosen" :id="chosen" :key="chosen" @close="open()" />
    <ImportPanel v-if="importing" kind="tables" @close="importing = false" />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
}
.nowrap {
  white-space: nowrap;
}
</style>
