<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { watchDebounced } from '@vueuse/core'
import AutoComplete, { type AutoCompleteCompleteEvent } from 'primevue/autocomplete'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import Clash from './Clash.vue'
import { useOpenSheet } from './open'
import { useTyped } from './useTyped'

/** So many items for each standard with everything below it; the balance stands beside each row. */
const { sheet, editable, kept, error, putBlueprint } = useOpenSheet()

interface Row {
  title: string
  standards: string[]
  min: number
  max: number
  byPoints: boolean
  kinds?: string[]
  depth?: number[]
}
const fromSheet = (s: Schemas['Sheet']): Row[] =>
  s.rows.map((r) => ({
    title: r.title,
    standards: r.filter.standards ?? [],
    kinds: r.filter.kinds,
    depth: r.filter.depth,
    min: r.min,
    max: r.max,
    byPoints: r.byPoints,
  }))
const put = (now: Row[], version: number) =>
  putBlueprint(
    now.map((r) => ({
      title: r.title,
      filter: {
        ...(r.standards.length && { standards: r.standards }),
        ...(r.kinds && { kinds: r.kinds }),
        ...(r.depth && { depth: r.depth }),
      },
      byPoints: r.byPoints,
      min: r.min,
      max: Math.max(r.min, r.max),
    })),
    version,
  )
const { value: rows, clash, takeTheirs, keepMine, keep } = useTyped(sheet, fromSheet, put, editable)
watchDebounced(rows, keep, { debounce: 600, deep: true })

const frameworks = useQuery({ queryKey: ['frameworks'], queryFn: () => call(api.GET('/frameworks')), staleTime: 300_000 })
const framework = computed(() => frameworks.data.value?.find((f) => f.subject.toLowerCase() === sheet.value.outline.subject))
const standards = useQuery({
  queryKey: ['standards-of', computed(() => framework.value?.id)],
  queryFn: () => call(api.GET('/frameworks/{id}/standards', { params: { path: { id: framework.value!.id } } })),
  enabled: computed(() => !!framework.value),
  staleTime: 60_000,
})
const ofGrades = computed(() => {
  const grades = sheet.value.outline.grades
  return (standards.data.value ?? []).filter((s) => s.grades.some((g) => grades.includes(g)))
})
const byCode = computed(() => new Map((standards.data.value ?? []).map((s) => [s.code, s])))
const pool = (r: Row) => r.standards.reduce((n, code) => n + (byCode.value.get(code)?.items ?? 0), 0)

const offered = ref<Schemas['Standard'][]>([])
function offer(e: AutoCompleteCompleteEvent) {
  const typed = e.query.toLowerCase()
  offered.value = ofGrades.value
    .filter((s) => s.code.toLowerCase().includes(typed) || s.text.toLowerCase().includes(typed))
    .slice(0, 40)
}

function add(standard?: Schemas['Standard']) {
  rows.value.push({ title: standard?.text ?? '', standards: standard ? [standard.code] : [], min: 4, max: 4, byPoints: false })
}
/** A row for each strand of the grades: the usual beginning. */
function addStrands() {
  for (const s of ofGrades.value.filter((x) => x.level === 'Strand'))
    if (!rows.value.some((r) => r.standards.includes(s.code))) add(s)
}
const count = (typed: string | undefined) => Math.min(300, Math.max(0, Math.trunc(Number(typed) || 0)))
function setMin(r: Row, n: number) {
  if (r.max === r.min || r.max < n) r.max = n
  r.min = n
}
const balance = (i: number) => sheet.value.rows[i]?.balance ?? 0
const word = (b: number) => (b < 0 ? `short ${-b}` : b > 0 ? `over ${b}` : 'even')
const total = computed(() => rows.value.reduce((n, r) => n + (r.byPoints ? 0 : r.min), 0))
</script>

