<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import Note from '@/parts/Note.vue'
import SidePanel from '@/parts/SidePanel.vue'
import Trouble from '@/parts/Trouble.vue'
import { kindNames, plural } from '@/contract/format'
import DrawAnswer from './DrawAnswer.vue'
import DrawRunning from './DrawRunning.vue'
import PoolLook from './PoolLook.vue'
import { readCells, blank } from '@/places/assessments/blueprint/blueprintCells'
import { useOpenSheet } from '@/places/assessments/sheet/open'
import { useDraw, type DrawQuestion } from './useDraw'
import { usePool } from './usePool'
import { useStandards } from '@/places/assessments/blueprint/useStandards'

/** Asks for a draw, shows what came of it, and places it. */
const props = defineProps<{ row?: number }>()
const emit = defineEmits<{ close: [] }>()
const { sheet, editable, placeDraw, error: sheetError } = useOpenSheet()
const { known } = useStandards(sheet)
const { draw, error, running, ask: begin, cancel } = useDraw(sheet)

const from = ref<'blueprint' | 'question'>(sheet.value.rows.length ? 'blueprint' : 'question')
const mode = ref<'best' | 'random'>('best')
const seed = ref(Math.floor(Math.random() * 100_000))
const keep = ref(true)
const forms = ref(1)
const common = ref(false)
const target = ref('')
const tolerance = ref('.02')
const passages = ref('')
const itemsMin = ref('')
const itemsMax = ref('')
const whole = ref(false)
const copies = ref(false)
const keySpread = ref('')
const notSince = ref('')

const total = ref(12)
const kinds = ref<{ kind: string; count: number }[]>([])
const standards = ref('')
const difficulty = ref('')
const depth = ref('')
const cells = computed(() =>
  readCells(
    { ...blank(), count: String(total.value), standards: standards.value, difficulty: difficulty.value, depth: depth.value },
    known,
  ),
)
const faults = computed(() => (from.value === 'question' ? Object.values(cells.value.faults) : []))

const number = (text: string) => (text.trim() === '' ? undefined : Number(text))
const thousandths = (text: string) => {
  const n = number(text)
  return n === undefined ? undefined : Math.round(n * 1000)
}

function question(): DrawQuestion {
  const q: DrawQuestion = {
    mode: mode.value,
    seed: seed.value,
    forms: from.value === 'blueprint' && !props.row ? forms.value : 1,
    keep: keep.value,
    row: from.value === 'blueprint' ? props.row : undefined,
    target: thousandths(target.value),
    tolerance: target.value ? thousandths(tolerance.value) : undefined,
    passages: number(passages.value),
    passageItemsMin: number(itemsMin.value),
    passageItemsMax: number(itemsMax.value),
    passageWhole: whole.value || undefined,
    copies: copies.value || undefined,
    keySpread: number(keySpread.value),
    notSince: notSince.value || undefined,
  }
  if (q.forms > 1) {
    q.keep = false
    if (common.value) q.anchors = sheet.value.lines.map((l) => l.itemId)
  }
  if (from.value === 'question') {
    const f = cells.value.row.filter
    q.simple = {
      total: total.value,
      kinds: kinds.value.filter((k) => k.count > 0),
      standards: f.standards,
      depth: f.depth,
      difficulty: f.difficulty,
      ease: f.ease,
    }
  }
  return q
}

/** What the draw on the screen was asked with: once the question differs, the draw no longer answers it. */
const asked = ref('')
const answers = computed(() => draw.value && asked.value === JSON.stringify(question()))
const found = computed(() => answers.value && !running.value && draw.value?.state === 'found')
function ask() {
  asked.value = JSON.stringify(question())
  sure.value = false
  return begin(question())
}
const another = () => {
  seed.value = Math.floor(Math.random() * 100_000)
  void ask()
}

const { pool, trouble } = usePool(
  computed(() => sheet.value.id),
  () => (faults.value.length || (from.value === 'question' && !(total.value >= 1)) ? undefined : question()),
)
function withCopies() {
  copies.value = true
  void ask()
}

/** How many lines placing takes out; the server knows which. */
const leaving = computed(() => draw.value?.leaving ?? 0)
const sure = ref(false)
async function place() {
  if (leaving.value && !sure.value) {
    sure.value = true
    return
  }
  if (await placeDraw(draw.value!.id)) emit('close')
}
const title = computed(() => (props.row ? `Draw for row ${props.row}` : 'Draw items'))
const fresh = computed(() => draw.value?.forms[0]?.items.filter((i) => !i.stays).length ?? 0)
</script>

