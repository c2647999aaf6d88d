<script setup lang="ts">
import { computed } from 'vue'
import { plural } from '@/contract/format'
import type { Sheet } from './lines'

/** The head of a pool between the lines: how many of them each student gets, and where those count. */
const props = defineProps<{ number: number; sheet: Sheet; columns: number }>()
const emit = defineEmits<{ open: [] }>()
const pool = computed(() => props.sheet.layout.pools[props.number - 1])
const state = computed(() => props.sheet.poolStates[props.number - 1])
const part = computed(() => props.sheet.lines.find((l) => l.pool === props.number)?.part)
const counts = computed(() => (state.value?.counts ?? []).flatMap((n, row) => (n ? [`${n} in row ${row + 1}`] : [])).join(', '))
</script>

<template>
  <tr v-if="pool && state" class="pool" :data-part="part" :data-pool="number" data-head>
    <th :colspan="columns" scope="colgroup">
      <span class="inside">
        <button type="button" class="link-button" @click="emit('open')">
          {{ pool.choose }} of these {{ state.lines }} for each student
        </button>
        <span v-if="pool.title">{{ pool.title }}</span>
        <span v-if="sheet.rows.length" class="soft">{{
          counts ? `counts ${counts}` : 'counts in no row: its lines meet no row together'
        }}</span>
        <span class="soft right">{{ plural(state.points, 'point') }}</span>
      </span>
    </th>
  </tr>
</template>

<style scoped>
.pool th {
  text-align: left;
  font-weight: 400;
  box-shadow: inset 3px 0 0 var(--slate);
  padding-left: 30px;
}
.inside {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.right {
  margin-left: auto;
}
</style>
