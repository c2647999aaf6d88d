<script setup lang="ts">
import { pValue } from '@/contract/format'

/** A p-value in thousandths as a small bar with its figure. */
defineProps<{ value: number | undefined }>()
</script>

<template>
  <span class="difficulty">
    <span v-if="value !== undefined" class="bar" aria-hidden="true"><span :style="{ width: `${value / 10}%` }" /></span>
    {{ pValue(value) }}
  </span>
</template>

<style scoped>
.difficulty {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
.bar {
  width: 34px;
  height: 7px;
  background: var(--rule);
  display: inline-block;
}
.bar span {
  display: block;
  height: 100%;
  background: var(--pine);
}
</style>
