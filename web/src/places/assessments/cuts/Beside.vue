<script setup lang="ts">
import { computed } from 'vue'
import BandSwatch from '@/parts/BandSwatch.vue'
import Choose from '@/parts/Choose.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import type { Schemas } from '@/contract/client'

/** What the cuts of another set would do here, beside those that stand. */
const props = defineProps<{
  sets: Schemas['BandSet'][]
  other?: Schemas['BandSet']
  forecast?: Schemas['Forecast']
  error: Error | null
}>()
const emit = defineEmits<{ choose: [set?: Schemas['BandSet']] }>()
const options = computed(() => [{ value: 0, label: 'none' }, ...props.sets.map((s) => ({ value: s.id, label: s.name }))])
const share = (n?: number) => (n === undefined ? '–' : `${(100 * n).toFixed(1)}%`)
</script>

<template>
  <section v-if="sets.length" aria-labelledby="beside">
    <div class="top">
      <h2 id="beside">Another set beside these cuts</h2>
      <Choose
        :model-value="other?.id ?? 0"
        :options="options"
        aria-label="Another set"
        @update:model-value="
          (id?: number) =>
            emit(
              'choose',
              sets.find((s) => s.id === id),
            )
        "
      />
    </div>
    <Trouble :error="error" />
    <LedgerTable v-if="other && forecast" :label="`With the cuts of ${other.name}`">
      <thead>
        <tr>
          <th>{{ other.name }}</th>
          <th class="num">Cut, points of {{ forecast.cuts.total }}</th>
          <th class="num double">Expected share</th>
          <th class="num">Students</th>
          <th v-if="forecast.observed" class="num double">Observed share</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in forecast.cuts.starts" :key="s.name">
          <td><BandSwatch :at="i" :of="forecast.cuts.starts.length" />{{ s.name }}</td>
          <td class="num">{{ s.raw ?? '–' }}</td>
          <td class="num double">{{ share(forecast.all?.bands[i]?.share) }}</td>
          <td class="num">{{ forecast.all ? Math.round(forecast.all.bands[i]!.count).toLocaleString('en-US') : '–' }}</td>
          <td v-if="forecast.observed" class="num double">{{ share(forecast.observed.bands[i]?.share) }}</td>
        </tr>
      </tbody>
    </LedgerTable>
  </section>
</template>

<style scoped>
section {
  margin-top: 18px;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  margin-bottom: 6px;
}
h2 {
  margin: 0;
  font: 600 14px var(--sans);
}
</style>
