<script setup lang="ts">
import { computed, ref } from 'vue'
import DifficultyBar from '@/parts/DifficultyBar.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Note from '@/parts/Note.vue'
import { kindName, plural, pValue } from '@/contract/format'
import PoolCount from './PoolCount.vue'
import type { Draw } from './useDraw'
import { planned, rowName } from './rows'

/** What came of a draw: a summary before anything is placed, or exactly what is short. */
const props = defineProps<{ draw: Draw }>()
defineEmits<{ withCopies: [] }>()

const form = ref(0)
const shown = computed(() => props.draw.forms[form.value])
const names = (rows: number[]) => rows.map((r) => `row ${r + 1} (${rowName(props.draw.rows[r]!)})`).join(', ')
const drawnFor = (row: number) => shown.value?.items.filter((i) => i.row === row).length ?? 0
const short = computed(() => props.draw.shortage.filter((x) => x.have < x.need))
const judged = computed(() => props.draw.question.target !== undefined || props.draw.forms.length > 1)
const kinds = computed(() => shown.value?.kinds.map((k) => `${kindName(k.kind)} ${k.count}`).join(', '))
/** Whether rows are short because near copies come once. */
const copied = computed(() => props.draw.apart < props.draw.pool && !props.draw.question.copies)
const fresh = computed(() => shown.value?.items.filter((i) => !i.stays).length ?? 0)
const seconds = computed(() =>
  props.draw.millis < 10 ? 'under 0.01' : (props.draw.millis / 1000).toFixed(props.draw.millis < 1000 ? 2 : 1),
)
</script>

