<script setup lang="ts">
import { computed } from 'vue'
import './bars.css'
import { gradeName } from '@/contract/format'
import type { Calendar } from './calendar'

/** What the windows take of a student in each week: the mean over the grade. */
const props = defineProps<{ calendar: Calendar; weeks: string[] }>()
const grades = computed(() => [...new Set(props.calendar.loads.map((l) => l.grade))])
const of = computed(() => new Map(props.calendar.loads.map((l) => [`${l.grade} ${l.week}`, l.minutes])))
const minutes = (grade: string, week: string) => Math.round(of.value.get(`${grade} ${week}`) ?? 0)
const most = computed(() => Math.max(1, ...props.calendar.loads.map((l) => l.minutes)))
const sum = (grade: string) =>
  Math.round(props.calendar.loads.filter((l) => l.grade === grade).reduce((n, l) => n + l.minutes, 0))
</script>

<template>
  <div v-if="grades.length" class="across">
    <table class="ledger loads" :class="{ dense: weeks.length > 26 }" aria-label="Minutes for each student by grade and week">
      <caption>
        <strong>Load: minutes for each student in the week, </strong>
        <span class="soft">the mean over the grade</span>
      </caption>
      <colgroup>
        <col class="grade" />
        <col v-for="w in weeks" :key="w" />
        <col class="all" />
      </colgroup>
      <thead class="out-of-sight">
        <tr>
          <th>Grade</th>
          <th v-for="w in weeks" :key="w">Week of {{ w }}</th>
          <th>All</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="g in grades" :key="g">
          <th scope="row">Grade {{ gradeName(g) }}</th>
          <td v-for="w in weeks" :key="w" class="load">
            <template v-if="minutes(g, w)"
              ><i aria-hidden="true" :style="{ height: `${Math.max(2, (minutes(g, w) / most) * 22)}px` }" />{{
                minutes(g, w)
              }}</template
            >
          </td>
          <td class="num double all">{{ sum(g) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.across {
  overflow-x: auto;
}
.loads {
  table-layout: fixed;
  min-width: 860px;
  margin-top: 14px;
  border-top: 3px double var(--ink);
  border-bottom: 3px double var(--ink);
}
caption {
  text-align: left;
  padding: 6px 8px;
}
.loads th:first-child {
  white-space: nowrap;
}
.load {
  padding: 0 2px !important;
  white-space: nowrap;
  font-variant-numeric: tabular-nums;
  vertical-align: bottom !important;
}
.load i {
  display: inline-block;
  width: 6px;
  margin-right: 3px;
  background: var(--ink-soft);
  vertical-align: bottom;
}
.dense .load {
  font-size: 11px;
  text-align: center;
}
.dense .load i {
  display: block;
  margin: 0 auto;
}
td.all {
  font-weight: 650 !important;
}
</style>
