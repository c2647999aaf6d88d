<script setup lang="ts">
import { IconArrowBackUp, IconArrowsShuffle, IconGripVertical, IconLock, IconPlus, IconSection } from '@tabler/icons-vue'
import Button from 'primevue/button'
import { computed, nextTick, ref, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { useLocalStorage } from '@vueuse/core'
import { useDraggable } from 'vue-draggable-plus'
import DifficultyBar from '@/parts/DifficultyBar.vue'
import Empty from '@/parts/Empty.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { isTyping, useScreenKeys } from '@/parts/keys'
import { kindName, moment, plural } from '@/contract/format'
import AddItems from './AddItems.vue'
import BalanceAside from './BalanceAside.vue'
import DrawPanel from '@/places/assessments/draw/DrawPanel.vue'
import LinePanel from './LinePanel.vue'
import MarkedLines from './MarkedLines.vue'
import PartHead from './PartHead.vue'
import PartsPanel from './PartsPanel.vue'
import PoolHead from './PoolHead.vue'
import SealDialog from './SealDialog.vue'
import { useMarked } from '@/places/bank/useMarked'
import { carried, carriesItems, placeAt } from './dragged'
import { useInHand } from './inHand'
import { entries, stepped, type Stand } from './layout'
import { inserted } from './lines'
import { movedSet, oneSet, steppedSet } from './sets'
import { useOpenSheet } from '@/places/assessments/sheet/open'

const { sheet, editable, kept, error, past, merged, arrange, changeLines, undo, newEdition, shelve } = useOpenSheet()
const { at: chosen, take } = useInHand(() => sheet.value.lines.map((l) => l.itemId))
const passages = computed(() => new Map(sheet.value.lines.map((l) => [l.itemId, l.passageId])))
const passageOf = (item: number) => passages.value.get(item) ?? 0
/** Where a line stands in the set of its passage: nothing for a line by itself. */
function inSet(at: number): 'first' | 'within' | 'last' | undefined {
  const above = oneSet(rows.value[at - 1], rows.value[at], passageOf)
  const below = oneSet(rows.value[at], rows.value[at + 1], passageOf)
  return above ? (below ? 'within' : 'last') : below ? 'first' : undefined
}
const adding = ref<{ at: number; standard?: string }>()
const looking = ref<number>()
const sealing = ref(false)
const parting = ref(false)
const marks = useMarked(() => sheet.value.lines.map((l) => l.itemId))
/** Marked lines that still stand. */
const marked = computed(() => marks.ids.value.filter((id) => sheet.value.lines.some((l) => l.itemId === id)))
const route = useRoute()
// Who starts an assessment from a draw comes here to ask for it.
const drawing = ref<{ row?: number } | undefined>(route.query.draw ? {} : undefined)
const body = ref<HTMLElement>()

const rows = ref([...sheet.value.lines])
const shown = computed(() => entries(rows.value, sheet.value.layout))
/** The part and pool in which a line that is dragged would stand. */
let landing: Stand | undefined
/** The balance folded away, so that the lines have the whole width. */
const folded = useLocalStorage('balance-folded', false)
/** What is odd about lines that just came. */
const said = ref('')
const columns = computed(() => (editable.value ? 8 : 6))
watch(
  () => sheet.value.lines,
  (now) => {
    const known = new Set(rows.value.map((l) => l.itemId))
    const odd = now.flatMap((l, i) => (known.has(l.itemId) ? [] : l.cautions.map((c) => `Line ${i + 1}: ${c}`)))
    said.value = odd.join(' ')
    rows.value = [...now]
  },
)
const drag = useDraggable(body, rows, {
  immediate: false,
  handle: '.grip',
  draggable: 'tr.line',
  animation: 100,
  get disabled() {
    return !editable.value
  },
  onStart: () => (landing = undefined),
  onChange: ({ item }) => (landing = standAt(item)),
  onEnd: ({ oldDraggableIndex: from, newDraggableIndex: to }) => {
    if (from !== undefined && to !== undefined && landing) void move(from, to, landing)
  },
})

/** Where a row that was just let down stands: with what is above it, in a pool only where the pool goes on below or begins above. */
function standAt(row: HTMLElement): Stand {
  const of = (e: Element | null) => {
    const { part, pool } = e instanceof HTMLElement ? e.dataset : {}
    return { part: Number(part ?? 0), pool: Number(pool ?? 0), head: e instanceof HTMLElement && e.dataset.head !== undefined }
  }
  const above = of(row.previousElementSibling)
  const below = of(row.nextElementSibling)
  const part = row.previousElementSibling ? above.part : Math.min(1, sheet.value.layout.parts.length)
  const inside = above.pool > 0 && (above.head || (below.pool === above.pool && !below.head))
  return { part, pool: inside ? above.pool : 0 }
}

// The rows' body stands only while there are lines.
watch(body, (now) => (now ? drag.start(now) : drag.destroy()))

async function move(from: number, to: number, stand: Stand) {
  const item = sheet.value.lines[from]!.itemId
  const went = await changeLines((l) =>
    movedSet(
      l,
      l.findIndex((x) => x.itemId === item),
      to,
      stand,
      passageOf,
    ),
  )
  if (went) await focusItem(item)
  // A set that came back to where it was has been dragged apart on the screen.
  rows.value = [...sheet.value.lines]
}
/** One step up or down by key: into and out of parts and pools as well. Shift takes the line out of its passage's set. */
async function step(by: 1 | -1, alone: boolean) {
  const item = sheet.value.lines[chosen.value]?.itemId
  if (item === undefined) return
  take(item)
  const went = await arrange((now) => {
    const at = now.lines.findIndex((l) => l.itemId === item)
    const next = alone ? stepped(now, at, by) : steppedSet(now, at, by, passageOf)
    return next ? { ...now, lines: next.lines } : now
  })
  if (went) await focusItem(item)
}
async function focusItem(item: number | undefined) {
  if (item === undefined) return
  take(item)
  await nextTick()
  body.value?.querySelectorAll<HTMLElement>('tr.line')[chosen.value]?.focus()
}
async function takeOff(i: number) {
  const item = sheet.value.lines[i]!.itemId
  await changeLines((l) => l.filter((line) => line.itemId !== item))
  await focusItem(sheet.value.lines[Math.min(i, sheet.value.lines.length - 1)]?.itemId)
}
/** Why points were refused, beside the line of the item. */
const refused = ref<{ item: number; why: string }>()
async function setPoints(item: number, field: HTMLInputElement) {
  const was = sheet.value.lines.find((l) => l.itemId === item)!.points
  const points = Number(field.value)
  refused.value = undefined
  if (points === was) return
  if (field.value === '' || !(points > 0 && points <= 100)) {
    refused.value = { item, why: `Points are more than 0 and at most 100. It is worth ${was} as before.` }
  } else if (!(await changeLines((l) => l.map((line) => (line.itemId === item ? { ...line, points } : line))))) {
    refused.value = { item, why: `${error.value?.message ?? 'Not saved.'} It is worth ${was} as before.` }
  }
  if (refused.value) field.value = String(was)
}
async function place(items: number[]) {
  const at = adding.value?.at ?? sheet.value.lines.length
  const ok = await changeLines((_, now) => inserted(now, items, at))
  if (ok && adding.value) adding.value.at = at + items.length
  return ok
}

/** Before which line dragged items would be placed. */
const dropAt = ref<number>()
function over(e: DragEvent) {
  if (!editable.value || !carriesItems(e)) return
  e.preventDefault()
  dropAt.value = placeAt(
    [...(body.value?.querySelectorAll('tr.line') ?? [])].map((r) => r.getBoundingClientRect()),
    e.clientY,
  )
}
async function dropped(e: DragEvent) {
  const at = dropAt.value
  dropAt.value = undefined
  const items = carried(e).filter((id) => !sheet.value.lines.some((l) => l.itemId === id))
  if (at === undefined || !items.length) return
  e.preventDefault()
  await changeLines((_, now) => inserted(now, items, at))
}

function pick(item: number, e: MouseEvent) {
  if (!editable.value) return
  e.stopPropagation()
  marks.mark(item, e.shiftKey)
}
function onKey(e: KeyboardEvent) {
  if (isTyping(e) || !editable.value) return
  const i = chosen.value
  if (e.altKey && e.key === 'ArrowUp') void step(-1, e.shiftKey)
  else if (e.altKey && e.key === 'ArrowDown') void step(1, e.shiftKey)
  else if (e.key === 'Delete' && sheet.value.lines.length) void takeOff(i)
  else if (e.key === 'm' && sheet.value.lines[i]) marks.mark(sheet.value.lines[i].itemId)
  else if (e.key === 'i') adding.value = { at: i }
  else if ((e.ctrlKey || e.metaKey) && e.key === 'z') undo()
  else return
  e.preventDefault()
}
useScreenKeys([
  ['Alt ↑ ↓', 'move the line, with the whole set of its passage, also into and out of parts and pools'],
  ['Alt Shift ↑ ↓', 'move the line by itself, out of its passage’s set'],
  ['m', 'mark the line, for one act on several'],
  ['i', 'insert before the line'],
  ['Delete', 'remove the line'],
  ['Ctrl Z', 'undo'],
])

const mean = computed(() => {
  const known = sheet.value.lines.map((l) => l.difficulty).filter((d) => d !== undefined)
  return known.length ? Math.round(known.reduce((a, b) => a + b, 0) / known.length) : undefined
})
function openRow(i: number) {
  if (editable.value) adding.value = { at: sheet.value.lines.length, standard: sheet.value.rows[i]?.filter.standards?.[0] }
}
</script>

<template>
  <div class="lines" :class="{ folded }" @keydown="onKey">
    <section class="entries" @dragover="over" @dragleave="dropAt = undefined" @drop="dropped">
      <PageHead title="Lines">
        <template #note
          >{{ kept
          }}<template v-if="sheet.fingerprint">
            · sealed {{ moment(sheet.sealedAt!) }} ·
            <span class="mono" :title="sheet.fingerprint">{{ sheet.fingerprint.slice(0, 12) }}</span></template
          ></template
        >
        <RouterLink v-if="sheet.lines.length" :to="`/assessments/${sheet.id}/try`">Try it</RouterLink>
        <RouterLink v-if="sheet.lines.length && sheet.mayPrint" :to="`/assessments/${sheet.id}/print`">Print</RouterLink>
        <RouterLink v-if="sheet.document" :to="`/assessments/${sheet.id}/key`">Document and key</RouterLink>
        <template v-if="editable">
          <Button label="Undo" severity="secondary" outlined :disabled="!past.length" @click="undo"
            ><template #icon><IconArrowBackUp :size="16" aria-hidden="true" /></template
          ></Button>
          <Button label="Parts" severity="secondary" outlined @click="parting = true"
            ><template #icon><IconSection :size="16" aria-hidden="true" /></template
          ></Button>
          <Button label="Draw" severity="secondary" outlined @click="drawing = {}"
            ><template #icon><IconArrowsShuffle :size="16" aria-hidden="true" /></template
          ></Button>
          <Button label="Seal" severity="secondary" outlined @click="sealing = true"
            ><template #icon><IconLock :size="16" aria-hidden="true" /></template
          ></Button>
          <Button label="Add items" @click="adding = { at: sheet.lines.length }"
            ><template #icon><IconPlus :size="16" aria-hidden="true" /></template
          ></Button>
        </template>
        <Button
          v-else-if="sheet.mayChange && sheet.state === 'shelved'"
          label="Bring it back"
          severity="secondary"
          outlined
          @click="shelve(false)"
        />
        <Button v-else-if="sheet.mayChange" label="Begin a new edition" severity="secondary" outlined @click="newEdition()" />
        <RouterLink v-if="!editable && sheet.maySend && sheet.state !== 'shelved'" :to="`/assessments/${sheet.id}/distribution`"
          >Distribute it</RouterLink
        >
      </PageHead>
      <Trouble :error="error" />
      <p v-if="merged || said" role="status" class="resin">{{ merged || said }}</p>
      <Empty
        v-if="!sheet.lines.length"
        text="Lines are the items in the order in which students get them, each with its points. Add items from your tray or by searching the bank."
      />
      <MarkedLines
        v-if="editable && marked.length"
        :items="marked"
        :lines="sheet.lines.length"
        :arrange="arrange"
        @clear="marks.clear()"
      />
      <LedgerTable v-if="sheet.lines.length" label="Lines" banded>
        <thead>
          <tr>
            <th v-if="editable"><span class="out-of-sight">Drag</span></th>
            <th class="num">#</th>
            <th>Item</th>
            <th>Standard, kind</th>
            <th>Difficulty</th>
            <th class="num">Points</th>
            <th class="num double">Row</th>
            <th v-if="editable"><span class="out-of-sight">Remove</span></th>
          </tr>
        </thead>
        <tbody ref="body">
          <template v-for="e in shown" :key="e.is === 'line' ? rows[e.at]!.itemId : e.key">
            <PartHead v-if="e.is === 'part'" :number="e.number" :sheet="sheet" :columns="columns" @open="parting = true" />
            <PoolHead v-else-if="e.is === 'pool'" :number="e.number" :sheet="sheet" :columns="columns" @open="parting = true" />
            <tr
              v-for="{ l, i } in e.is === 'line' ? [{ l: rows[e.at]!, i: e.at }] : []"
              :key="l.itemId"
              class="line"
              :data-part="l.part"
              :data-pool="l.pool"
              :tabindex="i === chosen ? 0 : -1"
              :aria-selected="i === chosen"
              :class="[
                inSet(i) && `set ${inSet(i)}`,
                { pooled: l.pool, before: dropAt === i, after: dropAt === rows.length && i === rows.length - 1 },
              ]"
              @focus="take(l.itemId)"
              @click="(take(l.itemId), (looking = l.itemId))"
            >
              <td v-if="editable" class="grip" aria-hidden="true" @click.stop><IconGripVertical :size="15" /></td>
              <td class="num soft pick" @click="pick(l.itemId, $event)">
                <input
                  v-if="editable"
                  type="checkbox"
                  tabindex="-1"
                  :checked="marks.marked.value.has(l.itemId)"
                  :aria-label="`Mark line ${i + 1}`"
                  @click.prevent
                />{{ i + 1 }}
              </td>
              <td class="stem" :title="l.stem">
                <small v-if="l.passageId && inSet(i) !== 'within' && inSet(i) !== 'last'" class="soft">{{ l.passage }}</small>
                <span class="two">
                  <span v-if="l.unconfirmed" class="mark resin">confirm alignment</span>
                  <span v-else-if="l.own" class="mark">own copy</span>
                  <span v-if="l.newestVersion > l.version" class="mark resin">newer version</span>{{ l.stem }}
                </span>
                <small v-if="l.withheld" class="soft">without {{ l.withheld.map((w) => w.name.toLowerCase()).join(', ') }}</small>
                <small v-for="c in l.cautions" :key="c" class="resin">{{ c }}</small>
                <small v-if="refused?.item === l.itemId" class="brick" role="alert">{{ refused.why }}</small>
              </td>
              <td class="nowrap">
                <span class="mono">{{ l.standards[0] }}</span>
                <small class="kind">{{ kindName(l.kind) }}</small>
              </td>
              <td class="nowrap"><DifficultyBar :value="l.difficulty" /></td>
              <td class="num">
                <input
                  v-if="editable"
                  type="number"
                  class="points"
                  :value="l.points"
                  min="0.25"
                  max="100"
                  step="0.25"
                  :aria-label="`Points of line ${i + 1}`"
                  @click.stop
                  @change="setPoints(l.itemId, $event.target as HTMLInputElement)"
                />
                <template v-else>{{ l.points }}</template>
              </td>
              <td class="num double">{{ l.row >= 0 ? l.row + 1 : '' }}</td>
              <td v-if="editable" class="num">
                <button
                  type="button"
                  class="off"
                  tabindex="-1"
                  :aria-label="`Remove line ${i + 1}`"
                  title="Remove"
                  @click.stop="takeOff(i)"
                >
                  ×
                </button>
              </td>
            </tr>
          </template>
        </tbody>
        <tfoot>
          <tr>
            <td v-if="editable" />
            <td />
            <th>
              {{ plural(sheet.lines.length, 'line')
              }}<template v-if="sheet.each < sheet.lines.length">, {{ sheet.each }} for each student</template>
            </th>
            <td />
            <td><DifficultyBar :value="mean" /></td>
            <td class="num">{{ sheet.total }}</td>
            <td class="double" />
            <td v-if="editable" />
          </tr>
        </tfoot>
      </LedgerTable>
    </section>
    <BalanceAside v-model:folded="folded" :sheet="sheet" :editable="editable" @draw="drawing = { row: $event }" @fit="openRow" />
    <AddItems
      v-if="adding"
      :at="adding.at"
      :standard="adding.standard"
      :sheet="sheet"
      :place="place"
      @close="adding = undefined"
    />
    <DrawPanel v-else-if="drawing" :row="drawing.row" @close="drawing = undefined" />
    <LinePanel v-else-if="looking" :item="looking" @close="looking = undefined" @swapped="looking = $event" />
    <PartsPanel v-if="parting" :at="chosen + 1" @close="parting = false" />
    <SealDialog v-if="sealing" @close="sealing = false" />
  </div>
