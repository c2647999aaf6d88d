<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { plural } from '@/contract/format'

/** The students whose score is so near a cut that another day could put them on its other side. */
const props = defineProps<{ assessment: number; stamp: number }>()
const open = ref(false)
const near = useQuery({
  queryKey: ['near-cuts', computed(() => props.assessment), computed(() => props.stamp)],
  queryFn: () => call(api.GET('/assessments/{id}/near-cuts', { params: { path: { id: props.assessment } } })),
  enabled: open,
})
/** As a row of people reads it: "2 below", "at the cut", "1.5 above". */
const distance = (raw: number, cut: number) => {
  const by = Math.round((raw - cut) * 100) / 100
  return by === 0 ? 'at the cut' : by > 0 ? `${by} above` : `${-by} below`
}
</script>

<template>
  <details @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary>Students near a cut, by name</summary>
    <Trouble :error="near.error.value" />
    <p v-if="near.data.value && !near.data.value.length" class="soft">
      Too little is known of these lines to tell the error of a score.
    </p>
    <p v-if="near.data.value?.length">
      <a :href="`/api/assessments/${assessment}/near-cuts.csv`" download>Export as CSV</a>
    </p>
    <section v-for="n in near.data.value" :key="n.band">
      <h3>
        {{ n.band }}
        <span class="soft"
          >{{ plural(n.count, 'student') }} within {{ n.error.toFixed(1) }} of {{ n.cut
          }}{{ n.students.length < n.count ? `, the first ${n.students.length}` : '' }}</span
        >
      </h3>
      <div v-if="n.students.length" class="names" tabindex="0" role="group" :aria-label="`Near ${n.band}`">
        <LedgerTable :label="`Students near ${n.band}`" banded>
          <thead>
            <tr>
              <th>Student</th>
              <th>Number</th>
              <th>School</th>
              <th>Section</th>
              <th class="num double">Points</th>
              <th class="num">From the cut</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in n.students" :key="`${s.number}/${s.section}`">
              <td>{{ s.student }}</td>
              <td class="mono">{{ s.number }}</td>
              <td>{{ s.school }}</td>
              <td>{{ s.section }}</td>
              <td class="num double">{{ s.raw }}</td>
              <td class="num">{{ distance(s.raw, n.cut) }}</td>
            </tr>
          </tbody>
        </LedgerTable>
      </div>
    </section>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  font-weight: 600;
  padding: 4px 0;
}
h3 {
  margin: 10px 0 4px;
  font: 600 13.5px var(--sans);
}
h3 .soft {
  font-weight: 400;
  margin-left: 6px;
}
.names {
  max-height: 300px;
  overflow: auto;
}
details {
  margin: 10px 0;
}
</style>
