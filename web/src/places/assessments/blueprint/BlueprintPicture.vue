<script setup lang="ts">
import { computed } from 'vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import { picture } from './picture'
import type { Sheet } from '@/places/assessments/lines/lines'

/** Standards by depth of knowledge: what is planned as an outline, what is placed as a fill. */
const props = defineProps<{ sheet: Sheet }>()
const drawn = computed(() => picture(props.sheet))
const width = (n: number) => `${(100 * n) / Math.max(1, drawn.value.most)}%`
</script>

<template>
  <section aria-labelledby="picture">
    <h2 id="picture">Standards by depth</h2>
    <p class="soft">
      Outlined: planned, where a row names both. Filled: lines that stand. “Any” holds plans that name no depth and lines without
      one.
    </p>
    <LedgerTable label="Standards by depth of knowledge">
      <thead>
        <tr>
          <th>Standards</th>
          <th v-for="d in ['Depth 1', 'Depth 2', 'Depth 3', 'Depth 4', 'Any']" :key="d">{{ d }}</th>
          <th class="num double">Planned</th>
          <th class="num">Here</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in drawn.rows" :key="r.name">
          <td class="mono name">{{ r.name }}</td>
          <td v-for="(c, d) in r.cells" :key="d" class="bar">
            <template v-if="c.planned || c.placed">
              <span class="track" aria-hidden="true">
                <span v-if="c.planned" class="plan" :style="{ width: width(c.planned) }" /><span
                  class="fill"
                  :style="{ width: width(c.placed) }"
                />
              </span>
              <span class="figure"
                >{{ c.placed }}<template v-if="c.planned"> of {{ c.planned }}</template></span
              >
            </template>
          </td>
          <td class="num double">{{ r.planned || '' }}</td>
          <td class="num">{{ r.placed }}</td>
        </tr>
      </tbody>
    </LedgerTable>
  </section>
</template>

<style scoped>
section {
  margin-top: 26px;
  max-width: 900px;
}
p {
  margin: 4px 0 8px;
}
.name {
  white-space: nowrap;
}
.bar {
  width: 15%;
}
.track {
  position: relative;
  display: inline-block;
  width: calc(100% - 52px);
  height: 12px;
  vertical-align: middle;
}
.plan,
.fill {
  position: absolute;
  left: 0;
  height: 12px;
}
.plan {
  border: 1.5px solid var(--pine);
}
.fill {
  top: 3px;
  height: 6px;
  background: var(--pine);
}
.figure {
  margin-left: 6px;
  font-size: 12px;
}
</style>