<template>
  <section :aria-label="draw.state === 'found' ? 'What was drawn' : 'What is short'" aria-live="polite">
    <template v-if="draw.state === 'found' && draw.aims">
      <p v-if="draw.bound">
        <strong>{{
          draw.proven
            ? judged && draw.unknown
              ? 'Proven as far as difficulties are known.'
              : 'Proven: there is no better draw.'
            : 'The best found in the time.'
        }}</strong>
        {{ plural(draw.pool, 'item') }} fit, {{ seconds }} s.
      </p>
      <p v-else>
        <strong>Drawn at random</strong> with seed {{ draw.question.seed }}: the same seed draws the same items.
        {{ plural(draw.pool, 'item') }} fit.
      </p>
      <p>Kinds: {{ kinds }}. <template v-if="fresh">New lines are worth 1 point each.</template></p>
      <Note v-if="judged && draw.unknown"
        >{{ plural(draw.unknown, 'item') }} {{ draw.unknown === 1 ? 'has' : 'have' }} no difficulty yet.
        <template v-if="draw.estimate !== undefined"
          >{{ pValue(draw.estimate) }}, the mean of the items that fit, stands for
          {{ draw.unknown === 1 ? 'it' : 'them' }}.</template
        ><template v-else>None that fits has one, so that nothing can be said of how hard the forms are.</template></Note
      >
      <LedgerTable label="How good the draw is">
        <thead>
          <tr>
            <th>Aim</th>
            <th class="num">Reached</th>
            <th v-if="draw.bound" class="num double">At best</th>
          </tr>
        </thead>
        <tbody>
          <tr v-if="draw.question.target !== undefined">
            <td>Difficulties outside {{ pValue(draw.question.target) }} ± {{ pValue(draw.question.tolerance ?? 0) }}, summed</td>
            <td class="num">{{ (draw.aims.difficulty / 1000).toFixed(3) }}</td>
            <td v-if="draw.bound" class="num double">{{ (draw.bound.difficulty / 1000).toFixed(3) }}</td>
          </tr>
          <tr v-if="draw.forms.length > 1">
            <td>Expected scores of the forms differ by</td>
            <td class="num">{{ (draw.aims.spread / 1000).toFixed(3) }}</td>
            <td v-if="draw.bound" class="num double">{{ (draw.bound.spread / 1000).toFixed(3) }}</td>
          </tr>
          <tr>
            <td>Times these items were used before</td>
            <td class="num">{{ draw.aims.uses }}</td>
            <td v-if="draw.bound" class="num double">{{ draw.bound.uses }}</td>
          </tr>
        </tbody>
      </LedgerTable>
      <Note v-for="u in draw.uneven" :key="u.standard"
        ><span class="mono">{{ u.standard }}</span> has {{ u.have }} that fit, not {{ u.even }}; its rest went to the
        others.</Note
      >
      <div v-if="draw.forms.length > 1" class="row forms" role="group" aria-label="Forms">
        <button
          v-for="(f, i) in draw.forms"
          :key="i"
          type="button"
          class="link-button"
          :aria-pressed="i === form"
          @click="form = i"
        >
          Form {{ 'ABCD'[i] }}: {{ plural(f.items.length, 'item') }}, mean {{ pValue(f.mean) }}
        </button>
      </div>
      <LedgerTable label="Rows and how they were filled" banded>
        <thead>
          <tr>
            <th class="num">#</th>
            <th>Row</th>
            <th class="num">Pool</th>
            <th class="num">Plan</th>
            <th class="num double">Drawn</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in draw.rows" :key="i">
            <td class="num soft">{{ i + 1 }}</td>
            <td class="cut" :title="rowName(r)">{{ rowName(r) }}</td>
            <td class="num"><PoolCount :row="r" /></td>
            <td class="num">{{ planned(r) }}</td>
            <td class="num double">{{ drawnFor(i) }}</td>
          </tr>
        </tbody>
      </LedgerTable>
      <LedgerTable label="Items drawn" banded>
        <thead>
          <tr>
            <th>Item</th>
            <th>Standard</th>
            <th>Kind</th>
            <th>Difficulty</th>
            <th class="num double">Row</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="i in shown?.items" :key="i.itemId">
            <td class="cut" :title="i.stem"><span v-if="i.stays" class="soft">stays · </span>{{ i.stem }}</td>
            <td class="mono nowrap">{{ i.standards[0] }}</td>
            <td class="nowrap">{{ kindName(i.kind) }}</td>
            <td class="nowrap"><DifficultyBar :value="i.difficulty" /></td>
            <td class="num double">{{ i.row + 1 }}</td>
          </tr>
        </tbody>
      </LedgerTable>
    </template>
    <template v-else-if="draw.state === 'short'">
      <p><strong class="resin">This cannot be met.</strong> {{ draw.because }}</p>
      <div v-for="(s, i) in short" :key="i" class="short">
        <p>
          {{ names(s.rows) }} {{ s.rows.length > 1 ? 'need together' : 'needs' }} <strong>{{ s.need }}</strong>; there
          {{ s.have === 1 ? 'is' : 'are' }} <strong>{{ s.have }}</strong>.
        </p>
        <p v-if="s.contested.length" class="soft">
          More than one row wants <span class="mono">{{ s.contested.join(', ') }}</span>.
        </p>
      </div>
      <p v-if="copied">
        Near copies, which differ in their numbers alone, come once to a form: {{ plural(draw.pool, 'item') }} fit,
        {{ draw.apart }} apart from such copies.
        <button type="button" class="link-button" @click="$emit('withCopies')">Draw with near copies</button>
      </p>
      <p v-if="short.length === 1" class="soft">
        Ask for less in one of these rows, widen it, or import more items.
        <template v-if="short[0]!.rows.length > 1">With any one of them left out the others can be met.</template>
      </p>
      <p v-else-if="short.length" class="soft">
        Each of these has to be mended: ask for less in one of its rows, widen it, or import more items.
      </p>
    </template>
    <p v-else-if="draw.state === 'stopped'">Stopped; nothing was drawn.</p>
    <p v-else class="brick">{{ draw.message }}</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 12px;
}
p {
  margin: 0;
}
.short {
  border-left: 3px solid var(--resin);
  padding: 4px 12px;
}
.nowrap {
  white-space: nowrap;
}
.forms [aria-pressed='true'] {
  font-weight: 650;
}
</style>
