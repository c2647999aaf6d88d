<script setup lang="ts">
import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/vue-query'
import { IconFileText } from '@tabler/icons-vue'
import { useElementSize, useScroll, watchDebounced } from '@vueuse/core'
import InputText from 'primevue/inputtext'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import Empty from '@/parts/Empty.vue'
import Trouble from '@/parts/Trouble.vue'
import { useScreenKeys } from '@/parts/keys'
import { api, call } from '@/contract/client'
import { plural, pValue } from '@/contract/format'
import * as resultQueries from '@/queries/results'
import ResultHead from './ResultHead.vue'
import TrailPanel from './TrailPanel.vue'
import { windowed } from './windowed'

/** Students × lines: right, part, wrong, omitted; sorted by anything; every score opens. */
const props = defineProps<{ id: number }>()
const route = useRoute()
const router = useRouter()
const text = (name: string) => (typeof route.query[name] === 'string' ? (route.query[name] as string) : undefined)
const number = (name: string) => (text(name) === undefined ? undefined : Number(text(name)))
const filters = computed(() => ({
  school: number('school'),
  section: number('section'),
  band: number('band'),
  words: text('words'),
  sort: text('sort'),
}))

const words = ref(filters.value.words ?? '')
watchDebounced(words, (now) => set({ words: now || undefined }), { debounce: 200 })
function set(part: Record<string, string | undefined>) {
  void router.replace({ query: { ...route.query, ...part } })
}
/** Sorts by a column; once more turns it round. Scores begin with the highest. */
function sortBy(key: string) {
  const now = filters.value.sort ?? 'student'
  const first = key === 'student' || key === 'section' ? key : `-${key}`
  const second = first.startsWith('-') ? key : `-${key}`
  set({ sort: now === first ? second : first })
}
const direction = (key: string) => {
  const now = filters.value.sort ?? 'student'
  return now === key ? 'ascending' : now === `-${key}` ? 'descending' : undefined
}

const query = useInfiniteQuery({
  queryKey: ['matrix', computed(() => props.id), filters],
  initialPageParam: '',
  queryFn: ({ pageParam }) =>
    call(
      api.GET('/results/{id}/matrix', {
        params: { path: { id: props.id }, query: { ...filters.value, cursor: pageParam || undefined, limit: 150 } },
      }),
    ),
  getNextPageParam: (last) => last.next || undefined,
  placeholderData: keepPreviousData,
})
const first = computed(() => query.data.value?.pages[0])
const rows = computed(() => query.data.value?.pages.flatMap((p) => p.rows) ?? [])
const head = computed(() => first.value?.head)
const exports = computed(() => {
  const params = new URLSearchParams(Object.entries(filters.value).flatMap(([k, v]) => (v === undefined ? [] : [[k, String(v)]])))
  return `/api/results/${props.id}/matrix.csv?${params}`
})

const groups = useQuery({
  ...resultQueries.byBand(computed(() => props.id)),
  staleTime: 60_000,
})
const sectionsOf = (school: number) => groups.data.value?.sections.filter((s) => s.schoolId === school) ?? []
const group = computed(() =>
  filters.value.section ? `section ${filters.value.section}` : filters.value.school ? `school ${filters.value.school}` : '',
)
function setGroup(to: string) {
  const [kind, id] = to.split(' ')
  set({ section: kind === 'section' ? id : undefined, school: kind === 'school' ? id : undefined })
}

const rowHeight = 28
const box = useTemplateRef<HTMLElement>('box')
const { y } = useScroll(box)
const { height } = useElementSize(box)
const shown = computed(() => windowed(rows.value.length, rowHeight, y.value, height.value))
watch([shown, rows], () => {
  if (shown.value.to >= rows.value.length - 20 && query.hasNextPage.value && !query.isFetchingNextPage.value)
    void query.fetchNextPage()
})

const trail = ref<{ attempt: number; line?: number }>()
const marks: Record<string, [sign: string, words: string]> = {
  r: ['●', 'right'],
  p: ['◐', 'part'],
  w: ['×', 'wrong'],
  o: ['○', 'omitted'],
  n: ['·', 'not reached'],
  u: ['…', 'not scored yet'],
  g: ['', 'not given'],
}
/** The signs that are explained: that a line was not given only where there are such lines. */
const legend = computed(() =>
  Object.entries(marks).filter(([o]) => o !== 'g' || rows.value.some((r) => r.outcomes.includes('g'))),
)
const hard = (d: number) => d >= 0 && d < 200

