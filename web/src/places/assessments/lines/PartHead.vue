<script setup lang="ts">
import { computed } from 'vue'
import { plural } from '@/contract/format'
import type { Sheet } from './lines'

/** The head of a part between the lines: its title, its tools, what it is worth. */
const props = defineProps<{ number: number; sheet: Sheet; columns: number }>()
const emit = defineEmits<{ open: [] }>()
const part = computed(() => props.sheet.layout.parts[props.number - 1])
const lines = computed(() => props.sheet.lines.filter((l) => l.part === props.number).length)
</script>

<template>
  <tr v-if="part" class="part" :data-part="number" data-head>
    <th :colspan="columns" scope="colgroup">
      <span class="inside">
        <span>Part {{ number }}</span>
        <button type="button" class="link-button title" @click="emit('open')">{{ part.title }}</button>
        <span class="soft">{{ part.calculator ? 'with a calculator' : 'no calculator' }}</span>
        <span class="soft right">{{ lines ? plural(sheet.worth[number - 1] ?? 0, 'point') : 'no lines yet' }}</span>
      </span>
    </th>
  </tr>
</template>

<style scoped>
.part th {
  background: var(--paper);
  border-top: 2px solid var(--rule-strong);
  text-align: left;
  font-weight: 600;
}
.inside {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.title {
  font-weight: 600;
}
.soft {
  font-weight: 400;
}
.right {
  margin-left: auto;
}
</style>
