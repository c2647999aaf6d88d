<script setup lang="ts">
import { computed } from 'vue'
import BandSwatch from '@/parts/BandSwatch.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import { tenths } from '@/contract/format'
import type { Schemas } from '@/contract/client'

/** Percent and raw side by side on one form. */
const props = defineProps<{ bands: Schemas['Band'][]; cuts: Schemas['Cuts'] }>()

const asSet = (b: Schemas['Band']) =>
  b.cut.percent !== undefined
    ? `${b.cut.percent}%`
    : b.cut.raw !== undefined
      ? `${b.cut.raw} points${b.cut.of ? ` of ${b.cut.of}` : ''}`
      : 'from 0'
const width = computed(() =>
  props.cuts.starts.map((s, i) => {
    const next = props.cuts.starts[i + 1]
    const to = next ? (next.raw ?? props.cuts.total) : props.cuts.total + props.cuts.grain
    return Math.max(0, Math.min(to, props.cuts.total + props.cuts.grain) - (s.raw ?? props.cuts.total))
  }),
)
const range = (i: number) => {
  const start = props.cuts.starts[i]
  if (start?.raw === undefined || !width.value[i]) return 'no score'
  const last = start.raw + (width.value[i] ?? 0) - props.cuts.grain
  return start.raw === last ? `${start.raw}` : `${start.raw} to ${Math.round(last * 100) / 100}`
}
</script>

<template>
  <LedgerTable label="Cuts on this form">
    <thead>
      <tr>
        <th>Band</th>
        <th class="num">As set</th>
        <th class="num">Cut, percent</th>
        <th class="num">Cut, points of {{ cuts.total }}</th>
        <th class="num double">Scores in the band</th>
        <th>Share of the scores</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(s, i) in cuts.starts" :key="s.name">
        <td><BandSwatch :at="i" :of="cuts.starts.length" />{{ s.name }}</td>
        <td class="num">{{ bands[i] ? asSet(bands[i]!) : '' }}</td>
        <td class="num">{{ s.raw === undefined ? '–' : tenths(s.percentTenths) }}</td>
        <td class="num">{{ s.raw ?? '–' }}</td>
        <td class="num double">{{ range(i) }}</td>
        <td>
          <span class="share" aria-hidden="true"
            ><span :style="{ width: `${(100 * (width[i] ?? 0)) / (cuts.total + cuts.grain)}%` }"
          /></span>
        </td>
      </tr>
    </tbody>
  </LedgerTable>
</template>

<style scoped>
.share {
  display: block;
  height: 8px;
  min-width: 120px;
  background: var(--tint-strong);
}
.share span {
  display: block;
  height: 100%;
  background: var(--pine);
}
</style>
