<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watchEffect } from 'vue'
import { RouterLink } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { capital } from '@/contract/format'
import * as bankQueries from '@/queries/bank'
import BankTabs from '../BankTabs.vue'
import RealignRow from './RealignRow.vue'

/** The frameworks beside each other, and what of one is to be aligned to another. */
const frameworks = useQuery({ ...bankQueries.frameworks, staleTime: 60_000 })
const list = computed(() => frameworks.data.value ?? [])
const from = ref<number>()
const to = ref<number>()
watchEffect(() => {
  from.value ??= list.value[0]?.id
  if (!to.value || to.value === from.value) to.value = list.value.find((f) => f.id !== from.value)?.id
})
const rows = useQuery({
  queryKey: ['realignments', from, to],
  queryFn: () =>
    call(api.GET('/frameworks/{id}/realignments', { params: { path: { id: from.value! }, query: { to: to.value! } } })),
  enabled: computed(() => !!from.value && !!to.value && from.value !== to.value),
})
const proposed = computed(() => (rows.data.value ?? []).filter((r) => r.proposals.length).length)
</script>

<template>
  <div>
    <BankTabs />
    <div class="page">
      <Trouble :error="frameworks.error.value ?? rows.error.value" />
      <LedgerTable v-if="list.length" label="Frameworks" banded>
        <thead>
          <tr>
            <th>Framework</th>
            <th>Subject</th>
            <th>Edition</th>
            <th class="num double">Standards</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in list" :key="f.id">
            <td class="cut">{{ f.title }}</td>
            <td>{{ capital(f.subject) }}</td>
            <td>{{ f.version }}</td>
            <td class="num double">{{ f.standards }}</td>
          </tr>
        </tbody>
      </LedgerTable>
      <p class="soft">
        Frameworks come in as CASE files under Import files, with their crosswalks to others. A search by a standard goes through
        them. Where a new edition uses a code of an older one, its own are marked, as in
        <span class="mono">M6.RR.1@2028</span>.
      </p>

      <section v-if="list.length > 1" aria-labelledby="again">
        <h2 id="again">Align again</h2>
        <p class="row">
          <label
            >Items aligned to
            <select v-model="from">
              <option v-for="f in list" :key="f.id" :value="f.id">{{ f.title }}</option>
            </select></label
          >
          <label
            >are to be aligned to
            <select v-model="to">
              <option v-for="f in list.filter((x) => x.id !== from)" :key="f.id" :value="f.id">{{ f.title }}</option>
            </select></label
          >
          <span v-if="rows.data.value" class="soft" aria-live="polite"
            >{{ rows.data.value.length }} standards have items; links propose something for {{ proposed }} of them</span
          >
        </p>
        <Empty v-if="rows.data.value && !rows.data.value.length" text="No item is aligned to this framework." />
        <LedgerTable v-else-if="rows.data.value" label="Align again">
          <thead>
            <tr>
              <th>Standard</th>
              <th class="num double">Items</th>
              <th>Align to</th>
              <th><span class="out-of-sight">Do it</span></th>
            </tr>
          </thead>
          <tbody>
            <RealignRow v-for="r in rows.data.value" :key="`${to}-${r.id}`" :row="r" @done="rows.refetch()" />
          </tbody>
        </LedgerTable>
      </section>
      <Empty v-else-if="frameworks.isSuccess.value && !list.length" text="There are no standards yet. Import a CASE file first.">
        <RouterLink to="/rosters">Import files</RouterLink>
      </Empty>
    </div>
  </div>
</template>

<style scoped>
.page {
  padding: 0 18px 40px;
}
section {
  margin-top: 22px;
}
select {
  padding: 2px 28px 2px 6px;
  max-width: 300px;
}
.row {
  flex-wrap: wrap;
}
</style>
