<script setup lang="ts">
import { computed } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Sheet } from '@/places/assessments/lines/lines'

/** What the blueprint plans less what the lines hold. */
const props = defineProps<{ sheet: Sheet; row?: number }>()
defineEmits<{ open: [row: number] }>()

const planned = computed(() => props.sheet.rows.reduce((n, r) => n + (r.byPoints ? 0 : r.min), 0))
const word = (balance: number) => (balance < 0 ? `short ${-balance}` : balance > 0 ? `over ${balance}` : 'even')
const whole = computed(() => {
  const { shortage, excess } = props.sheet
  if (!shortage && !excess) return 'even'
  return [shortage && `short ${shortage}`, excess && `over ${excess}`].filter(Boolean).join('\n')
})
</script>

<template>
  <LedgerTable label="Balance" banded>
    <thead>
      <tr>
        <th class="num">#</th>
        <th>Blueprint</th>
        <th class="num">Plan</th>
        <th class="num">Here</th>
        <th class="num double">Balance</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(r, i) in sheet.rows" :key="i" :tabindex="i ? -1 : 0" :aria-selected="i === row" @click="$emit('open', i)">
        <td class="num soft">{{ i + 1 }}</td>
        <td class="wide" :title="(r.filter.standards ?? []).join(', ')">
          {{ r.title || (r.filter.standards ?? []).join(', ') || `Row ${i + 1}` }}
        </td>
        <td class="num">{{ r.min }}{{ r.max > r.min ? `–${r.max}` : '' }}{{ r.byPoints ? ' pt' : '' }}</td>
        <td class="num">{{ r.placed }}</td>
        <td class="num double" :class="r.balance ? 'resin' : 'pine'">{{ word(r.balance) }}</td>
      </tr>
    </tbody>
    <tfoot>
      <tr>
        <td />
        <th>Items</th>
        <td class="num">{{ planned }}</td>
        <td class="num">{{ sheet.each }}</td>
        <td class="num double whole" :class="{ resin: whole !== 'even' }">{{ whole }}</td>
      </tr>
    </tfoot>
  </LedgerTable>
</template>

<style scoped>
.wide {
  width: 100%;
  line-height: 1.3;
}
.ledger :deep(td),
.ledger :deep(th) {
  padding: 0 6px;
}
.ledger :deep(.whole) {
  white-space: pre;
  line-height: 1.3;
  padding-block: 4px;
}
</style>