</template>

<style scoped>
.lines {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  min-height: 0;
}
.entries {
  padding: 14px 16px 40px 18px;
  overflow: auto;
}
.lines.folded {
  grid-template-columns: minmax(0, 1fr) 44px;
}
.stem {
  width: 100%;
  white-space: normal;
}
.kind {
  display: block;
  color: var(--ink-soft);
}
.stem small {
  display: block;
  line-height: 1.3;
}
.two {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
  line-height: 1.35;
}
/* The set of a passage: a bracket beside its numbers. */
tr.set .pick {
  box-shadow: inset 2px 0 0 var(--slate);
}
tr.set.first .pick {
  background: linear-gradient(var(--slate), var(--slate)) left top / 7px 2px no-repeat;
}
tr.set.last .pick {
  background: linear-gradient(var(--slate), var(--slate)) left bottom / 7px 2px no-repeat;
}
.nowrap {
  white-space: nowrap;
}
.mark {
  margin-right: 8px;
  padding: 0 5px;
  font-size: 11.5px;
  border: 1px solid currentColor;
  border-radius: 3px;
  background: var(--paper); /* it is read on the tint of a selected line, too */
}
tr.before td {
  box-shadow: inset 0 2px 0 var(--pine);
}
tr.after td {
  box-shadow: inset 0 -2px 0 var(--pine);
}
tr.pooled td:first-child {
  box-shadow: inset 3px 0 0 var(--slate);
}
.pick input {
  margin: 0 6px 0 0;
  vertical-align: -2px;
  opacity: 0;
}
tr:hover .pick input,
tr:focus .pick input,
.pick input:checked {
  opacity: 1;
}
.grip {
  width: 22px;
  padding: 0 2px;
  color: var(--rule-strong);
  cursor: grab;
}
.points {
  width: 58px;
  height: 26px;
  text-align: right;
  border: 1px solid transparent;
  background: none;
  color: inherit;
}
.points:hover,
.points:focus {
  border-color: var(--rule-strong);
  background: var(--paper);
}
@media (max-width: 860px) {
  .lines,
  .lines.folded {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
