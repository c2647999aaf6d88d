<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import BandBar from '@/parts/BandBar.vue'
import Choose from '@/parts/Choose.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { capital, gradeName } from '@/contract/format'
import * as assessmentQueries from '@/queries/assess'

/** A table: its bands as a bar, where they begin, what moved since another year, and all its rows. */
const props = defineProps<{ id: number }>()
const emit = defineEmits<{ close: [] }>()
const beside = ref<number>()
const opened = useQuery(
  assessmentQueries.officialTable(
    computed(() => props.id),
    beside,
  ),
)
const t = computed(() => opened.data.value)
const title = computed(() =>
  t.value
    ? `${capital(t.value.table.subject)}, grade ${gradeName(t.value.table.grade)}, ${t.value.table.year}`
    : 'Official table',
)
/** How many raw scores each band has, in the order of the table. */
const counts = computed(() => {
  const out = new Map<string, number>()
  for (const r of t.value?.rows ?? []) out.set(r.band, (out.get(r.band) ?? 0) + 1)
  return [...out]
})
const years = computed(() => [
  { value: 0, label: 'no other year' },
  ...(t.value?.others ?? []).map((o) => ({ value: o.id, label: [o.year, o.test].filter(Boolean).join(', ') })),
])
function moved(percent: number, before?: number) {
  if (before === undefined) return 'new'
  const by = Math.round((percent - before) * 100) / 100
  return by === 0 ? 'the same' : `${by > 0 ? '+' : '−'}${Math.abs(by)}`
}
</script>

<template>
  <SidePanel :title="title" width="max(520px, 42vw)" @close="emit('close')">
    <Trouble :error="opened.error.value" />
    <template v-if="t">
      <p class="soft">
        {{ t.table.test ? `${t.table.test} · ` : '' }}{{ t.table.most }} points · from {{ t.table.source }} ·
        <a :href="`/api/official-tables/${id}/rows.csv`" download>Export as CSV</a>
      </p>
      <BandBar v-if="counts.length > 1" :counts="counts.map(([, n]) => n)" :names="counts.map(([name]) => name)" />
      <p v-if="counts.length > 1" class="soft">The number of raw scores in each band.</p>
      <div v-if="t.others.length" class="beside">
        <span id="beside" class="label">Beside</span>
        <Choose
          :model-value="beside ?? 0"
          :options="years"
          aria-labelledby="beside"
          @update:model-value="(v?: number) => (beside = v || undefined)"
        />
      </div>
      <LedgerTable v-if="t.cuts.length" label="Where bands begin">
        <thead>
          <tr>
            <th>Band</th>
            <th class="num">From raw</th>
            <th class="num">Percent of {{ t.table.most }}</th>
            <th class="num">Scale</th>
            <template v-if="beside">
              <th class="num double">Percent there</th>
              <th class="num">Moved</th>
            </template>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in t.cuts" :key="c.band">
            <td>{{ c.band }}</td>
            <td class="num">{{ c.raw }}</td>
            <td class="num">{{ c.percent }}</td>
            <td class="num">{{ c.scale ?? '–' }}</td>
            <template v-if="beside">
              <td class="num double">{{ c.before ?? '–' }}</td>
              <td class="num">{{ moved(c.percent, c.before) }}</td>
            </template>
          </tr>
        </tbody>
      </LedgerTable>
      <h3>All rows</h3>
      <LedgerTable label="Rows of the table" banded>
        <thead>
          <tr>
            <th class="num">Raw</th>
            <th class="num">Scale</th>
            <th class="double">Band</th>
            <th class="num">Line in the file</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in t.rows" :key="r.raw">
            <td class="num">{{ r.raw }}</td>
            <td class="num">{{ r.scale ?? '–' }}</td>
            <td class="double">{{ r.band || '–' }}</td>
            <td class="num soft">{{ r.line }}</td>
          </tr>
        </tbody>
      </LedgerTable>
    </template>
  </SidePanel>
</template>

<style scoped>
.beside {
  display: flex;
  align-items: center;
  gap: 8px;
  margin: 10px 0;
}
h3 {
  margin: 18px 0 6px;
}
</style>
