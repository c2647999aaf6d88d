<script setup lang="ts">
import './bands.css'
import { computed } from 'vue'
import { bandClass, bandStyle } from './bands'

/** How many scores are in each band, as one bar. */
const props = defineProps<{ counts: number[]; names: string[] }>()

const total = computed(() => props.counts.reduce((a, b) => a + b, 0))
const words = computed(() => props.counts.map((n, i) => `${props.names[i] ?? ''} ${n}`).join(', '))
</script>

<template>
  <div class="bar" role="img" :aria-label="total ? words : 'no scores yet'">
    <template v-for="(n, i) in counts" :key="i">
      <span
        v-if="n"
        :class="bandClass(i, counts.length)"
        :style="{ ...bandStyle(i, counts.length), flexGrow: n }"
        :title="`${names[i]}: ${n} of ${total}`"
      >
        <b>{{ n }}</b>
      </span>
    </template>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  height: 18px;
  min-width: 220px;
}
.bar > span {
  flex-basis: 0;
  min-width: max-content;
  display: grid;
  place-items: center;
  border: 1px solid var(--rule-strong);
  border-left-width: 0;
}
.bar > span:first-child {
  border-left-width: 1px;
}
b {
  font-size: 11px;
  line-height: 13px;
  font-weight: 700;
  color: #14322b;
  background: #ffffffd9;
  padding: 0 3px;
  border-radius: 2px;
}
</style>
