<script setup lang="ts">
import { computed, ref } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Schemas } from '@/contract/client'
import RatingField from './RatingField.vue'
import { none } from './useJudging'

/** Lines and cuts: one field each, and below what a judge's ratings add up to. */
const props = defineProps<{
  asked: Schemas['PanelAsked']
  rated: number[][]
  tens: boolean
  disabled: boolean
  at: number
}>()
const emit = defineEmits<{ give: [cut: number, line: number, value: number]; look: [line: number] }>()

const fields = ref<Record<string, InstanceType<typeof RatingField> | null>>({})
function go(cut: number, line: number, down: number) {
  const to = line + down
  if (to >= 0 && to < props.asked.lines.length) fields.value[`${cut}/${to}`]?.focus()
  else if (to >= props.asked.lines.length && cut + 1 < props.asked.cuts.length) fields.value[`${cut + 1}/0`]?.focus()
}
/** A cut's ratings as points, as far as they are given. */
const sums = computed(() =>
  props.rated.map((shares) =>
    shares.reduce((sum, share, l) => sum + (share === none ? 0 : (share * props.asked.lines[l]!.points) / 100), 0),
  ),
)
</script>

<template>
  <div class="rows">
    <LedgerTable label="Ratings" banded>
      <thead>
        <tr>
          <th class="num">Line</th>
          <th>Item</th>
          <th class="num">Points</th>
          <th v-for="(c, i) in asked.cuts" :key="c" class="num" :class="{ double: !i }">{{ c }}, %</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(l, n) in asked.lines" :key="n" :aria-selected="n === at" @click="emit('look', n)">
          <td class="num">{{ n + 1 }}</td>
          <td class="mono">{{ l.identifier }}</td>
          <td class="num">{{ l.points }}</td>
          <td v-for="(c, cut) in asked.cuts" :key="c" class="num" :class="{ double: !cut }">
            <RatingField
              :ref="(el) => (fields[`${cut}/${n}`] = el as InstanceType<typeof RatingField> | null)"
              :label="`Line ${n + 1}, ${c}, percent`"
              :value="rated[cut]![n]!"
              :tens="tens"
              :disabled="disabled"
              @give="(value) => emit('give', cut, n, value)"
              @go="(down) => go(cut, n, down)"
              @look="emit('look', n)"
            />
          </td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <th colspan="2">Points of a student at the cut</th>
          <td class="num">{{ asked.total }}</td>
          <td v-for="(sum, i) in sums" :key="i" class="num" :class="{ double: !i }">{{ sum.toFixed(1) }}</td>
        </tr>
      </tfoot>
    </LedgerTable>
  </div>
</template>

<style scoped>
.rows {
  overflow-x: auto;
}
</style>
