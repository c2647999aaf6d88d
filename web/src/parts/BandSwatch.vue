<script setup lang="ts">
import './bands.css'
import { bandClass, bandStyle } from './bands'

defineProps<{ at: number; of: number }>()
</script>

<template>
  <span class="swatch" :class="bandClass(at, of)" :style="bandStyle(at, of)" aria-hidden="true" />
</template>

<style scoped>
.swatch {
  display: inline-block;
  width: 16px;
  height: 14px;
  vertical-align: -2px;
  margin-right: 6px;
  border: 1px solid var(--rule-strong);
}
</style>