<template>
  <div class="page">
    <PageHead title="Blueprint" :note="kept">
      <template v-if="editable">
        <Button v-if="ofGrades.length" label="A row for each strand" severity="secondary" outlined @click="addStrands" />
        <Button label="Add a row" @click="add()" />
      </template>
    </PageHead>
    <Clash v-if="clash" :by="sheet.changedBy" @theirs="takeTheirs" @mine="keepMine" />
    <Trouble v-else :error="error" />
    <Empty
      v-if="!rows.length"
      text="A blueprint says how many items each standard gets. Without one, any lines will do; with one, the balance beside the lines says what is missing."
    />
    <LedgerTable v-else label="Blueprint rows">
      <thead>
        <tr>
          <th class="num">#</th>
          <th>Standard, with everything below it</th>
          <th>Name of the row</th>
          <th class="num">From</th>
          <th class="num">To</th>
          <th>Counts</th>
          <th class="num double">In the bank</th>
          <th class="num">Here</th>
          <th class="num">Balance</th>
          <th><span class="out-of-sight">Remove</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in rows" :key="i">
          <td class="num soft">{{ i + 1 }}</td>
          <td>
            <AutoComplete
              :model-value="r.standards[0] ?? ''"
              :suggestions="offered"
              option-label="code"
              dropdown
              force-selection
              :disabled="!editable"
              :aria-label="`Standard of row ${i + 1}`"
              :pt="{ dropdown: { 'aria-label': 'Show standards' } }"
              @complete="offer"
              @update:model-value="
                (v: Schemas['Standard'] | string | null) => {
                  if (v && typeof v === 'object') {
                    r.standards = [v.code]
                    r.title ||= v.text
                  }
                }
              "
            >
              <template #option="{ option }"
                ><span class="mono">{{ option.code }}</span
                >&nbsp; {{ option.text.slice(0, 60) }} <span class="soft">&nbsp;{{ option.items }}</span></template
              >
            </AutoComplete>
          </td>
          <td>
            <InputText
              v-model="r.title"
              maxlength="200"
              size="small"
              fluid
              :disabled="!editable"
              :aria-label="`Name of row ${i + 1}`"
            />
          </td>
          <td class="num">
            <InputText
              :model-value="String(r.min)"
              type="number"
              min="0"
              max="300"
              size="small"
              :disabled="!editable"
              :aria-label="`From, row ${i + 1}`"
              @update:model-value="setMin(r, count($event))"
            />
          </td>
          <td class="num">
            <InputText
              :model-value="String(r.max)"
              type="number"
              :min="r.min"
              max="300"
              size="small"
              :disabled="!editable"
              :aria-label="`To, row ${i + 1}`"
              @update:model-value="r.max = count($event)"
            />
          </td>
          <td>
            <select v-model="r.byPoints" :disabled="!editable" :aria-label="`What row ${i + 1} counts`">
              <option :value="false">items</option>
              <option :value="true">points</option>
            </select>
          </td>
          <td class="num double">{{ r.standards.length ? pool(r) : '' }}</td>
          <td class="num">{{ sheet.rows[i]?.placed ?? 0 }}</td>
          <td class="num" :class="balance(i) ? 'resin' : 'pine'">{{ word(balance(i)) }}</td>
          <td class="num">
            <button
              v-if="editable"
              type="button"
              class="link-button"
              :aria-label="`Take row ${i + 1} away`"
              @click="rows.splice(i, 1)"
            >
              take away
            </button>
          </td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <td />
          <th colspan="2">{{ rows.length }} rows</th>
          <td class="num">{{ total }}</td>
          <td colspan="2" />
          <td class="num double" />
          <td class="num">{{ sheet.lines.length }}</td>
          <td class="num" :class="{ resin: sheet.shortage || sheet.excess }">
            {{ sheet.shortage ? `short ${sheet.shortage}` : sheet.excess ? `over ${sheet.excess}` : 'even' }}
          </td>
          <td />
        </tr>
      </tfoot>
    </LedgerTable>
  </div>
</template>

<style scoped>
.page {
  padding: 16px 22px 40px;
  overflow: auto;
}
.page :deep(.ledger td) {
  height: 40px;
}
.page :deep(.p-autocomplete-input) {
  width: 108px;
}
.page :deep(.num input) {
  width: 64px;
  text-align: right;
}
select {
  font: inherit;
  height: 30px;
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
  background: var(--paper);
  color: inherit;
}
</style>
