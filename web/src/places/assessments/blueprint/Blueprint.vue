<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useDebouncedRefHistory } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { useScreenKeys } from '@/parts/keys'
import { kindNames, plural } from '@/contract/format'
import { api, call } from '@/contract/client'
import * as bankQueries from '@/queries/bank'
import BlueprintPicture from './BlueprintPicture.vue'
import Clash from '@/places/assessments/sheet/Clash.vue'
import DrawPanel from '@/places/assessments/draw/DrawPanel.vue'
import KeepPanel from './KeepPanel.vue'
import RowsPanel from './RowsPanel.vue'
import { blank, cellsOf, pasted, readCells, type CellName, type Cells } from './blueprintCells'
import { useOpenSheet } from '@/places/assessments/sheet/open'
import { useStandards } from './useStandards'
import { useTyped } from '@/places/assessments/sheet/useTyped'

/** What the assessment plans, row by row, typed as in a spreadsheet; pool and balance stand beside each row. */
const { sheet, editable, kept, error, putBlueprint } = useOpenSheet()
const { known, ofGrades, ready } = useStandards(sheet)

const readAll = (rows: Cells[]) => rows.map((r) => readCells(r, known))
const {
  value: rows,
  clash,
  takeTheirs,
  keepMine,
} = useTyped(sheet, {
  name: 'blueprint',
  part: (s) => s.rows.map(cellsOf),
  put: (now: Cells[], version) =>
    putBlueprint(
      readAll(now).map((r) => r.row),
      version,
    ),
  editable,
  error,
  whole: (now) => ready.value && readAll(now).every((r) => !Object.keys(r.faults).length),
  // A new row that cannot be read holds no other back; one that is saved already is not lost while it is typed anew.
  sound: (now) => {
    const good = ready.value ? now.filter((r) => !Object.keys(readCells(r, known).faults).length) : []
    return good.length && good.length >= sheet.value.rows.length ? good : undefined
  },
})
/** What was typed and pasted, step by step. */
const history = useDebouncedRefHistory(rows, {
  deep: true,
  debounce: 250,
  capacity: 100,
  clone: (v) => JSON.parse(JSON.stringify(v)) as typeof v,
})
function onUndo(e: KeyboardEvent) {
  if (!(e.ctrlKey || e.metaKey) || e.altKey || !editable.value) return
  const key = e.key.toLowerCase()
  if (key === 'z' && !e.shiftKey && history.canUndo.value) history.undo()
  else if (((key === 'z' && e.shiftKey) || key === 'y') && history.canRedo.value) history.redo()
  else return
  e.preventDefault()
}
const read = computed(() => (ready.value ? readAll(rows.value) : []))
const faults = computed(() => read.value.flatMap((r, i) => Object.values(r.faults).map((words) => ({ row: i + 1, words }))))

const wrongRows = computed(() => new Set(faults.value.map((f) => f.row)).size)

const pools = useQuery({
  queryKey: ['pools', computed(() => sheet.value.id), computed(() => sheet.value.version)],
  queryFn: () => call(api.GET('/assessments/{id}/pools', { params: { path: { id: sheet.value.id } } })),
  placeholderData: (before: number[] | undefined) => before,
})

const banks = useQuery(bankQueries.banks)

const columns: { name: CellName; head: string; width: string; hint: string; list?: string }[] = [
  { name: 'standards', head: 'Standards, with all below', width: '16%', hint: 'Codes', list: 'known-standards' },
  { name: 'kinds', head: 'Kinds', width: '12%', hint: 'any', list: 'known-kinds' },
  { name: 'depth', head: 'Depth', width: '64px', hint: 'any' },
  { name: 'difficulty', head: 'Difficulty', width: '88px', hint: 'any', list: 'known-eases' },
  { name: 'tags', head: 'Tags', width: '9%', hint: 'any' },
  { name: 'banks', head: 'Bank', width: '10%', hint: 'any', list: 'known-banks' },
  { name: 'count', head: 'Plan', width: '84px', hint: 'How many' },
  { name: 'title', head: 'Name of the row', width: '15%', hint: 'As it shows in the balance' },
]

