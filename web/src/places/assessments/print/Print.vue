<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import SafeHtml from '@/parts/SafeHtml.vue'
import Trouble from '@/parts/Trouble.vue'
import { plural } from '@/contract/format'
import { api, call, type Schemas } from '@/contract/client'
import { download } from '@/contract/download'
import PrintedItem from './PrintedItem.vue'

/** A booklet and its key on paper, in several sizes. What is on screen is what the printer gets. */
const route = useRoute()
const id = Number(route.params.id)
/** Which attempt's draw is printed; undefined for all lines of every pool. */
const seed = ref<number>()
const printed = useQuery({
  queryKey: ['print', id, seed],
  queryFn: () => call(api.GET('/assessments/{id}/print', { params: { path: { id }, query: { seed: seed.value } } })),
  placeholderData: (before) => before,
})
const what = ref<'booklet' | 'key'>('booklet')
const sizes = [
  { points: 10, name: '10 point' },
  { points: 12, name: '12 point' },
  { points: 14, name: '14 point' },
  { points: 18, name: '18 point' },
  { points: 24, name: 'large print, 24 point' },
]
const size = ref(12)
const twoColumns = ref(false)
const columnsFit = computed(() => size.value <= 12)
const p = computed(() => printed.data.value)
const linesOf = (g: Schemas['PrintedGroup']) => g.lines.map((n) => ({ n, line: p.value!.lines[n - 1]! }))
const refused = computed(() => (p.value?.lines ?? []).map((l, i) => ({ l, n: i + 1 })).filter(({ l }) => l.refuse))
/** The same on pages for the print shop, as PDF. It is asked for here and not by a link, so that a refusal is read. */
const save = useMutation({
  mutationFn: () => {
    const columns = what.value === 'booklet' && twoColumns.value && columnsFit.value ? 2 : 1
    const query = { what: what.value, size: size.value, columns, seed: seed.value } as const
    return call(api.GET('/assessments/{id}/print.pdf', { params: { path: { id }, query }, parseAs: 'blob' }))
  },
  onSuccess: (file) => download(file as unknown as Blob, `${p.value!.title}, ${what.value}.pdf`),
})
function print() {
  window.print()
}
</script>

