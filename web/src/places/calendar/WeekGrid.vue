<script setup lang="ts">
import { computed } from 'vue'
import { gradeName } from '@/contract/format'
import { dayOf, daysOffSaid, lanesOf, monthOf, placeOf, stateWords, type Calendar, type Window } from './calendar'
import './bars.css'

/** Grades by weeks, each window a bar that opens. Arrow keys go from window to window. */
const props = defineProps<{ calendar: Calendar; weeks: string[]; chosen?: Window }>()
const emit = defineEmits<{ open: [window: Window] }>()
const rows = computed(() => {
  const grades = [...new Set(props.calendar.windows.map((w) => w.grade))].toSorted((a, b) => gradeOrder(a) - gradeOrder(b))
  return grades.map((grade) => {
    const windows = props.calendar.windows.filter((w) => w.grade === grade).toSorted((a, b) => a.from.localeCompare(b.from))
    const lanes = lanesOf(windows, props.weeks.length)
    return { grade, windows, lanes, height: 10 + 44 * (Math.max(-1, ...lanes.values()) + 1) }
  })
})
const gradeOrder = (g: string) => (g === 'KG' ? 0 : Number(g))
const percent = (n: number) => `${(n * 100).toFixed(2)}%`
const style = (w: Window, lane: number) => {
  const left = placeOf(w.from, props.weeks)
  const right = placeOf(w.to, props.weeks, true)
  return { left: percent(left), width: percent(Math.max(0.008, right - left)), top: `${6 + lane * 44}px` }
}
/** A title that begins near the right edge is written to the left. */
const late = (w: Window) => placeOf(w.from, props.weeks) > 0.82
const off = computed(() =>
  props.calendar.daysOff.map((d) => ({
    ...d,
    left: percent(placeOf(d.day, props.weeks)),
    width: percent(1 / props.weeks.length / 5),
  })),
)
const now = computed(() =>
  props.calendar.today >= props.calendar.from && props.calendar.today <= props.calendar.to
    ? percent(placeOf(props.calendar.today, props.weeks))
    : undefined,
)
const clashing = (w: Window) =>
  props.calendar.clashes.some((c) => c.grade === w.grade && (c.one === w.distributionId || c.other === w.distributionId))
const is = (w: Window) => w.distributionId === props.chosen?.distributionId && w.grade === props.chosen?.grade
const label = (w: Window) =>
  `${w.title}, grade ${gradeName(w.grade)}, ${dayOf(w.from)} to ${dayOf(w.to)}, ${w.minutes ? `${w.minutes} minutes` : 'no time limit'}, ${stateWords[w.state]}${clashing(w) ? ', clashes' : ''}`

function onKey(e: KeyboardEvent) {
  const all = [...(e.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('button.window')]
  const at = all.indexOf(e.target as HTMLElement)
  if (at < 0) return
  const row = (i: number) => all[i]?.closest('tr')
  let next: number
  if (e.key === 'ArrowRight') next = at + 1
  else if (e.key === 'ArrowLeft') next = at - 1
  else if (e.key === 'ArrowDown') next = all.findIndex((_, i) => i > at && row(i) !== row(at))
  else if (e.key === 'ArrowUp') next = all.findLastIndex((_, i) => i < at && row(i) !== row(at))
  else if (e.key === 'Home') next = 0
  else if (e.key === 'End') next = all.length - 1
  else return
  e.preventDefault()
  all[next]?.focus()
}
</script>

<template>
  <div class="across">
    <table class="ledger weeks" aria-label="Windows by grade and week" @keydown="onKey">
      <colgroup>
        <col class="grade" />
        <col v-for="w in weeks" :key="w" />
        <col class="all" />
      </colgroup>
      <thead>
        <tr>
          <th>Week of</th>
          <th v-for="(w, i) in weeks" :key="w" class="week">
            <span class="month">{{ !i || monthOf(w) !== monthOf(weeks[i - 1]!) ? monthOf(w) : '' }}</span>
            {{ Number(w.slice(8)) }}
          </th>
          <th class="num double">Windows</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.grade">
          <th scope="row">Grade {{ gradeName(r.grade) }}</th>
          <td :colspan="weeks.length" class="track" :style="{ height: `${r.height}px`, '--weeks': weeks.length }">
            <i
              v-for="d in off"
              :key="d.day"
              class="off"
              :style="{ left: d.left, width: d.width }"
              :title="d.name || 'No school'"
              aria-hidden="true"
            />
            <i v-if="now" class="now" :style="{ left: now }" aria-hidden="true" />
            <button
              v-for="(w, i) in r.windows"
              :key="w.distributionId"
              type="button"
              class="window"
              :class="{ chosen: is(w), clash: clashing(w), late: late(w) }"
              :style="style(w, r.lanes.get(w) ?? 0)"
              :tabindex="i === 0 || is(w) ? 0 : -1"
              :aria-label="label(w)"
              :aria-pressed="is(w)"
              @click="emit('open', w)"
            >
              <span class="title">{{ w.title }}</span>
              <i class="bar" :class="w.state" />
              <span class="min">{{ w.minutes ? `${w.minutes} min` : 'no limit' }}</span>
            </button>
          </td>
          <td class="num double">{{ r.windows.length }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="calendar.daysOff.length" class="soft">Hatched: no school. {{ daysOffSaid(calendar.daysOff).join('; ') }}.</p>
  </div>
</template>

<style scoped>
.across {
  overflow-x: auto;
}
.weeks {
  table-layout: fixed;
  min-width: 860px;
}
.weeks th:first-child {
  font-weight: 650;
  white-space: nowrap;
}
.title,
.min {
  background: color-mix(in srgb, var(--paper) 75%, transparent);
}
.week {
  border-left: 1px solid var(--rule);
  padding: 2px 4px !important;
  font-variant-numeric: tabular-nums;
}
.month {
  display: block;
  min-height: 15px;
  position: relative; /* over the next week, which is narrow in a long calendar */
  z-index: 1;
  white-space: nowrap;
  color: var(--ink);
}
.track {
  position: relative;
  padding: 0 !important;
  background: repeating-linear-gradient(90deg, var(--rule) 0 1px, transparent 1px calc(100% / var(--weeks)));
}
.off {
  position: absolute;
  inset-block: 0;
  background: repeating-linear-gradient(135deg, transparent 0 4px, var(--rule) 4px 5px);
}
.now {
  position: absolute;
  inset-block: 0;
  border-left: 2px solid var(--slate);
}
.window {
  position: absolute;
  display: block;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 12px;
  line-height: 14px;
  text-align: left;
  cursor: pointer;
  min-height: 40px;
  white-space: nowrap;
}
.window.late {
  text-align: right;
  direction: rtl;
}
.window.late span {
  direction: ltr;
  unicode-bidi: embed;
}
.window.chosen .title {
  font-weight: 700;
}
.window.chosen::before {
  content: '';
  position: absolute;
  inset: -3px -4px;
  background: var(--tint-strong);
  z-index: -1;
}
.window.clash .bar {
  outline: 2px solid var(--resin);
  outline-offset: 2px;
}
.min {
  color: var(--ink-soft);
}
</style>
