<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import Choose from '@/parts/Choose.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call, type Schemas } from '@/contract/client'
import { gradeName } from '@/contract/format'
import { useOpenSheet } from '@/places/assessments/sheet/open'

/** By which table raw scores become scores of another scale. Only tables that hold every score of this form are offered. */
const { sheet, editable, chooseConversion } = useOpenSheet()
const query = useQuery({
  queryKey: ['conversions', computed(() => sheet.value.id), computed(() => sheet.value.version)],
  queryFn: () => call(api.GET('/assessments/{id}/conversion', { params: { path: { id: sheet.value.id } } })),
})
const name = (t: Schemas['OfficialTable']) => [t.test, `grade ${gradeName(t.grade)}`, t.year].filter(Boolean).join(', ')
const options = computed(() => [
  { value: 0, label: 'no other scale' },
  ...(query.data.value ?? []).map((c) => ({ value: c.table.id, label: name(c.table) })),
])
const chosen = computed(() => query.data.value?.find((c) => c.chosen)?.table)
</script>

<template>
  <section v-if="options.length > 1" aria-labelledby="scale">
    <h2 id="scale">
      Scale scores
      <RouterLink v-if="chosen" class="soft" :to="`/bands/official/${chosen.id}`">by this table</RouterLink>
    </h2>
    <Choose
      :model-value="chosen?.id ?? 0"
      :options="options"
      aria-label="Table of scale scores"
      :disabled="!editable"
      @update:model-value="(id?: number) => chooseConversion(id ?? 0)"
    />
    <Trouble :error="query.error.value" />
  </section>
</template>

<style scoped>
section {
  margin-top: 18px;
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
}
h2 {
  margin: 0;
  font: 600 14px var(--sans);
}
h2 .soft {
  font-weight: 400;
  margin-left: 8px;
}
</style>