const body = ref<HTMLElement>()
const cell = (row: number, column: number) => body.value?.querySelectorAll('tr')[row]?.querySelectorAll('input')[column]
async function go(row: number, column: number) {
  if (row === rows.value.length && editable.value) rows.value.push(blank())
  await nextTick()
  cell(row, column)?.focus()
  cell(row, column)?.select()
}
function onKey(e: KeyboardEvent, row: number, column: number) {
  const to = { ArrowDown: row + 1, ArrowUp: row - 1, Enter: row + 1 }[e.key]
  if (e.altKey && e.key === 'Delete') takeAway(row)
  else if (to !== undefined && to >= 0 && !e.altKey && !(e.key === 'ArrowDown' && to === rows.value.length)) void go(to, column)
  else return
  e.preventDefault()
}
function onPaste(e: ClipboardEvent, row: number, name: CellName) {
  const text = e.clipboardData?.getData('text/plain') ?? ''
  if (!/[\t\n]/.test(text)) return
  e.preventDefault()
  rows.value = pasted(rows.value, row, name, text, known)
}
function takeAway(row: number) {
  rows.value.splice(row, 1)
}
async function add(more: Cells[] = [{ ...blank(), count: '4' }]) {
  rows.value.push(...more)
  await go(rows.value.length - more.length, 0)
}
useScreenKeys([
  ['Enter ↓ ↑', 'the cell below or above'],
  ['Tab', 'the next cell'],
  ['Ctrl V', 'paste rows from a spreadsheet'],
  ['Ctrl Z', 'undo, also what was pasted'],
  ['Alt Delete', 'remove the row'],
])

/** The row as the sheet holds it: of those that can be read, in their order. */
const keptRow = (i: number) => {
  const good = read.value.map((r) => !Object.keys(r.faults).length)
  if (!good[i] || good.filter(Boolean).length !== sheet.value.rows.length) return undefined
  return sheet.value.rows[good.slice(0, i).filter(Boolean).length]
}
const balance = (i: number) => keptRow(i)?.balance ?? 0
const word = (b: number) => (b < 0 ? `short ${-b}` : b > 0 ? `over ${b}` : 'even')
const total = computed(() => read.value.reduce((n, r) => n + (r.row.byPoints ? 0 : r.row.min), 0))
const pool = (i: number) => {
  const at = sheet.value.rows.indexOf(keptRow(i)!)
  return at >= 0 && pools.data.value?.length === sheet.value.rows.length ? pools.data.value[at] : undefined
}
const thin = (i: number) => {
  const r = read.value[i]?.row
  return !!r && !r.byPoints && (pool(i) ?? Infinity) < r.min
}
const panel = ref<'rows' | 'keep' | 'draw'>()
const drawRow = ref<number>()
function draw(row?: number) {
  drawRow.value = row
  panel.value = 'draw'
}
</script>

