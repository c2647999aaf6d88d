<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import Empty from '@/parts/Empty.vue'
import Note from '@/parts/Note.vue'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import * as assessmentQueries from '@/queries/assess'
import { cautionText } from '@/places/bands/cautions'
import type { Schemas } from '@/contract/client'
import CutsTable from './CutsTable.vue'
import { useOpenSheet } from '@/places/assessments/sheet/open'

const { sheet, editable, kept, error, chooseBands } = useOpenSheet()
const sets = useQuery(assessmentQueries.bandSets)
/** Sets for this subject and grade come first: they are the district's proposal. */
const offered = computed(() => {
  const { subject, grades, year } = sheet.value.outline
  const fits = (s: Schemas['BandSet']) =>
    s.subject === subject && (!s.grades.length || s.grades.some((g) => grades.includes(g))) && (!s.year || s.year === year)
  return [...(sets.data.value ?? [])]
    .sort((a, b) => Number(fits(b)) - Number(fits(a)))
    .map((s) => ({ value: s.id, label: fits(s) ? `${s.name} (for this subject, grade and year)` : s.name }))
})
</script>

<template>
  <div class="page">
    <PageHead title="Cuts" :note="kept">
      <Choose
        :model-value="sheet.bandSet?.id"
        :options="offered"
        placeholder="Choose a band set"
        aria-label="Band set"
        :disabled="!editable"
        @update:model-value="(id?: number) => id && chooseBands(id)"
      />
    </PageHead>
    <Trouble :error="error" />
    <Empty v-if="!sheet.bandSet" text="A band set says where each performance band begins. Choose one, or make one under Bands.">
      <RouterLink to="/bands">To the band sets</RouterLink>
    </Empty>
    <template v-else>
      <p>
        <strong>{{ sheet.bandSet.name }}</strong>
        <span class="soft">
          · {{ sheet.bandSet.rule === 'nearest' ? 'the nearest score' : 'the smallest score that is at least the percent' }}</span
        >
        · <RouterLink :to="{ path: '/bands', query: { set: sheet.bandSet.id } }">open the band set</RouterLink>
      </p>
      <Empty v-if="sheet.cutsFault" :text="`The cuts cannot be shown yet. ${sheet.cutsFault}`" />
      <template v-if="sheet.cuts">
        <CutsTable :bands="sheet.bandSet.bands" :cuts="sheet.cuts" />
        <Note v-for="(c, i) in sheet.cuts.cautions" :key="i">
          <strong class="resin">{{ c.bands.join(' and ') }}.</strong> {{ cautionText(c, sheet.cuts) }}
        </Note>
        <p class="soft">Scores on this form move in steps of {{ sheet.cuts.grain }}. A cut belongs to the band that it begins.</p>
      </template>
    </template>
  </div>
</template>

<style scoped>
.page {
  padding: 16px 22px 40px;
  overflow: auto;
  max-width: 1000px;
}
</style>
