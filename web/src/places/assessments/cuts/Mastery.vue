<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import BandSwatch from '@/parts/BandSwatch.vue'
import Choose from '@/parts/Choose.vue'
import LedgerTable from '@/parts/LedgerTable.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { plural, runs } from '@/contract/format'
import { useOpenSheet } from '@/places/assessments/sheet/open'

/** What an assessment can tell standard by standard, and from how many points on. */
const props = defineProps<{ sets: Schemas['BandSet'][] }>()
const { sheet, editable, chooseMastery } = useOpenSheet()
const queries = useQueryClient()
const query = useQuery({
  queryKey: ['mastery', computed(() => sheet.value.id), computed(() => sheet.value.version)],
  queryFn: () => call(api.GET('/assessments/{id}/mastery', { params: { path: { id: sheet.value.id } } })),
})
const m = computed(() => query.data.value)
const options = computed(() => [
  { value: 0, label: 'not told' },
  ...props.sets
    .filter((s) => s.least && (!s.retired || s.id === m.value?.set?.id))
    .map((s) => ({ value: s.id, label: s.fits ? `${s.name} (${s.why})` : s.name })),
])
async function choose(id?: number) {
  await chooseMastery(id ?? 0)
  await queries.invalidateQueries({ queryKey: ['mastery', sheet.value.id] })
}
</script>

<template>
  <section aria-labelledby="mastery">
    <div class="top">
      <h2 id="mastery">Mastery by standard</h2>
      <Choose
        :model-value="m?.set?.id ?? 0"
        :options="options"
        aria-label="Set for mastery by standard"
        :disabled="!editable || options.length < 2"
        @update:model-value="choose"
      />
    </div>
    <Trouble :error="query.error.value" />
    <template v-if="m?.set">
      <p>
        <strong>{{ m.possible }} of {{ plural(m.standards.length, 'standard') }}</strong>
        {{ m.possible === 1 ? 'has' : 'have' }} {{ m.set.least }} points or more and can be told.
        <template v-if="m.newer"
          >{{ m.set.changedBy }} changed {{ m.set.name }}.
          <button v-if="editable" type="button" class="link-button" @click="choose(m.set.id)">
            Take the newer one
          </button></template
        >
      </p>
      <LedgerTable label="Mastery by standard" banded>
        <thead>
          <tr>
            <th>Standard</th>
            <th>Lines</th>
            <th class="num">Points</th>
            <th v-for="(b, i) in m.set.bands" :key="b.name" class="num" :class="{ double: !i }">
              <BandSwatch :at="i" :of="m.set.bands.length" />{{ b.name
              }}{{ b.cut.percent === undefined ? '' : `, ${b.cut.percent}%` }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in m.standards" :key="s.code">
            <td class="cut" :title="s.text">
              <span class="mono">{{ s.code }}</span> {{ s.text }}
            </td>
            <td class="nowrap">{{ runs(s.lines) }}</td>
            <td class="num" :class="{ resin: !s.cuts }">{{ s.points }}</td>
            <template v-if="s.cuts">
              <td v-for="(c, i) in s.cuts.starts" :key="c.name" class="num" :class="{ double: !i }">from {{ c.raw ?? '–' }}</td>
            </template>
            <td v-else :colspan="m.set.bands.length" class="double soft">too few points: nothing is told of it</td>
          </tr>
        </tbody>
      </LedgerTable>
    </template>
    <p v-else-if="m" class="soft">
      {{
        options.length > 1
          ? 'Choose a set to tell results standard by standard.'
          : 'Make a band set for mastery, standard by standard, under Bands to tell results that way.'
      }}
    </p>
  </section>
</template>

<style scoped>
.nowrap {
  white-space: nowrap;
}
section {
  margin-top: 22px;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  margin-bottom: 6px;
}
h2 {
  margin: 0;
  font: 600 14px var(--sans);
}
</style>