<template>
  <div class="page" @keydown.capture="onUndo">
    <PageHead title="Blueprint" :note="kept">
      <template v-if="editable">
        <Button label="Rows from…" severity="secondary" outlined @click="panel = 'rows'" />
        <Button label="Add a row" severity="secondary" outlined @click="add()" />
        <Button label="Save to library" severity="secondary" outlined :disabled="!sheet.rows.length" @click="panel = 'keep'" />
        <Button label="Draw items" :disabled="!sheet.rows.length" @click="draw()" />
      </template>
    </PageHead>
    <Clash v-if="clash" :by="sheet.changedBy" @theirs="takeTheirs" @mine="keepMine" />
    <Trouble v-else :error="error" />
    <div v-if="faults.length" class="faults" role="status">
      <p v-for="f in faults" :key="f.words + f.row">
        <strong>Row {{ f.row }}.</strong> {{ f.words }}
      </p>
      <p class="soft">
        {{ wrongRows === 1 ? 'This row is' : 'These rows are' }} saved in this browser only. The others are saved.
      </p>
    </div>
    <Empty
      v-if="!rows.length"
      text="A blueprint says how many items each standard, kind or depth gets. With one, the balance beside the lines says what is missing, and items can be drawn by it. Paste rows from a spreadsheet into the first cell, or take them from standards, the library or another assessment."
    >
      <div v-if="editable" class="row">
        <Button label="Add a row" size="small" @click="add()" />
        <Button label="Rows from…" size="small" severity="secondary" outlined @click="panel = 'rows'" />
      </div>
    </Empty>
    <LedgerTable v-else label="Blueprint rows">
      <thead>
        <tr>
          <th class="num">#</th>
          <th v-for="c in columns" :key="c.name" :style="{ width: c.width }">{{ c.head }}</th>
          <th class="num double">Pool</th>
          <th class="num">Here</th>
          <th class="num">Balance</th>
          <th v-if="editable"><span class="out-of-sight">Acts</span></th>
        </tr>
      </thead>
      <tbody ref="body">
        <tr v-for="(r, i) in rows" :key="i">
          <td class="num soft">{{ i + 1 }}</td>
          <td v-for="(c, k) in columns" :key="c.name" class="cell">
            <input
              v-model="r[c.name]"
              :list="c.list"
              :placeholder="c.hint"
              :disabled="!editable"
              :maxlength="c.name === 'title' ? 200 : 300"
              :class="{ mono: c.name === 'standards', wrong: read[i]?.faults[c.name] }"
              :aria-label="`${c.head}, row ${i + 1}`"
              :aria-invalid="!!read[i]?.faults[c.name]"
              :title="read[i]?.faults[c.name] ?? r[c.name]"
              autocomplete="off"
              spellcheck="false"
              @keydown="onKey($event, i, k)"
              @paste="onPaste($event, i, c.name)"
            />
          </td>
          <td class="num double" :class="{ resin: thin(i) }" :aria-busy="pools.isPlaceholderData.value">{{ pool(i) ?? '' }}</td>
          <td class="num">{{ keptRow(i)?.placed ?? '' }}</td>
          <td class="num" :class="balance(i) ? 'resin' : 'pine'">{{ keptRow(i) ? word(balance(i)) : '' }}</td>
          <td v-if="editable" class="num acts">
            <button
              v-if="balance(i) < 0"
              type="button"
              class="link-button"
              :aria-label="`Draw what row ${i + 1} lacks`"
              @click="draw(i + 1)"
            >
              draw
            </button>
            <button type="button" class="off" :aria-label="`Remove row ${i + 1}`" title="Remove" @click="takeAway(i)">×</button>
          </td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <td />
          <th colspan="6">{{ plural(rows.length, 'row') }}</th>
          <td colspan="2">{{ plural(total, 'item') }}</td>
          <td class="num double" />
          <td class="num">{{ sheet.lines.length }}</td>
          <td class="num" :class="{ resin: sheet.shortage || sheet.excess }">
            {{ sheet.shortage ? `short ${sheet.shortage}` : sheet.excess ? `over ${sheet.excess}` : 'even' }}
          </td>
          <td v-if="editable" />
        </tr>
      </tfoot>
    </LedgerTable>
    <BlueprintPicture v-if="sheet.rows.length" :sheet="sheet" />
    <datalist id="known-standards">
      <option v-for="s in ofGrades" :key="s.id" :value="s.code">{{ s.text.slice(0, 70) }}</option>
    </datalist>
    <datalist id="known-kinds"><option v-for="(name, code) in kindNames" :key="code" :value="name" /></datalist>
    <datalist id="known-banks"><option v-for="b in banks.data.value" :key="b.id" :value="b.name" /></datalist>
    <datalist id="known-eases">
      <option value="easy" />
      <option value="medium" />
      <option value="hard" />
    </datalist>
    <RowsPanel v-if="panel === 'rows'" :sheet="sheet" @close="panel = undefined" @take="((panel = undefined), add($event))" />
    <KeepPanel v-if="panel === 'keep'" :sheet="sheet" @close="panel = undefined" />
    <DrawPanel v-if="panel === 'draw'" :row="drawRow" @close="panel = undefined" />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  overflow: auto;
}
.cell input.wrong {
  background: var(--brick-tint);
}
.faults {
  border-left: 3px solid var(--brick);
  background: var(--brick-tint);
  padding: 6px 12px;
  margin: 8px 0;
}
.faults {
  max-height: 180px;
  overflow: auto;
}
.faults p {
  margin: 2px 0;
}
.acts {
  white-space: nowrap;
}
</style>
