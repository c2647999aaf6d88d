<script setup lang="ts">
import { RouterLink } from 'vue-router'
import { plural } from '@/contract/format'
import { mends, type Gap, type Matrix } from './matrix'

/** What is not possible yet, by its letter, each with what would mend it; then people and paper as a balance. */
const props = defineProps<{ matrix: Matrix; assessment: number; letter?: string }>()
const emit = defineEmits<{
  letter: [letter?: string]
  allow: [gap: Gap]
  without: [gap: Gap]
  people: [key?: string]
  undo: [key: string]
}>()
type MendOf = Gap['mends'][number]
const link: Partial<Record<MendOf, string>> = { lines: 'lines', hours: 'settings?setting=hours', unlock: 'settings' }
const may = (m: MendOf) => (m === 'allow' || m === 'without' ? props.matrix.mayRule : true)
function act(m: MendOf, g: Gap) {
  if (m === 'allow') emit('allow', g)
  else if (m === 'without') emit('without', g)
  else if (m === 'name' || m === 'made') emit('people', g.key)
}
const acts = (m: MendOf) => ['allow', 'without', 'name', 'made'].includes(m)
const total = () => new Set(props.matrix.rows.filter((r) => r.cells.some((c) => c.letters.length)).map((r) => r.studentId)).size
</script>

<template>
  <h2>Not yet possible</h2>
  <p v-if="!matrix.gaps.length" class="soft">Everything that students have is possible.</p>
  <p v-else class="soft">The letter stands where it is missing.</p>
  <ol v-if="matrix.gaps.length">
    <li v-for="g in matrix.gaps" :key="g.letter">
      <button
        type="button"
        class="letter"
        :aria-pressed="g.letter === letter"
        :aria-label="`Show ${g.letter} in the table`"
        @click="emit('letter', g.letter === letter ? undefined : g.letter)"
      >
        {{ g.letter }}
      </button>
      <div>
        <strong>{{ g.title }}</strong>
        <span class="n">{{ g.students }}</span>
        <p class="soft">
          {{ g.detail }}<template v-if="g.sections > 1"> In {{ plural(g.sections, 'section') }}.</template>
        </p>
        <p class="mends">
          <template v-for="m in g.mends.filter(may)" :key="m">
            <RouterLink v-if="link[m]" :to="`/assessments/${assessment}/${link[m]}`">{{ mends[m] }}</RouterLink>
            <button v-else-if="acts(m)" type="button" class="link-button" @click="act(m, g)">{{ mends[m] }}</button>
          </template>
        </p>
      </div>
    </li>
  </ol>
  <p v-if="matrix.gaps.length" class="sum">
    <strong>{{ plural(matrix.gaps.length, 'gap') }}</strong>
    <span v-if="matrix.rows.length === matrix.found">{{ plural(total(), 'student') }}</span>
  </p>
  <template v-if="matrix.rulings.length">
    <h3>Decided</h3>
    <ul>
      <li v-for="r in matrix.rulings" :key="r.key">
        <strong>{{ r.name }}</strong>
        {{
          r.ruling === 'allow'
            ? 'is allowed. Results with it do not compare and are in no summary.'
            : 'is given without what it would break.'
        }}
        <span class="soft"
          >{{ r.by }}<template v-if="r.reason">: {{ r.reason }}</template></span
        >
        <button v-if="matrix.mayRule" type="button" class="link-button" @click="emit('undo', r.key)">Take it back</button>
      </li>
    </ul>
  </template>
  <template v-if="matrix.balance.length">
    <h3>People and paper</h3>
    <table class="ledger" aria-label="People and paper">
      <thead>
        <tr>
          <th scope="col">What</th>
          <th scope="col" class="num">Need</th>
          <th scope="col" class="num">Have</th>
          <th scope="col" class="num double">Balance</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="b in matrix.balance" :key="b.key">
          <td>
            <button type="button" class="link-button" @click="emit('people', b.key)">{{ b.name }}</button>
          </td>
          <td class="num">{{ b.need }}</td>
          <td class="num">{{ b.have }}</td>
          <td class="num double" :class="{ resin: b.have < b.need }">
            {{ b.have < b.need ? `short ${b.need - b.have}` : 'even' }}
          </td>
        </tr>
      </tbody>
    </table>
  </template>
  <template v-if="matrix.changing.length">
    <h3>Changes while it is open: {{ matrix.changes }}</h3>
    <ul>
      <li v-for="(c, i) in matrix.changing" :key="i">
        <strong>{{ c.student }}</strong>: {{ c.says }} {{ c.what === 'entered' ? 'was entered' : c.what }} on {{ c.day }}
      </li>
    </ul>
  </template>
</template>

<style scoped>
h2 {
  font: 650 1.15rem var(--serif);
  margin: 0 0 4px;
}
h3 {
  font: 650 1.02rem var(--serif);
  margin: 20px 0 6px;
}
ol,
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
ol > li {
  display: grid;
  grid-template-columns: 34px 1fr;
  padding: 8px 0;
  border-top: 1px solid var(--rule);
}
ul > li {
  padding: 6px 0;
  border-top: 1px solid var(--rule);
}
.letter {
  width: 26px;
  height: 26px;
  border: 1.5px dashed var(--resin);
  background: var(--paper);
  color: var(--resin);
  font-weight: 700;
  cursor: pointer;
}
.letter[aria-pressed='true'] {
  background: var(--resin-tint);
  border-style: solid;
}
.n {
  float: right;
  font-weight: 650;
  font-variant-numeric: tabular-nums;
}
p {
  margin: 2px 0 0;
}
.mends {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
.sum {
  display: flex;
  justify-content: space-between;
  border-top: 1px solid var(--ink);
  border-bottom: 3px double var(--ink);
  padding: 5px 0;
}
</style>
