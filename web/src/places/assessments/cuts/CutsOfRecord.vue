<script setup lang="ts">
import { computed } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Schemas } from '@/contract/client'
import { moment } from '@/contract/format'

/** How the cuts of results became what they are, the newest first; earlier ones can be weighed again. */
const props = defineProps<{ history: Schemas['CutsHistory'] }>()
const newest = computed(() => [...props.history.versions].reverse())
const emit = defineEmits<{ weigh: [bands: Schemas['Band'][]] }>()
</script>

<template>
  <section v-if="history.versions.length > 1" aria-labelledby="of-record">
    <h2 id="of-record">Cuts of edition {{ history.edition }}, the newest first</h2>
    <LedgerTable label="Cuts of record">
      <thead>
        <tr>
          <th>Since</th>
          <th>By</th>
          <th v-for="s in history.versions[0]!.cuts.starts.slice(1)" :key="s.name" class="num">{{ s.name }}</th>
          <th class="num double">Moved</th>
          <th>Reason</th>
          <th><span class="out-of-sight">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(v, i) in newest" :key="v.id">
          <td>{{ moment(v.at) }}</td>
          <td>{{ v.by || 'sealed with the form' }}</td>
          <td v-for="s in v.cuts.starts.slice(1)" :key="s.name" class="num">{{ s.raw ?? '–' }}</td>
          <td class="num double">{{ v.id ? v.changed : '' }}</td>
          <td>{{ v.reason }}</td>
          <td>
            <span v-if="i === 0">in force</span>
            <button v-else type="button" class="link-button" @click="emit('weigh', v.bands)">Weigh these again</button>
          </td>
        </tr>
      </tbody>
    </LedgerTable>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 14px;
}
.link-button {
  white-space: nowrap;
}
h2 {
  margin: 18px 0 6px;
  font: 600 14px var(--sans);
}
</style>