function onKey(e: KeyboardEvent) {
  const cell = e.target as HTMLElement
  const row = cell.closest('tr')
  if (!row || !cell.matches('button.cell')) return
  const cells = [...row.querySelectorAll<HTMLElement>('button.cell')]
  const at = cells.indexOf(cell)
  const to = { ArrowRight: cells[at + 1], ArrowLeft: cells[at - 1] }[e.key] ?? neighbour(row, at, e.key)
  if (to) {
    to.focus()
    e.preventDefault()
  }
}
function neighbour(row: HTMLElement, at: number, key: string) {
  const other = key === 'ArrowDown' ? row.nextElementSibling : key === 'ArrowUp' ? row.previousElementSibling : undefined
  return other?.querySelectorAll<HTMLElement>('button.cell')[at]
}
useScreenKeys([
  ['← → ↑ ↓', 'from score to score'],
  ['Enter', 'where the score comes from'],
])
</script>

<template>
  <div class="page">
    <Trouble :error="query.error.value" />
    <template v-if="head && first">
      <ResultHead title="Students × lines" :head="head" view="matrix" :exports="exports" />
      <div class="row bar">
        <InputText v-model="words" data-search placeholder="Name or number" aria-label="Name or number" size="small" />
        <template v-if="head.cuts">
          <label class="soft" for="band">Band</label>
          <select
            id="band"
            :value="filters.band ?? ''"
            @change="set({ band: ($event.target as HTMLSelectElement).value || undefined })"
          >
            <option value="">all</option>
            <option v-for="(s, i) in head.cuts.starts" :key="s.name" :value="i">{{ s.name }}</option>
          </select>
        </template>
        <label class="soft" for="group">Group</label>
        <select id="group" :value="group" @change="setGroup(($event.target as HTMLSelectElement).value)">
          <option value="">all schools</option>
          <optgroup v-for="school in groups.data.value?.schools" :key="school.schoolId" :label="school.school">
            <option :value="`school ${school.schoolId}`">{{ school.school }}, all</option>
            <option v-for="s in sectionsOf(school.schoolId)" :key="s.sectionId" :value="`section ${s.sectionId}`">
              {{ s.section }}
            </option>
          </optgroup>
        </select>
        <span class="soft" aria-live="polite">{{ plural(first.total, 'student') }}</span>
        <span class="legend soft">
          <span v-for="[o, [sign, what]] in legend" :key="o"
            ><b>{{ sign || 'empty' }}</b> {{ what }}</span
          >
        </span>
      </div>
      <Empty v-if="!first.total" text="No score matches. Clear a filter, or wait for students to hand in." />
      <div v-else ref="box" class="box" @keydown="onKey">
        <table
          class="ledger matrix"
          aria-label="Students by lines"
          :aria-rowcount="first.total + 2"
          :aria-busy="query.isPlaceholderData.value"
        >
          <thead>
            <tr>
              <th class="student" :aria-sort="direction('student')">
                <button type="button" class="sort" @click="sortBy('student')">Student</button>
              </th>
              <th :aria-sort="direction('section')">
                <button type="button" class="sort" @click="sortBy('section')">Section</button>
              </th>
              <th class="num" :aria-sort="direction('raw')">
                <button type="button" class="sort" @click="sortBy('raw')">Of {{ head.total }}</button>
              </th>
              <th v-if="head.cuts">Band</th>
              <th
                v-for="(l, i) in head.lines"
                :key="l.number"
                class="line"
                :class="{ double: i === 0 }"
                :title="`${head.keysClosed ? '' : `${l.stem} — `}${l.standards.join(', ')}${head.keysClosed ? '' : `, key ${l.key}`}, ${l.points} point(s)`"
                :aria-sort="direction(String(l.number))"
              >
                <button type="button" class="sort" :aria-label="`Line ${l.number}, sort`" @click="sortBy(String(l.number))">
                  {{ l.number }}
                </button>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-if="shown.from" aria-hidden="true">
              <td :colspan="4 + head.lines.length" :style="{ height: `${shown.from * rowHeight}px`, padding: 0 }" />
            </tr>
            <tr
              v-for="(r, k) in rows.slice(shown.from, shown.to)"
              :key="r.attemptId"
              :class="{ tinted: Math.floor((shown.from + k) / 5) % 2 === 1 }"
              :aria-rowindex="shown.from + k + 2"
            >
              <th scope="row" class="student">
                {{ r.student }}
                <span
                  v-if="r.apart"
                  class="resin"
                  role="img"
                  aria-label="does not compare"
                  title="Does not compare: in no summary"
                  >≠</span
                >
              </th>
              <td class="nowrap" :title="r.school">{{ r.section }}</td>
              <td class="num">
                <button
                  type="button"
                  class="link-button"
                  :aria-label="
                    r.final
                      ? `${r.raw} of ${head.total}, where ${r.student}'s score comes from`
                      : `Not scored yet, what ${r.student} has so far`
                  "
                  :title="r.final ? r.why : 'Not scored yet: a reader has not finished.'"
                  @click="trail = { attempt: r.attemptId }"
                >
                  {{ r.final ? r.raw : 'not yet' }}
                </button>
              </td>
              <td v-if="head.cuts" class="nowrap">{{ r.final ? head.cuts.starts[r.band]?.name : '' }}</td>
              <td v-for="(o, i) in r.outcomes" :key="i" class="line" :class="[o, { double: i === 0 }]">
                <button
                  type="button"
                  class="cell"
                  :tabindex="k === 0 && i === 0 ? 0 : -1"
                  :aria-label="`${r.student}, line ${i + 1}: ${marks[o]?.[1]}${o === 'u' ? '' : `, ${r.credits[i]}`}`"
                  @click="trail = { attempt: r.attemptId, line: i + 1 }"
                >
                  {{ marks[o]?.[0] }}
                </button>
              </td>
            </tr>
            <tr v-if="shown.to < rows.length" aria-hidden="true">
              <td :colspan="4 + head.lines.length" :style="{ height: `${(rows.length - shown.to) * rowHeight}px`, padding: 0 }" />
            </tr>
          </tbody>
          <tfoot>
            <tr v-if="!head.keysClosed" class="items">
              <th class="student" colspan="2">Item</th>
              <td />
              <td v-if="head.cuts" />
              <td v-for="(l, i) in head.lines" :key="l.number" class="line" :class="{ double: i === 0 }">
                <RouterLink
                  :to="`/bank/items/${l.itemId}`"
                  tabindex="-1"
                  :aria-label="`Line ${l.number}, its item ${l.identifier}`"
                  :title="l.identifier"
                  ><IconFileText :size="15" aria-hidden="true"
                /></RouterLink>
              </td>
            </tr>
            <tr>
              <th class="student" colspan="2">Difficulty, of {{ first.total }}</th>
              <td />
              <td v-if="head.cuts" />
              <td
                v-for="(l, i) in first.lines"
                :key="i"
                class="line"
                :class="{ double: i === 0, brick: hard(l.difficulty) }"
                :title="`${l.omitted} of ${l.n} omitted${l.difficulty < 0 ? '; a difficulty needs ten students' : ''}`"
              >
                <span v-if="hard(l.difficulty)" aria-hidden="true">▾</span>{{ pValue(l.difficulty) }}
              </td>
            </tr>
          </tfoot>
        </table>
      </div>
    </template>
    <TrailPanel v-if="trail" :distribution="id" :attempt="trail.attempt" :line="trail.line" @close="trail = undefined" />
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 0;
  height: 100%;
  display: flex;
  flex-direction: column;
}
.bar {
  margin-bottom: 8px;
  gap: 12px;
}
.legend {
  margin-left: auto;
  display: flex;
  gap: 12px;
}
.box {
  overflow: auto;
  flex: 1;
  min-height: 200px;
  border-bottom: 1px solid var(--rule);
}
.matrix {
  width: auto;
  border-collapse: separate;
  border-spacing: 0;
}
.matrix tbody td,
.matrix tbody th {
  height: 28px;
}
.matrix .student {
  position: sticky;
  left: 0;
  background: var(--paper);
  z-index: 1;
  white-space: nowrap;
  min-width: 170px;
}
.matrix thead .student {
  z-index: 2;
}
.matrix tr.tinted td,
.matrix tr.tinted th {
  background: var(--tint);
}
.matrix .line {
  padding: 0;
  text-align: center;
  min-width: 29px;
}
.matrix tfoot td,
.matrix tfoot th {
  position: sticky;
  bottom: 0;
  background: var(--paper);
  font-size: 12px;
  height: 26px;
}
/* Both rows of the foot stay in sight, one above the other. */
.matrix tfoot tr.items td,
.matrix tfoot tr.items th {
  bottom: 26px;
}
.nowrap {
  white-space: nowrap;
}
.sort {
  font: inherit;
  color: inherit;
  border: 0;
  background: none;
  padding: 0 2px;
  min-width: 24px;
  min-height: 28px;
  cursor: pointer;
}
th[aria-sort] .sort {
  color: var(--pine);
  text-decoration: underline;
  text-underline-offset: 3px;
}
.cell {
  width: 100%;
  height: 27px;
  border: 0;
  background: none;
  font: inherit;
  cursor: pointer;
  color: var(--ink-soft);
}
.r .cell {
  color: var(--pine);
}
.p .cell {
  color: var(--pine);
}
.w .cell {
  color: var(--ink);
}
</style>
