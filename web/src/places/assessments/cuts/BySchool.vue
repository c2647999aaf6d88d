<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Choose from '@/parts/Choose.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Schemas } from '@/contract/client'

/** What the cuts would mean for each school: the share of its students in a band or above, beside that of all. */
const props = defineProps<{ schools: Schemas['Outlook'][]; all: Schemas['Outlook']; observed?: Schemas['Observed'][] }>()

const names = computed(() => props.all.bands.map((b) => b.name))
const from = ref(0)
watch(names, (n) => (from.value = Math.min(Math.max(1, from.value || n.length - 2), n.length - 1)), { immediate: true })
const options = computed(() =>
  names.value.flatMap((name, i) => (i ? [{ value: i, label: i === names.value.length - 1 ? name : `${name} or above` }] : [])),
)
const share = (o: { bands: { share: number }[] }) => o.bands.slice(from.value).reduce((sum, b) => sum + b.share, 0)
const got = (name: string) => props.observed?.find((o) => o.name === name)
const percent = (n: number) => `${Math.round(100 * n)}%`
</script>

<template>
  <aside aria-label="By school">
    <div class="top">
      <h2>By school</h2>
      <Choose v-model="from" :options="options" aria-label="Band" />
    </div>
    <LedgerTable label="Expected by school" banded>
      <thead>
        <tr>
          <th>School</th>
          <th class="num">n</th>
          <th colspan="2">{{ observed ? 'Expected' : 'Expected share' }}</th>
          <th v-if="observed" class="num">Observed</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in schools" :key="s.name">
          <td class="cut" :title="s.name">{{ s.name }}</td>
          <td class="num">{{ s.students.toLocaleString('en-US') }}</td>
          <td class="dots" aria-hidden="true">
            <span class="rail"
              ><i :style="{ left: percent(share(all)) }" /><b :style="{ left: percent(share(s)) }" /><u
                v-if="got(s.name)"
                :style="{ left: percent(share(got(s.name)!)) }"
            /></span>
          </td>
          <td class="num">{{ percent(share(s)) }}</td>
          <td v-if="observed" class="num">{{ got(s.name) ? percent(share(got(s.name)!)) : '–' }}</td>
        </tr>
      </tbody>
    </LedgerTable>
    <p v-if="observed" class="soft">Dots are expected, rings observed.</p>
    <p class="soft">
      The dashed line is all of them together, {{ percent(share(all)) }} of {{ all.students.toLocaleString('en-US') }}.
    </p>
  </aside>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
  margin-bottom: 6px;
}
h2 {
  margin: 0;
  font: 600 14px var(--sans);
}
.dots {
  min-width: 86px;
}
.rail {
  position: relative;
  display: block;
  height: 14px;
  background: linear-gradient(var(--rule), var(--rule)) center / 100% 2px no-repeat;
}
.rail i {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 1px dashed var(--ink-soft);
}
.rail u {
  position: absolute;
  top: 1px;
  width: 12px;
  height: 12px;
  margin-left: -6px;
  border: 2px solid var(--ink);
  border-radius: 50%;
}
.rail b {
  position: absolute;
  top: 2px;
  width: 10px;
  height: 10px;
  margin-left: -5px;
  border-radius: 50%;
  background: var(--pine);
}
</style>
