<script setup lang="ts">
import { computed, ref } from 'vue'
import Choose from '@/parts/Choose.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Schemas } from '@/contract/client'

/** How judges rated each line for a cut: the mean, how far they lie apart, and one's own rating beside it. */
const props = defineProps<{
  lines: Schemas['PanelRated'][]
  cuts: string[]
  names: string[]
  /** By cut and line, in percent; -1 for none. */
  own?: number[][]
}>()
const cut = ref(0)
const rows = computed(() =>
  props.lines.map((l, i) => ({
    mean: l.mean[cut.value]!,
    sd: l.sd[cut.value]!,
    own: props.own?.[cut.value]?.[i] ?? -1,
    name: props.names[i]!,
  })),
)
const percent = (n: number) => `${Math.round(100 * n)}%`
</script>

<template>
  <div class="top">
    <h3>Line by line</h3>
    <Choose v-model="cut" :options="cuts.map((label, value) => ({ value, label }))" aria-label="Cut" />
  </div>
  <LedgerTable label="Ratings line by line" banded>
    <thead>
      <tr>
        <th class="num">Line</th>
        <th>Item</th>
        <th class="num">Mean</th>
        <th class="spread">0 to 100%</th>
        <th class="num" title="Standard deviation of the ratings">SD</th>
        <th v-if="own" class="num double">Your own</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(r, i) in rows" :key="i">
        <td class="num">{{ i + 1 }}</td>
        <td class="mono">{{ r.name }}</td>
        <td class="num">{{ percent(r.mean) }}</td>
        <td class="spread" aria-hidden="true">
          <span class="rail">
            <i
              v-if="r.sd >= 0"
              :style="{ left: percent(Math.max(0, r.mean - r.sd)), right: percent(1 - Math.min(1, r.mean + r.sd)) }"
            />
            <b :style="{ left: percent(r.mean) }" />
            <u v-if="r.own >= 0" :style="{ left: `${r.own}%` }" />
          </span>
        </td>
        <td class="num" :class="{ resin: r.sd > 0.15 }">{{ r.sd < 0 ? '–' : percent(r.sd) }}</td>
        <td v-if="own" class="num double">{{ r.own < 0 ? '–' : `${r.own}%` }}</td>
      </tr>
    </tbody>
  </LedgerTable>
  <p class="soft">
    The bar is one standard deviation to both sides of the mean{{ own ? '; the ring is your own rating' : '' }}. Lines on which
    judges lie more than 15% apart are worth talking about.
  </p>
</template>

<style scoped>
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin: 14px 0 6px;
}
h3 {
  margin: 0;
  font: 600 14px var(--sans);
}
.spread {
  min-width: 130px;
}
.rail {
  position: relative;
  display: block;
  height: 14px;
  background: linear-gradient(var(--rule), var(--rule)) center / 100% 1px no-repeat;
}
.rail > * {
  position: absolute;
}
.rail i {
  top: 5px;
  height: 4px;
  background: var(--rule-strong);
}
.rail b {
  top: 2px;
  width: 3px;
  height: 10px;
  margin-left: -1px;
  background: var(--ink);
}
.rail u {
  top: 2px;
  width: 10px;
  height: 10px;
  margin-left: -5px;
  border: 2px solid var(--pine);
  border-radius: 50%;
}
</style>