<template>
  <div class="sheet-of-paper">
    <header class="controls">
      <RouterLink :to="`/assessments/${id}/lines`">Back to the assessment</RouterLink>
      <label><input v-model="what" type="radio" value="booklet" /> Booklet</label>
      <label><input v-model="what" type="radio" value="key" /> Key</label>
      <label
        >Size
        <select v-model.number="size">
          <option v-for="s in sizes" :key="s.points" :value="s.points">{{ s.name }}</option>
        </select></label
      >
      <label v-if="what === 'booklet'" :title="columnsFit ? '' : 'Two columns fit up to 12 points.'"
        ><input v-model="twoColumns" type="checkbox" :disabled="!columnsFit" /> two columns</label
      >
      <label v-if="p?.layout.pools.length"
        >Lines
        <select v-model="seed">
          <option :value="undefined">all of every pool</option>
          <option v-for="n in 30" :key="n" :value="n">as drawn with seed {{ n }}</option>
        </select></label
      >
      <Button label="Print" :disabled="!p" @click="print" />
      <Button
        label="PDF for the print shop"
        severity="secondary"
        outlined
        :disabled="!p"
        :loading="save.isPending.value"
        @click="save.mutate()"
      />
    </header>
    <Trouble :error="printed.error.value ?? save.error.value" />
    <p v-if="refused.length" class="refused" role="alert">
      {{ plural(refused.length, 'line') }} may not be printed:
      <template v-for="{ l, n } in refused" :key="n">line {{ n }}, {{ l.identifier }}: {{ l.refuse }} </template>
    </p>
    <main v-if="p" class="paper" :style="{ fontSize: `${size}pt` }">
      <template v-if="what === 'booklet'">
        <h1>{{ p.title }}</h1>
        <p class="name">Name ______________________________ Class ______________ Date ______________</p>
        <SafeHtml v-if="p.instructions" :html="p.instructions" class="instructions" />
        <p v-if="p.document" class="instructions">The questions are in {{ p.document.name }}.</p>
        <div :class="{ columns: twoColumns && columnsFit }">
          <template v-for="(g, i) in p.groups" :key="i">
            <section v-if="g.part" class="part">
              <h2>Part {{ g.partNumber }}: {{ g.part.title }}</h2>
              <p>{{ g.part.calculator ? 'You may use a calculator.' : 'Do not use a calculator.' }}</p>
              <SafeHtml v-if="g.part.directions" :html="g.part.directions" />
            </section>
            <p v-if="g.pool" class="pool">Each student gets {{ g.pool.choose }} of these {{ g.pool.lines }} items.</p>
            <p v-if="g.passage && g.again" class="pool">These questions are about the passage “{{ g.passage.title }}” above.</p>
            <section v-else-if="g.passage" class="passage">
              <h2>{{ g.passage.title }}</h2>
              <SafeHtml :html="g.passage.body" :lang="g.passage.language" />
            </section>
            <section v-for="{ n, line } in linesOf(g)" :key="n" class="line">
              <b class="number">{{ n }}</b>
              <p v-if="line.refuse">This item is not printed.</p>
              <PrintedItem v-else :shown="line.shown" :directions="p.directions" />
              <span class="worth">{{ plural(line.points, 'point') }}</span>
            </section>
          </template>
        </div>
      </template>
      <template v-else>
        <h1>{{ p.title }}: key</h1>
        <p>
          Edition {{ p.edition }}, {{ p.state }} · {{ plural(p.lines.length, 'line') }}, {{ plural(p.total, 'point') }}. Not for
          students.
        </p>
        <table>
          <thead>
            <tr>
              <th>No.</th>
              <th>Key</th>
              <th>Points</th>
              <th>Credit</th>
              <th>Standards</th>
              <th>Item</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(l, i) in p.lines" :key="i">
              <td class="right">{{ i + 1 }}</td>
              <td>{{ l.refuse ? 'not printed' : l.key }}</td>
              <td class="right">{{ l.points }}</td>
              <td>{{ l.refuse ? '' : l.credit.replaceAll('-', ' ') }}</td>
              <td>{{ l.standards.join(', ') }}</td>
              <td>{{ l.identifier }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </main>
  </div>
</template>

<style scoped>
.sheet-of-paper {
  height: 100%;
  overflow: auto;
  background: var(--board);
}
.controls {
  position: sticky;
  top: 0;
  z-index: 2;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: center;
  padding: 10px 20px;
  background: var(--paper);
  border-bottom: 1px solid var(--rule);
}
.refused {
  margin: 12px auto;
  max-width: 7.5in;
  border-left: 3px solid var(--resin);
  background: var(--resin-tint);
  padding: 8px 12px;
}
.paper {
  width: min(7.5in, 100%);
  margin: 18px auto 40px;
  padding: 0.5in;
  background: #fff;
  color: #000;
  border: 1px solid var(--rule);
  font-family: var(--reading);
  line-height: 1.4;
}
h1 {
  font: 700 1.4em var(--reading);
  margin: 0 0 0.4em;
}
h2 {
  font: 700 1.15em var(--reading);
  margin: 0 0 0.4em;
}
.instructions {
  margin: 0.6em 0 1em;
}
.columns {
  columns: 2;
  column-gap: 0.4in;
}
.part {
  break-inside: avoid;
  break-after: avoid;
  border-top: 1.2pt solid #000;
  padding-top: 0.4em;
  margin: 1.2em 0 0.8em;
}
.part p {
  margin: 0 0 0.4em;
}
.pool {
  break-after: avoid;
  font-style: italic;
}
.passage {
  break-inside: auto;
  break-after: avoid;
  border-top: 0.7pt solid #000;
  padding-top: 0.5em;
  margin: 1em 0 0.6em;
}
.line {
  display: grid;
  grid-template-columns: 2em minmax(0, 1fr) auto;
  gap: 0.3em;
  break-inside: avoid;
  margin-bottom: 1.3em;
}
.worth {
  font-size: 0.75em;
  white-space: nowrap;
}
table {
  width: 100%;
  border-collapse: collapse;
}
thead {
  display: table-header-group;
}
tr {
  break-inside: avoid;
}
th,
td {
  text-align: left;
  padding: 0.15em 0.5em;
  border-bottom: 0.5pt solid #000;
}
.right {
  text-align: right;
}
@media print {
  .controls,
  .refused {
    display: none;
  }
  .sheet-of-paper {
    height: auto;
    overflow: visible;
    background: none;
  }
  .paper {
    width: auto;
    margin: 0;
    padding: 0;
    border: 0;
  }
}
</style>
