<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import PageHead from '@/parts/PageHead.vue'
import Trouble from '@/parts/Trouble.vue'
import { api, call } from '@/contract/client'
import { plural } from '@/contract/format'
import * as assessmentQueries from '@/queries/assess'
import type { Matrix, Row } from './matrix'

/** A page for the proctor of each section: who has what, until when, and who provides it. */
const route = useRoute()
const id = computed(() => Number(route.params.id))
const listed = useQuery(assessmentQueries.assessments())
const title = computed(() => listed.data.value?.find((a) => a.id === id.value)?.title ?? '')
const page = 500
const query = useQuery({
  queryKey: computed(() => ['room-sheets', id.value]),
  queryFn: async () => {
    const ask = (from: number) =>
      call(api.GET('/assessments/{id}/supports', { params: { path: { id: id.value }, query: { from, limit: page } } }))
    const first = await ask(0)
    const rows = [...first.rows]
    while (rows.length < first.found) {
      const more = await ask(rows.length)
      if (!more.rows.length) break
      rows.push(...more.rows)
    }
    return { ...first, rows } as Matrix
  },
  staleTime: 60_000,
})
const matrix = computed(() => query.data.value)
const rooms = computed(() => {
  const by = new Map<number, Row[]>()
  for (const row of matrix.value?.rows ?? []) by.set(row.sectionId, [...(by.get(row.sectionId) ?? []), row])
  return [...by.values()]
})
const name = (key: string) => matrix.value?.columns.find((c) => c.key === key)?.name ?? key
const by = (key: string) => matrix.value?.columns.find((c) => c.key === key)?.by
const needs = (row: Row) => matrix.value?.places.filter((p) => p.sectionId === row.sectionId) ?? []
const print = () => window.print()
</script>

<template>
  <div class="page">
    <PageHead class="screen" title="Room sheets" :note="`${title}. A page for each section; print them for the proctors.`">
      <Button label="Print" @click="print" />
      <RouterLink :to="`/assessments/${id}/supports`">Back to supports</RouterLink>
    </PageHead>
    <Trouble :error="query.error.value ?? undefined" />
    <article v-for="rows in rooms" :key="rows[0]!.sectionId">
      <h2>{{ rows[0]!.section }}, {{ rows[0]!.school }}</h2>
      <p>{{ title }} · {{ plural(rows.length, 'student') }} with supports</p>
      <table class="ledger" :aria-label="`Supports in ${rows[0]!.section}`">
        <thead>
          <tr>
            <th>Student</th>
            <th>By itself</th>
            <th>You see to it</th>
            <th class="num double">Minutes</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.studentId">
            <td>
              <strong>{{ row.name }}</strong> <span class="soft mono">{{ row.number }}</span>
            </td>
            <td>
              {{
                row.cells
                  .filter((c) => by(c.key) === 'program' && (!c.letters.length || c.still))
                  .map((c) => (c.words ? `${name(c.key)}: ${c.words}` : name(c.key)))
                  .join('; ')
              }}
            </td>
            <td>
              {{
                row.cells
                  .filter((c) => by(c.key) !== 'program')
                  .map((c) => (c.words ? `${name(c.key)}: ${c.words}` : name(c.key)))
                  .join('; ')
              }}
            </td>
            <td class="num double">{{ row.minutes || 'no limit' }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="p in needs(rows[0]!)" :key="p.key">
        {{ p.name }}, {{ p.need }}: <strong>{{ p.provider || '________________________' }}</strong>
      </p>
    </article>
  </div>
</template>

<style scoped>
.page {
  padding: 0 22px 40px;
  max-width: 1000px;
}
article {
  margin-bottom: 34px;
}
h2 {
  font: 650 1.15rem var(--serif);
  margin: 0;
}
p {
  margin: 4px 0;
}
td {
  padding-block: 4px;
}
@media print {
  .screen {
    display: none;
  }
  article {
    break-after: page;
  }
}
</style>
