<script setup lang="ts">
import Button from 'primevue/button'
import { computed, defineAsyncComponent, nextTick, ref } from 'vue'
import { RouterLink } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { useScreenKeys } from '@/parts/keys'
import { kindName, plural } from '@/contract/format'
import Clash from '@/places/assessments/sheet/Clash.vue'
import DocumentUpload from './DocumentUpload.vue'
import KeyBlocks from './KeyBlocks.vue'
import KeyRubric from './KeyRubric.vue'
import {
  columns,
  filledFrom,
  isChosen,
  isWritten,
  keyAfter,
  keyTyped,
  labelText,
  lacks,
  pastedKeys,
  withStandard,
  type Column,
  type Question,
} from './keyGrid'
import { useOpenSheet } from '@/places/assessments/sheet/open'
import { useStandards } from '@/places/assessments/blueprint/useStandards'
import { useTyped } from '@/places/assessments/sheet/useTyped'

/** The document on one side, its key on the other: one press an answer, standards from a short list. */
const PdfPages = defineAsyncComponent(() => import('@/parts/PdfPages.vue'))
const { sheet, editable, kept, error, putKey } = useOpenSheet()
const { known, ofGrades, ready } = useStandards(sheet)

const stripped = (rows: Question[]) =>
  rows.map(({ number, kind, labels, key, points, standards, rubric }) => ({
    number,
    kind,
    labels,
    key,
    points,
    standards,
    rubric,
  }))
const {
  value: rows,
  clash,
  takeTheirs,
  keepMine,
} = useTyped(sheet, {
  name: 'key',
  part: (s) => stripped(s.key ?? []),
  put: (now: Question[], version) => putKey(now, version),
  editable,
  error,
  // A rubric that is half typed is kept too: what it lacks keeps the form from being sealed, no more.
  whole: (now) => ready.value && now.every((q) => q.standards.every(known) && q.points > 0),
})

const strange = ref<string[]>([])
const said = ref('')
const body = ref<HTMLElement>()
const at = ref(0)
const reading = ref<number>() // the question whose rubric is open
function go(row: number, column: number) {
  const cell = body.value?.querySelectorAll('tr')[row]?.querySelectorAll<HTMLInputElement>('input')[column]
  if (!cell) return
  cell.focus()
  cell.select()
  cell.scrollIntoView({ block: 'nearest' })
}
const set = (row: number, q: Question) => (rows.value[row] = q)

/** The standards in play: those that are used, most first, and those that were put on the list. */
const picked = ref<string[]>([])
const inPlay = computed(() => {
  const n = new Map<string, number>()
  for (const code of [...picked.value, ...rows.value.flatMap((q) => q.standards)])
    if (known(code)) n.set(code, (n.get(code) ?? 0) + 1)
  return [...n.keys()].slice(0, 9)
})
const adding = ref('')
function addToList() {
  const code = adding.value.trim()
  if (known(code) && !picked.value.includes(code)) picked.value.push(code)
  if (known(code)) adding.value = ''
}

function moved(e: KeyboardEvent, row: number, column: number): boolean {
  const input = e.target as HTMLInputElement
  const whole = column === 0 && isChosen(rows.value[row]!)
  const atStart = whole || (input.selectionStart ?? 0) === 0
  const atEnd = whole || (input.selectionEnd ?? 0) === input.value.length
  if (e.key === 'ArrowDown' || e.key === 'Enter') go(row + 1, column)
  else if (e.key === 'ArrowUp') go(row - 1, column)
  else if (e.key === 'ArrowLeft' && atStart) go(row, column - 1)
  else if (e.key === 'ArrowRight' && atEnd) go(row, column + 1)
  else return false
  return true
}
function onKey(e: KeyboardEvent, row: number, column: number) {
  if (!editable.value) return
  const q = rows.value[row]!
  if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'd') {
    if (row > 0) set(row, filledFrom(rows.value[row - 1]!, q, columns[column]!))
    go(row + 1, column)
  } else if (e.ctrlKey || e.metaKey || e.altKey) return
  else if (moved(e, row, column)) {
    // gone
  } else if (column === 0 && isChosen(q)) {
    if (!pressedKey(e, row, q)) return
  } else if (column >= 2 && /^[1-9]$/.test(e.key) && !(e.target as HTMLInputElement).value.includes('.')) {
    const code = inPlay.value[Number(e.key) - 1]
    if (!code) return
    set(row, withStandard(q, column === 2 ? 0 : 1, code))
    void nextTick(() => go(row + 1, column))
  } else return
  e.preventDefault()
}
/** One press in the key of a choice; true where it was taken. */
function pressedKey(e: KeyboardEvent, row: number, q: Question): boolean {
  if (e.key === 'Backspace' || e.key === 'Delete') {
    set(row, { ...q, key: [] })
    return true
  }
  if (e.key.length !== 1) return false
  const key = keyAfter(q, e.key)
  if (key) {
    set(row, { ...q, key })
    said.value = `${q.number}: ${key.join(', ')}`
    if (q.kind === 'single-choice') go(row + 1, 0)
  } else said.value = `${e.key} is not one of ${q.labels.join(', ')}`
  return true
}
function onPaste(e: ClipboardEvent, row: number, column: Column) {
  const text = e.clipboardData?.getData('text/plain') ?? ''
  // One word in a cell that is typed goes where the cursor is.
  if (!editable.value || !text.trim() || (column !== 'key' && !/[\t\n]/.test(text.trim()))) return
  e.preventDefault()
  const result = pastedKeys(rows.value, row, text, column)
  rows.value = result.questions
  strange.value = result.strange
}
function typeKey(row: number, text: string) {
  const q = rows.value[row]!
  const key = keyTyped(q, text)
  if (key) set(row, { ...q, key })
}
function setPoints(row: number, field: HTMLInputElement) {
  const q = rows.value[row]!
  const points = Number(field.value)
  if (points > 0 && points <= 100) set(row, { ...q, points })
  else {
    strange.value = [`${q.number}: ${field.value || 'no'} points; they are more than 0 and at most 100`]
    field.value = String(q.points)
  }
}
/** Fills the cells below with what this one has, where they are empty. */
function fillDown(column: Column) {
  const from = at.value
  const empty = (q: Question) =>
    column === 'key' ? !q.key.length : column === 'standard' ? !q.standards[0] : column === 'second' ? !q.standards[1] : true
  for (let i = from + 1; i < rows.value.length; i++)
    if (empty(rows.value[i]!)) set(i, filledFrom(rows.value[from]!, rows.value[i]!, column))
}
function add(more: Question[]) {
  const first = rows.value.length
  rows.value = [...rows.value, ...more]
  void nextTick(() => go(first, 0))
}
useScreenKeys([
  ['a letter', 'the key of a choice, and on to the next'],
  ['1 … 9', 'a standard from the short list'],
  ['Ctrl D', 'as in the row above'],
  ['↑ ↓ ← →', 'the cells'],
  ['Ctrl V', 'paste a key from here on'],
])