<template>
  <SidePanel :title="title" width="max(520px, 44vw)" @close="emit('close')">
    <div v-if="!row" class="row choice" role="group" aria-label="What is drawn by">
      <Button
        label="By the blueprint"
        size="small"
        :outlined="from !== 'blueprint'"
        :aria-pressed="from === 'blueprint'"
        :disabled="!sheet.rows.length"
        @click="from = 'blueprint'"
      />
      <Button
        label="By a question"
        size="small"
        :outlined="from !== 'question'"
        :aria-pressed="from === 'question'"
        @click="from = 'question'"
      />
    </div>
    <form id="draw" @submit.prevent="ask()">
      <fieldset v-if="from === 'question'">
        <legend class="out-of-sight">The question</legend>
        <label class="line"
          ><input v-model.number="total" type="number" min="1" max="300" class="short" aria-label="How many items" /> items</label
        >
        <label class="stack"
          >Evenly over these standards <small class="soft">codes, each with all below it</small>
          <input v-model="standards" class="mono wide" list="known-standards" placeholder="M6.RR, M6.NS" autocomplete="off" />
        </label>
        <div v-for="(k, i) in kinds" :key="i" class="line">
          <input
            v-model.number="k.count"
            type="number"
            min="1"
            max="300"
            class="short"
            :aria-label="`How many of kind ${i + 1}`"
          />
          <select v-model="k.kind" :aria-label="`Kind ${i + 1}`">
            <option v-for="(name, code) in kindNames" :key="code" :value="code">{{ name }}</option>
          </select>
          <button type="button" class="link-button" :aria-label="`Remove kind ${i + 1}`" @click="kinds.splice(i, 1)">
            Remove
          </button>
        </div>
        <button type="button" class="link-button" @click="kinds.push({ kind: 'single-choice', count: 1 })">
          {{ kinds.length ? 'Add another kind' : 'Ask for kinds' }}
        </button>
        <div class="row pair">
          <label class="stack">Difficulty <input v-model="difficulty" placeholder="any, .4–.7, easy" /></label>
          <label class="stack">Depth <input v-model="depth" placeholder="any, 2–3" /></label>
        </div>
        <p v-for="f in faults" :key="f" class="brick">{{ f }}</p>
      </fieldset>
      <fieldset>
        <legend>How</legend>
        <div class="row">
          <label><input v-model="mode" type="radio" value="best" /> Best possible</label>
          <label><input v-model="mode" type="radio" value="random" /> At random</label>
          <label>Seed <input v-model.number="seed" type="number" min="0" max="2147483647" class="seed" /></label>
        </div>
        <label v-if="from === 'blueprint' && sheet.lines.length && forms === 1" class="line"
          ><input v-model="keep" type="checkbox" /> Keep the {{ plural(sheet.lines.length, 'line') }} already here</label
        >
      </fieldset>
      <details>
        <summary>Difficulty, passages, keys, forms</summary>
        <div class="grid">
          <label class="stack">Mean difficulty <input v-model="target" inputmode="decimal" placeholder="any" /></label>
          <label class="stack">Within ± <input v-model="tolerance" inputmode="decimal" :disabled="!target" /></label>
          <label class="stack">Passages at most <input v-model="passages" inputmode="numeric" placeholder="any" /></label>
          <label class="stack">Items of each, from <input v-model="itemsMin" inputmode="numeric" placeholder="1" /></label>
          <label class="stack">up to <input v-model="itemsMax" inputmode="numeric" placeholder="any" /></label>
          <label class="stack">Keys differ by at most <input v-model="keySpread" inputmode="numeric" placeholder="any" /></label>
          <label class="stack"
            >Not given to these grades since <input v-model="notSince" type="date" aria-label="Not given to these grades since"
          /></label>
          <label v-if="from === 'blueprint' && !row" class="stack"
            >Forms
            <select v-model.number="forms">
              <option v-for="n in 4" :key="n" :value="n">{{ n === 1 ? 'one' : `${n} twin forms` }}</option>
            </select>
          </label>
        </div>
        <label class="line"><input v-model="whole" type="checkbox" /> Bring every item of a passage</label>
        <label class="line"
          ><input v-model="copies" type="checkbox" /> Allow near copies: items that differ only in their numbers</label
        >
        <label v-if="from === 'blueprint' && forms > 1 && sheet.lines.length" class="line"
          ><input v-model="common" type="checkbox" /> Put the {{ plural(sheet.lines.length, 'line') }} already here in every
          form</label
        >
      </details>
    </form>
    <PoolLook v-if="!draw || !answers" :pool="pool" :trouble="trouble" />
    <Trouble :error="error ?? sheetError" />
    <DrawRunning v-if="running" :draw="draw" @cancel="cancel" />
    <DrawAnswer v-else-if="draw && answers" :draw="draw" @with-copies="withCopies" />
    <Note v-else-if="draw">The question has changed since the last draw. Draw again.</Note>
    <p v-if="found && sure && leaving" role="alert">
      Placing this takes out {{ plural(leaving, 'line') }} that {{ leaving === 1 ? 'stands' : 'stand' }} now. Undo brings
      {{ leaving === 1 ? 'it' : 'them' }} back.
    </p>
    <template #footer>
      <div class="row">
        <template v-if="found">
          <Button
            :label="sure && leaving ? `Replace ${plural(leaving, 'line')}` : `Place ${plural(fresh, 'item')}`"
            :disabled="!editable"
            @click="place"
          />
          <Button v-if="sure && leaving" label="Cancel" severity="secondary" outlined @click="sure = false" />
          <Button v-if="mode === 'random'" label="Draw others" severity="secondary" outlined @click="another" />
          <Button type="submit" form="draw" label="Draw again" severity="secondary" text />
        </template>
        <Button v-else type="submit" form="draw" label="Draw" :disabled="running || faults.length > 0" />
      </div>
    </template>
  </SidePanel>
</template>

<style scoped>
.choice {
  margin-bottom: 10px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0 0 12px;
}
legend {
  font-weight: 650;
  padding: 0;
  margin-bottom: 4px;
}
.line {
  display: flex;
  gap: 8px;
  align-items: center;
  margin: 6px 0;
}
.short {
  width: 64px;
  text-align: right;
}
.seed {
  width: 110px;
}
.wide {
  width: 100%;
}
.pair input {
  width: 150px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 4px 14px;
  margin-top: 8px;
}
.grid input,
.grid select {
  width: 100%;
}
input:not([type='checkbox'], [type='radio']) {
  height: 30px;
  padding: 0 8px;
  border: 1px solid var(--rule-strong);
  border-radius: 4px;
  background: var(--paper);
  color: inherit;
  font: inherit;
}
summary {
  cursor: pointer;
  padding: 4px 0;
  color: var(--slate);
}
details {
  margin-bottom: 12px;
}
@media (max-width: 860px) {
  .grid {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
