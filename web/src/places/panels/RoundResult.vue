<script setup lang="ts">
import LedgerTable from '@/parts/LedgerTable.vue'
import BandBar from '@/parts/BandBar.vue'
import type { Schemas } from '@/contract/client'
import CutDots from './CutDots.vue'
import { unitOf, valued } from './words'

/** What came of a round: where judges put each cut, how far they agree, and what the cuts would do. */
defineProps<{ result: Schemas['PanelResult']; method: Schemas['PanelMethod']; total: number }>()
const tenths = (n: number) => `${(n / 10).toFixed(1)}%`
</script>

<template>
  <CutDots :cuts="result.cuts" :method="method" :total="total" />
  <LedgerTable label="Cuts of this round">
    <thead>
      <tr>
        <th>Cut</th>
        <th class="num">Mean</th>
        <th class="num">Median</th>
        <th class="num" title="Standard deviation of the judges’ values">SD</th>
        <th class="num" title="Standard error of the cut">SE</th>
        <th class="num">Range, {{ unitOf(method) }}</th>
        <th class="num double">Raw score of {{ total }}</th>
        <th class="num">Percent</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="c in result.cuts" :key="c.name">
        <td>{{ c.name }}</td>
        <td class="num">{{ valued(c.mean, method) }}</td>
        <td class="num">{{ valued(c.median, method) }}</td>
        <td class="num">{{ c.sd === undefined ? '–' : c.sd.toFixed(2) }}</td>
        <td class="num">{{ c.se === undefined ? '–' : c.se.toFixed(2) }}</td>
        <td class="num">{{ valued(c.low, method) }} to {{ valued(c.high, method) }}</td>
        <td class="num double">
          <strong>{{ c.raw }}</strong>
        </td>
        <td class="num">{{ tenths(c.percentTenths) }}</td>
      </tr>
    </tbody>
  </LedgerTable>
  <template v-if="result.shares.length">
    <p class="soft shares-note">Of 100 students, expected in each band with these cuts:</p>
    <BandBar :counts="result.shares.map((s) => Math.round(100 * s.share))" :names="result.shares.map((s) => s.name)" />
  </template>
</template>

<style scoped>
.shares-note {
  margin: 12px 0 4px;
}
</style>