const missing = computed(() => ({
  keys: rows.value.filter((q) => lacks(q).includes('key')).length,
  standards: rows.value.filter((q) => lacks(q).includes('standard')).length,
}))
const state = computed(() =>
  [
    missing.value.keys && `${missing.value.keys} without a key`,
    missing.value.standards && `${missing.value.standards} without a standard`,
  ]
    .filter(Boolean)
    .join(', '),
)
const next = computed(() => Math.max(0, ...rows.value.map((q) => Number.parseInt(q.number) || 0)) + 1)
const unknownCodes = computed(() =>
  ready.value ? [...new Set(rows.value.flatMap((q) => q.standards).filter((c) => !known(c)))] : [],
)
</script>

<template>
  <div class="split" :class="{ bare: !sheet.document }">
    <PdfPages v-if="sheet.document" :hash="sheet.document.hash" :name="sheet.document.name" :pages="sheet.document.pages" />
    <div class="key">
      <PageHead title="Key">
        <template #note
          >{{ kept
          }}<template v-if="rows.length"> · {{ plural(rows.length, 'question') }}, {{ state || 'whole' }}</template></template
        >
        <DocumentUpload v-if="editable" :again="!!sheet.document" />
        <RouterLink :to="`/assessments/${sheet.id}/lines`">Lines</RouterLink>
      </PageHead>
      <Clash v-if="clash" :by="sheet.changedBy" @theirs="takeTheirs" @mine="keepMine" />
      <Trouble v-else :error="error" />
      <p class="out-of-sight" role="status">{{ said }}</p>
      <Empty
        v-if="!sheet.document"
        text="Put the PDF of the test here. Then say how many questions it has of which kind, and type the key beside its pages."
      />
      <template v-else>
        <p v-if="strange.length" class="resin" role="alert">Not understood, and left as it was: {{ strange.join('; ') }}.</p>
        <p v-if="unknownCodes.length" class="brick" role="alert">
          There is no standard {{ unknownCodes.join(', ') }}. Saved in this browser until that is mended.
        </p>
        <div v-if="rows.length" class="list" aria-label="Standards in play" role="group">
          <span v-for="(code, i) in inPlay" :key="code"
            ><kbd>{{ i + 1 }}</kbd> <span class="mono">{{ code }}</span></span
          >
          <form v-if="editable" @submit.prevent="addToList">
            <input
              v-model="adding"
              list="key-standards"
              class="mono"
              placeholder="add a code"
              aria-label="Add a standard to the short list"
              @change="addToList"
            />
          </form>
        </div>
        <LedgerTable v-if="rows.length" label="Key">
          <thead>
            <tr>
              <th class="num">No.</th>
              <th>Kind</th>
              <th>Labels</th>
              <th>Key</th>
              <th class="num">Points</th>
              <th>Standard</th>
              <th>Second</th>
              <th v-if="editable"><span class="out-of-sight">Remove</span></th>
            </tr>
          </thead>
          <tbody ref="body">
            <tr v-for="(q, i) in rows" :key="i" :class="{ lacking: lacks(q).length }" @focusin="at = i">
              <td class="num soft">{{ q.number }}</td>
              <td class="nowrap">{{ kindName(q.kind) }}</td>
              <td class="mono nowrap labels">{{ labelText(q.labels) }}</td>
              <td class="cell">
                <input
                  v-if="isChosen(q)"
                  class="mono key-cell"
                  readonly
                  :value="q.key.join(', ')"
                  :aria-label="`Key of ${q.number}, one of ${q.labels.join(', ')}`"
                  @keydown="onKey($event, i, 0)"
                  @paste="onPaste($event, i, 'key')"
                />
                <input
                  v-else-if="isWritten(q)"
                  readonly
                  :value="q.rubric?.traits.length ? 'by rubric' : 'by points'"
                  :aria-label="`How ${q.number} is read; Enter opens its rubric`"
                  title="Opens the rubric"
                  @click="reading = i"
                  @keydown="$event.key === 'Enter' ? (reading = i) : onKey($event, i, 0)"
                />
                <input
                  v-else
                  class="mono"
                  :value="q.key.join('; ')"
                  :readonly="!editable"
                  :aria-label="`Key of ${q.number}`"
                  placeholder="3/4; 0.75"
                  @keydown="onKey($event, i, 0)"
                  @paste="onPaste($event, i, 'key')"
                  @change="typeKey(i, ($event.target as HTMLInputElement).value)"
                />
              </td>
              <td class="cell">
                <input
                  class="num"
                  inputmode="decimal"
                  :value="q.points"
                  :readonly="!editable"
                  :aria-label="`Points of ${q.number}`"
                  @keydown="onKey($event, i, 1)"
                  @paste="onPaste($event, i, 'points')"
                  @change="setPoints(i, $event.target as HTMLInputElement)"
                />
              </td>
              <td v-for="(place, k) in [0, 1] as const" :key="k" class="cell">
                <input
                  class="mono"
                  list="key-standards"
                  :value="q.standards[place] ?? ''"
                  :readonly="!editable"
                  :aria-label="`${place ? 'Second standard' : 'Standard'} of ${q.number}`"
                  @keydown="onKey($event, i, 2 + place)"
                  @paste="onPaste($event, i, place ? 'second' : 'standard')"
                  @change="set(i, withStandard(q, place, ($event.target as HTMLInputElement).value.trim()))"
                />
              </td>
              <td v-if="editable" class="num">
                <button
                  type="button"
                  class="off"
                  tabindex="-1"
                  :aria-label="`Remove question ${q.number}`"
                  title="Remove"
                  @click="rows.splice(i, 1)"
                >
                  ×
                </button>
              </td>
            </tr>
          </tbody>
        </LedgerTable>
        <div v-if="editable && rows.length" class="row fill">
          <span class="soft">Fill down from {{ rows[at]?.number }}:</span>
          <Button
            v-for="c in [
              { c: 'standard', n: 'standard' },
              { c: 'second', n: 'second standard' },
              { c: 'points', n: 'points' },
            ] as const"
            :key="c.c"
            :label="c.n"
            size="small"
            severity="secondary"
            outlined
            @click="fillDown(c.c)"
          />
        </div>
        <KeyBlocks v-if="editable" :first="next" :there="rows.length" @add="add" />
      </template>
      <KeyRubric
        v-if="reading !== undefined && rows[reading]"
        v-model="rows[reading]!.rubric"
        :number="rows[reading]!.number"
        :long="rows[reading]!.kind === 'extended-written'"
        @close="reading = undefined"
      />
      <datalist id="key-standards">
        <option v-for="s in ofGrades" :key="s.id" :value="s.code">{{ s.text.slice(0, 70) }}</option>
      </datalist>
    </div>
  </div>
</template>

<style scoped>
.split {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
  min-height: 0;
}
.split.bare {
  grid-template-columns: minmax(0, 1fr);
}
.key {
  padding: 14px 16px 40px;
  overflow: auto;
  border-left: 1px solid var(--rule);
}
.list {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  margin: 6px 0 8px;
  font-size: 12.5px;
}
kbd {
  border: 1px solid var(--rule-strong);
  border-radius: 3px;
  padding: 0 4px;
  font: inherit;
}
.list input {
  width: 112px;
  height: 26px;
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
  padding: 0 6px;
  background: var(--paper);
  color: inherit;
}
.key-cell {
  font-weight: 650;
}
.lacking .soft {
  color: var(--resin);
  font-weight: 650;
}
.labels {
  max-width: 110px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.nowrap {
  white-space: nowrap;
}
/* Stays in sight beside the row that it fills from. */
.fill {
  position: sticky;
  bottom: -40px;
  margin-top: 8px;
  padding: 6px 0;
  background: var(--paper);
  border-top: 1px solid var(--rule);
}
@media (max-width: 900px) {
  .split {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: 45vh auto;
    overflow: auto;
  }
  .key {
    border-left: 0;
    overflow: visible;
  }
}
</style>
