<script setup lang="ts">
/** A group's share beside that of all, expected and, where scores were got, observed: cells of a row. */
defineProps<{ expected: number; all: number; students: number; observed?: number; columns: boolean }>()
const percent = (n: number) => `${Math.round(100 * n)}%`
</script>

<template>
  <td class="num">{{ students.toLocaleString('en-US') }}</td>
  <td class="dots" aria-hidden="true">
    <span class="rail"
      ><i :style="{ left: percent(all) }" /><b :style="{ left: percent(expected) }" /><u
        v-if="observed !== undefined"
        :style="{ left: percent(observed) }"
    /></span>
  </td>
  <td class="num">{{ percent(expected) }}</td>
  <td v-if="columns" class="num">{{ observed === undefined ? '–' : percent(observed) }}</td>
</template>

<style scoped>
.dots {
  min-width: 86px;
}
.rail {
  position: relative;
  display: block;
  height: 14px;
  background: linear-gradient(var(--rule), var(--rule)) center / 100% 2px no-repeat;
}
.rail i {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 1px dashed var(--ink-soft);
}
.rail u {
  position: absolute;
  top: 1px;
  width: 12px;
  height: 12px;
  margin-left: -6px;
  border: 2px solid var(--ink);
  border-radius: 50%;
}
.rail b {
  position: absolute;
  top: 2px;
  width: 10px;
  height: 10px;
  margin-left: -5px;
  border-radius: 50%;
  background: var(--pine);
}
</style>
