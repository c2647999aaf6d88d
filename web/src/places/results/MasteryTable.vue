<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import BandBar from '@/parts/BandBar.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { plural, runs } from '@/contract/format'

/** How many students have mastered which standard; standards with too few points are named and not told. */
const props = defineProps<{ id: number }>()
const query = useQuery({
  queryKey: ['mastery-results', computed(() => props.id)],
  queryFn: () => call(api.GET('/results/{id}/mastery', { params: { path: { id: props.id } } })),
})
const m = computed(() => query.data.value)
/** The part of all students who are in the highest band. */
function share(bands: number[]) {
  const all = bands.reduce((a, b) => a + b, 0)
  return all ? `${Math.round((100 * bands.at(-1)!) / all)}%` : '–'
}
const waits = computed(() => m.value?.standards.some((s) => s.waiting))
</script>

<template>
  <Trouble :error="query.error.value" />
  <section v-if="m?.set" aria-labelledby="mastery">
    <h2 id="mastery">
      Mastery by standard <span class="soft">{{ m.set }}</span>
    </h2>
    <LedgerTable label="Mastery by standard" banded>
      <thead>
        <tr>
          <th>Standard</th>
          <th>Lines</th>
          <th class="num">Points</th>
          <th class="double">{{ m.bands.join(', ') }}</th>
          <th class="num" :title="`Students who are in the band ${m.bands.at(-1)}`">{{ m.bands.at(-1) }}</th>
          <th v-if="waits" class="num">Not scored yet</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in m.standards" :key="s.standard.code">
          <td class="cut" :title="s.standard.text">
            <span class="mono">{{ s.standard.code }}</span> {{ s.standard.text }}
          </td>
          <td class="nowrap">{{ runs(s.standard.lines) }}</td>
          <td class="num">{{ s.standard.points }}</td>
          <td class="double"><BandBar :counts="s.bands" :names="m.bands" /></td>
          <td class="num">{{ share(s.bands) }}</td>
          <td v-if="waits" class="num">{{ s.waiting || '' }}</td>
        </tr>
      </tbody>
    </LedgerTable>
    <p v-if="m.tooFew.length" class="soft">
      Not told: {{ plural(m.tooFew.length, 'standard') }} with fewer than {{ m.least }} points,
      {{ m.tooFew.map((s) => `${s.code} (${s.points})`).join(', ') }}.
    </p>
  </section>
</template>

<style scoped>
.nowrap {
  white-space: nowrap;
}
section {
  margin-top: 24px;
}
h2 {
  margin: 0 0 6px;
  font: 600 15px var(--sans);
}
h2 .soft {
  font-weight: 400;
  margin-left: 8px;
}
</style>
