<script setup lang="ts">
import { useVirtualList } from '@vueuse/core'
import { computed, ref } from 'vue'
import { cellOf, groupsOf, isSection, sectioned, spoken, type Cell, type Column, type Matrix, type Row } from './matrix'

/** Students × supports. A thousand rows scroll: only those in view are in the page. */
const props = defineProps<{ matrix: Matrix; rows: Row[]; chosen?: number; letter?: string }>()
const emit = defineEmits<{ open: [student: number]; more: [] }>()
const columns = computed(() => props.matrix.columns)
const groups = computed(() => groupsOf(columns.value))
const entries = computed(() => sectioned(props.rows))
const height = 33
const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(entries, { itemHeight: height, overscan: 12 })
/** The row that the arrow keys are at. */
const at = ref(0)

function onScroll() {
  containerProps.onScroll()
  const box = containerProps.ref.value
  if (box && box.scrollHeight - box.scrollTop - box.clientHeight < 600 && props.rows.length < props.matrix.found) emit('more')
}
const begins = (c: Column, i: number) => i > 0 && columns.value[i - 1]!.group !== c.group
const mark = (c: Cell, column: Column) => (c.letters.length ? 'gap' : column.by)
function move(e: KeyboardEvent) {
  const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 12, PageUp: -12 }[e.key]
  if (by === undefined) {
    const row = entries.value[at.value]
    if (e.key === 'Enter' && row && !isSection(row)) emit('open', row.studentId)
    return
  }
  e.preventDefault()
  const last = entries.value.length - 1
  let to = Math.max(0, Math.min(last, at.value + by))
  if (isSection(entries.value[to]!)) to = Math.max(0, Math.min(last, to + Math.sign(by)))
  at.value = to
  if (isSection(entries.value[to]!)) at.value = Math.min(last, to + 1)
  const box = containerProps.ref.value
  if (box && (to * height < box.scrollTop || to * height > box.scrollTop + box.clientHeight - 120)) scrollTo(Math.max(0, to - 6))
  const row = () => box?.querySelector<HTMLElement>(`[data-at="${at.value}"]`)
  if (row()) row()?.focus()
  else requestAnimationFrame(() => row()?.focus()) // it is drawn once the list has scrolled
}
</script>

<template>
  <div :ref="containerProps.ref" class="box" :style="containerProps.style" @scroll="onScroll">
    <div v-bind="wrapperProps">
      <table
        class="ledger"
        :style="{ minWidth: `${196 + 25 * columns.length}px` }"
        aria-label="Students and their supports"
        :aria-rowcount="matrix.found"
        @keydown="move"
      >
        <colgroup>
          <col class="who" />
          <col v-for="c in columns" :key="c.key" />
          <col class="minutes" />
        </colgroup>
        <thead>
          <tr class="groups">
            <td />
            <th v-for="(g, i) in groups" :key="g.name" :colspan="g.n" scope="colgroup" :class="{ begins: i > 0 }">
              <span>{{ g.name }}</span>
            </th>
            <td class="double" />
          </tr>
          <tr>
            <th scope="col">Student</th>
            <th
              v-for="(c, i) in columns"
              :key="c.key"
              scope="col"
              class="support"
              :class="{ begins: begins(c, i) }"
              :title="c.name"
            >
              <span>{{ c.short }}</span>
            </th>
            <th scope="col" class="num double">Own minutes</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="{ data: e, index } in list" :key="index">
            <tr v-if="isSection(e)" class="section">
              <th :colspan="columns.length + 1" scope="rowgroup">
                <strong>{{ e.school }}</strong> {{ e.section }}, <span class="soft">{{ e.students }} with supports</span>
              </th>
              <td class="double" />
            </tr>
            <tr
              v-else
              :data-at="index"
              :tabindex="index === at || (at === 0 && index === 1) ? 0 : -1"
              :aria-selected="e.studentId === chosen"
              @click="((at = index), emit('open', e.studentId))"
              @focus="at = index"
            >
              <th scope="row">{{ e.name }}</th>
              <td v-for="(c, i) in columns" :key="c.key" class="support" :class="{ begins: begins(c, i) }">
                <span
                  v-if="cellOf(e, c.key)"
                  class="mark"
                  :class="[
                    mark(cellOf(e, c.key)!, c),
                    { weeks: cellOf(e, c.key)!.temporary, at: letter && cellOf(e, c.key)!.letters.includes(letter) },
                  ]"
                  role="img"
                  :aria-label="spoken(cellOf(e, c.key)!, c, matrix.gaps)"
                  :title="spoken(cellOf(e, c.key)!, c, matrix.gaps)"
                  >{{ cellOf(e, c.key)!.letters.length ? cellOf(e, c.key)!.letters.join('') : cellOf(e, c.key)!.short }}</span
                >
              </td>
              <td class="num double" :class="{ longer: e.longer }">{{ e.minutes || 'no limit' }}</td>
            </tr>
          </template>
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">{{ matrix.with }} students</th>
            <td v-for="(c, i) in columns" :key="c.key" class="support" :class="{ begins: begins(c, i) }">{{ c.students }}</td>
            <td class="double" />
          </tr>
          <tr class="missing">
            <th scope="row">not yet possible</th>
            <td v-for="(c, i) in columns" :key="c.key" class="support" :class="{ begins: begins(c, i) }">
              {{ c.missing || '' }}
            </td>
            <td class="double" />
          </tr>
        </tfoot>
      </table>
    </div>
  </div>
</template>

<style scoped src="./marks.css"></style>

<style scoped>
.box {
  min-height: 0;
  overflow: auto;
}
table {
  table-layout: fixed;
  min-width: 0;
}
th:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
thead tr.groups td {
  position: sticky;
  top: 0;
  background: var(--paper);
  border: 0;
}
thead tr.groups th {
  height: 26px;
  border-bottom: 0;
  text-align: center;
  color: var(--ink);
  font-weight: 650;
  font-size: 13px;
}
thead tr.groups th span {
  display: block;
  border-bottom: 1px solid var(--ink);
  margin: 0 4px;
}
thead tr + tr th {
  top: 26px;
  vertical-align: bottom;
}
thead .support span {
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  padding: 4px 0;
  max-height: 104px;
}
.support {
  text-align: center;
  padding: 0 2px;
}
.begins {
  border-left: 1px solid var(--rule);
}
th.double,
td.double {
  padding: 0 4px;
}
.who {
  width: 138px;
}
.minutes {
  width: 58px;
}
thead th.double {
  white-space: normal;
  line-height: 1.15;
  padding-bottom: 6px;
}
.section th {
  background: var(--tint);
  font-weight: 400;
}
.section td {
  background: var(--tint);
}
tbody th {
  font-weight: 400;
}
.gap.at {
  background: var(--resin-tint);
  border-style: solid;
}
.longer {
  font-weight: 700;
}
tfoot th,
tfoot td {
  height: 28px;
  position: sticky;
  bottom: 0;
  z-index: 2; /* over the marks */
  background: var(--paper);
  border: 0;
  box-shadow:
    inset 0 -1px 0 var(--ink),
    inset 0 -3px 0 var(--paper),
    inset 0 -4px 0 var(--ink);
}
.ledger tfoot tr:first-child > * {
  bottom: 28px;
  box-shadow: inset 0 1px 0 var(--ink);
}
thead th,
thead td {
  z-index: 3;
}
.missing > * {
  color: var(--resin);
}
</style>
