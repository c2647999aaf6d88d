<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Choose from '@/parts/Choose.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import type { Schemas } from '@/contract/client'
import { plural } from '@/contract/format'
import OutlookCells from './OutlookCells.vue'

/** What the cuts would mean for each school: the share of its students in a band or above, beside that of all. */
const props = defineProps<{
  schools: Schemas['Outlook'][]
  all: Schemas['Outlook']
  observed?: Schemas['Observed'][]
  /** The school that is opened, with its sections once they are known. */
  opened?: number
  sections?: Schemas['Forecast']
}>()
const emit = defineEmits<{ open: [school?: number] }>()

const names = computed(() => props.all.bands.map((b) => b.name))
const from = ref(0)
watch(names, (n) => (from.value = Math.min(Math.max(1, from.value || n.length - 2), n.length - 1)), { immediate: true })
const options = computed(() =>
  names.value.flatMap((name, i) => (i ? [{ value: i, label: i === names.value.length - 1 ? name : `${name} or above` }] : [])),
)
const share = (o: { bands: { share: number }[] }) => o.bands.slice(from.value).reduce((sum, b) => sum + b.share, 0)
const gotOf = (name: string, observed?: Schemas['Observed'][]) => {
  const o = observed?.find((x) => x.name === name)
  return o && share(o)
}
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
        <template v-for="s in schools" :key="s.id ?? s.name">
          <tr>
            <td class="cut" :title="s.name">
              <button
                v-if="s.id"
                type="button"
                class="link-button"
                :aria-expanded="opened === s.id"
                @click="emit('open', opened === s.id ? undefined : s.id)"
              >
                {{ s.name }}
              </button>
              <template v-else>{{ s.name }}</template>
            </td>
            <OutlookCells
              :expected="share(s)"
              :all="share(all)"
              :students="s.students"
              :observed="gotOf(s.name, observed)"
              :columns="!!observed"
            />
          </tr>
          <template v-if="s.id && opened === s.id && sections">
            <tr v-for="c in sections.schools" :key="c.id" class="section">
              <td class="cut" :title="c.name">{{ c.name }}</td>
              <OutlookCells
                :expected="share(c)"
                :all="share(all)"
                :students="c.students"
                :observed="gotOf(c.name, sections.observedSchools)"
                :columns="!!observed"
              />
            </tr>
            <tr v-if="sections.smallSchools || !sections.schools" class="section">
              <td :colspan="observed ? 5 : 4" class="soft">
                {{
                  sections.schools
                    ? `${plural(sections.smallSchools, 'section')} with fewer than ten students left out`
                    : sections.because
                }}
              </td>
            </tr>
          </template>
        </template>
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
.section td:first-child {
  padding-left: 22px;
}
</style>
