<script setup lang="ts">
import LedgerTable from '@/parts/LedgerTable.vue'
import Note from '@/parts/Note.vue'
import { plural } from '@/contract/format'
import PoolCount from './PoolCount.vue'
import type { DrawPool } from './usePool'
import { planned, rowName } from './rows'

/** What there is to draw from, before anything is drawn: a row that cannot be filled shows at once. */
defineProps<{ pool?: DrawPool; trouble: string }>()
</script>

<template>
  <section aria-label="What there is to draw from" aria-live="polite">
    <p v-if="trouble" class="brick">{{ trouble }}</p>
    <template v-else-if="pool">
      <p>
        <strong>{{ plural(pool.pool, 'item') }} to draw from</strong
        ><template v-if="pool.apart < pool.pool">, {{ pool.apart }} apart from near copies</template>.
      </p>
      <Note v-for="u in pool.uneven" :key="u.standard"
        ><span class="mono">{{ u.standard }}</span> has {{ u.have }} that fit, not {{ u.even }}; its rest goes to the
        others.</Note
      >
      <LedgerTable v-if="pool.rows.length > 1" label="Rows and what there is for them" banded>
        <thead>
          <tr>
            <th class="num">#</th>
            <th>Row</th>
            <th class="num">Plan</th>
            <th class="num double">Pool</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in pool.rows" :key="i">
            <td class="num soft">{{ i + 1 }}</td>
            <td class="cut" :title="rowName(r)">{{ rowName(r) }}</td>
            <td class="num">{{ planned(r) }}</td>
            <td class="num double"><PoolCount :row="r" /></td>
          </tr>
        </tbody>
      </LedgerTable>
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}
p {
  margin: 0;
}
</style>
