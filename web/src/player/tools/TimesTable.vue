<script setup lang="ts">
import Pane from './Pane.vue'
import { t } from '@/words'

/** Products from 1 to 12. */
const emit = defineEmits<{ close: [] }>()
const numbers = Array.from({ length: 12 }, (_, i) => i + 1)
</script>

<template>
  <Pane :title="t('tools.table')" @close="emit('close')">
    <div class="scroll" tabindex="0" role="region" :aria-label="t('tools.table')">
      <table>
        <thead>
          <tr>
            <th scope="col">×</th>
            <th v-for="n in numbers" :key="n" scope="col">{{ n }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in numbers" :key="m">
            <th scope="row">{{ m }}</th>
            <td v-for="n in numbers" :key="n">{{ m * n }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </Pane>
</template>

<style scoped>
.scroll {
  overflow: auto;
}
table {
  border-collapse: collapse;
  font: 13px var(--reading);
  font-variant-numeric: tabular-nums;
}
th,
td {
  min-width: 23px;
  padding: 3px 2px;
  text-align: right;
  border-bottom: 1px solid var(--rule);
}
th {
  font-weight: 700;
  background: var(--tint);
}
tr > th:first-child {
  border-right: 1px solid var(--rule-strong);
}
</style>
